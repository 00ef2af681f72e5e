<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V4;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

/**
 * A DHCPv4 message (RFC 2131 §2). Options are code → payload in sending order; one longer than 255 bytes is cut into several
 * when written and joined when read (RFC 3396), also from the file and sname fields (option 52).
 */
final readonly class Packet
{
    /** What a client must be able to take (RFC 2131 §2) less IP and UDP headers, and so the least we pad to (RFC 1542 §2.1). */
    private const LEAST = 300;

    /** @param  array<int, string>  $options */
    public function __construct(
        /** 1 from a client, 2 from a server */
        public int $op,
        public int $xid,
        public MacAddress $hardware,
        public array $options,
        public Address $clientAddress,
        public Address $yourAddress,
        public Address $serverAddress,
        public Address $relayAddress,
        public int $seconds = 0,
        public bool $broadcast = false,
        public int $hops = 0,
    ) {
    }

    /** @param  array<int, string>  $options  without the message type */
    public static function fromClient(
        MessageType $type,
        int $xid,
        MacAddress $hardware,
        array $options = [],
        ?Address $relay = null,
        ?Address $client = null,
    ): self {
        $none = Address::parse('0.0.0.0');

        return new self(
            1,
            $xid,
            $hardware,
            [OptionTable::MESSAGE_TYPE => chr($type->value)] + $options,
            $client ?? $none,
            $none,
            $none,
            $relay ?? $none,
            hops: $relay === null ? 0 : 1,
        );
    }

    /** The same message of a client that has been asking for so many seconds (RFC 2131 §2, secs). */
    public function askingFor(int $seconds): self
    {
        return new self(
            $this->op,
            $this->xid,
            $this->hardware,
            $this->options,
            $this->clientAddress,
            $this->yourAddress,
            $this->serverAddress,
            $this->relayAddress,
            $seconds,
            $this->broadcast,
            $this->hops,
        );
    }

    /** @param  array<int, string>  $options  without the message type */
    public function reply(MessageType $type, Address $yourAddress, array $options): self
    {
        $none = Address::parse('0.0.0.0');

        return new self(
            2, $this->xid, $this->hardware, [OptionTable::MESSAGE_TYPE => chr($type->value)] + $options,
            $type === MessageType::Nak ? $none : $this->clientAddress, $yourAddress, $none, $this->relayAddress, 0, $this->broadcast,
        );
    }

    public function type(): ?MessageType
    {
        $payload = $this->options[OptionTable::MESSAGE_TYPE] ?? '';

        return strlen($payload) === 1 ? MessageType::tryFrom(ord($payload)) : null;
    }

    /** An address option of exactly four bytes, null otherwise. */
    public function address(int $code): ?Address
    {
        $payload = $this->options[$code] ?? '';

        return strlen($payload) === 4 ? Address::fromBytes($payload) : null;
    }

    /** The client identifier, or hardware type and address where there is none (RFC 2131 §2). */
    public function clientKey(): string
    {
        return $this->options[OptionTable::CLIENT_ID] ?? "\1".$this->hardware->bytes;
    }

    /** @throws MalformedBytes with the offset */
    public static function fromWire(string $bytes): self
    {
        $reader = new ByteReader($bytes);
        $op = $reader->uint8();
        $type = $reader->uint8();
        $length = $reader->uint8();
        if ($type !== 1 || $length !== 6) {
            throw MalformedBytes::at(1, 'Ethernet hardware with an address of 6 bytes');
        }
        $hops = $reader->uint8();
        $xid = $reader->uint32();
        $seconds = $reader->uint16();
        $flags = $reader->uint16();
        $addresses = array_map(static fn (): Address => Address::fromBytes($reader->take(4)), [0, 1, 2, 3]);
        $hardware = MacAddress::fromBytes($reader->take(6));
        $reader->take(10);
        $sname = $reader->take(64);
        $file = $reader->take(128);
        if ($reader->take(4) !== OptionBytes::COOKIE) {
            throw MalformedBytes::at($reader->position() - 4, 'the DHCP magic cookie 63 82 53 63');
        }
        $options = OptionBytes::read($reader);
        $overload = ord($options[OptionTable::OVERLOAD] ?? "\0");
        $options = ($overload & 1) === 1 ? OptionBytes::read(new ByteReader($file), $options) : $options;
        $options = ($overload & 2) === 2 ? OptionBytes::read(new ByteReader($sname), $options) : $options;
        unset($options[OptionTable::OVERLOAD]);

        return new self(
            $op,
            $xid,
            $hardware,
            $options,
            $addresses[0],
            $addresses[1],
            $addresses[2],
            $addresses[3],
            $seconds,
            ($flags & 0x8000) !== 0,
            $hops,
        );
    }

    public function wire(): string
    {
        $bytes = pack('C4Nnn', $this->op, 1, 6, $this->hops, $this->xid, $this->seconds, $this->broadcast ? 0x8000 : 0)
            .$this->clientAddress->bytes.$this->yourAddress->bytes.$this->serverAddress->bytes.$this->relayAddress->bytes
            .str_pad($this->hardware->bytes, 16, "\0").str_repeat("\0", 192).OptionBytes::COOKIE;

        return str_pad($bytes.OptionBytes::write($this->options), self::LEAST, "\0");
    }
}
