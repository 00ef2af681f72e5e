<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;

/** A message between a client and a server (RFC 8415 §8). */
final readonly class Message
{
    /** @param  int  $transaction  24 bits */
    public function __construct(public MessageType $type, public int $transaction, public OptionList $options)
    {
    }

    /** @throws MalformedBytes with the offset */
    public static function fromWire(string $bytes): self
    {
        $reader = new ByteReader($bytes);
        $type = MessageType::tryFrom($reader->uint8());
        if ($type === null || $type === MessageType::RelayForward || $type === MessageType::RelayReply) {
            throw MalformedBytes::at(0, 'a message type from 1 to 11, or 14 to 17');
        }
        $transaction = $reader->uint8() << 16 | $reader->uint16();

        return new self($type, $transaction, OptionList::fromWire($reader));
    }

    public function wire(): string
    {
        return chr($this->type->value).substr(pack('N', $this->transaction), 1).$this->options->wire();
    }

    public function client(): ?Duid
    {
        return Duid::tryFrom($this->options->first(Code::CLIENT_ID) ?? '');
    }

    public function server(): ?Duid
    {
        return Duid::tryFrom($this->options->first(Code::SERVER_ID) ?? '');
    }

    /**
     * What the client wants leased: addresses and prefixes. Temporary addresses stand among them, since they have to be answered too.
     *
     * @return list<Association>
     *
     * @throws MalformedBytes
     */
    public function associations(): array
    {
        $all = [];
        foreach ($this->options->all as [$code, $payload]) {
            $kind = AssociationKind::tryFrom($code);
            if ($kind !== null) {
                $all[] = Association::fromWire($kind, $payload);
            }
        }

        return $all;
    }

    /** @return list<int>|null codes that the client asks for; null: it does not say */
    public function asked(): ?array
    {
        $payload = $this->options->first(Code::REQUESTED);
        if ($payload === null || strlen($payload) % 2 !== 0) {
            return null;
        }

        return array_map(
            static fn (string $two): int => (ord($two[0]) << 8) + ord($two[1]),
            $payload === '' ? [] : str_split($payload, 2),
        );
    }

    /** Why a server must not answer it (RFC 8415 §16); null when it may. */
    public function fault(?Duid $self = null): ?string
    {
        $names = $this->type->namesServer();

        return match (true) {
            $this->type->needsClient() && $this->client() === null => 'it names no client',
            $names === true && $this->server() === null => 'it names no server',
            $names === false && $this->options->has(Code::SERVER_ID) => 'it names a server, which this message must not',
            $self !== null && $this->server() !== null && ! $self->equals($this->server()) => 'it is for another server',
            default => null,
        };
    }
}
