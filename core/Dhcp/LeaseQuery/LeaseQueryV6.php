<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\LeaseQuery;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;

/**
 * A question about leases of IPv6: of one by a datagram (RFC 5007), of all on a link over TCP (RFC 5460). What is told of a client is an
 * option of its own with its identifier, what it has, and when it was heard.
 *
 * @phpstan-type Told array{address: string, length: int, client: string, mac: string, state: string, starts: int, ends: int,
 *     preferred: int}
 */
final readonly class LeaseQueryV6
{
    public const QUERY = 44;

    public const CLIENT_DATA = 45;

    /** Seconds since the client was last heard (RFC 5007 §4.1.2.3). */
    public const LAST_HEARD = 46;

    /** Links on which a client has something, of a question by client (RFC 5007 §4.1.2.5). */
    public const CLIENT_LINKS = 48;

    private function __construct(public QueryKind $kind, public Address $link, public OptionList $options)
    {
    }

    /** All leases on the link that holds the address (RFC 5460 §5.5.4). */
    public static function ofLink(int $transaction, Duid $self, Address $link): Message
    {
        return self::question($transaction, $self, QueryKind::Link, $link, new OptionList);
    }

    /** Who has the address, or a prefix that begins there (RFC 5007 §4.1.2.1). */
    public static function ofAddress(int $transaction, Duid $self, Address $address): Message
    {
        $option = [Code::IA_ADDRESS, $address->bytes.pack('NN', 0, 0)];

        return self::question($transaction, $self, QueryKind::Address, self::anyLink(), new OptionList([$option]));
    }

    /** What a client has on any link. */
    public static function ofClient(int $transaction, Duid $self, Duid $client): Message
    {
        return self::question(
            $transaction, $self, QueryKind::Client, self::anyLink(), new OptionList([[Code::CLIENT_ID, $client->bytes]]),
        );
    }

    private static function anyLink(): Address
    {
        return Address::parse('::');
    }

    private static function question(int $transaction, Duid $self, QueryKind $kind, Address $link, OptionList $options): Message
    {
        return new Message(MessageType::LeaseQuery, $transaction, new OptionList([
            [Code::CLIENT_ID, $self->bytes], [self::QUERY, chr($kind->value).$link->bytes.$options->wire()],
        ]));
    }

    /** What is asked, as a server reads it; the status that it answers where it cannot be told. */
    public static function read(Message $message): self|StatusCode
    {
        $payload = $message->options->first(self::QUERY) ?? '';
        try {
            $reader = new ByteReader($payload);
            $kind = QueryKind::tryFrom($reader->uint8());
            if ($kind === null) {
                return StatusCode::UnknownQueryType;
            }
            $query = new self($kind, Address::fromBytes($reader->take(16)), OptionList::fromWire($reader));
        } catch (MalformedBytes) {
            return StatusCode::MalformedQuery;
        }

        return match (true) {
            $message->client() === null, $kind === QueryKind::Address && $query->address() === null,
            $kind === QueryKind::Client && $query->client() === null => StatusCode::MalformedQuery,
            default => $query,
        };
    }

    /** The address that is asked about. */
    public function address(): ?Address
    {
        $payload = $this->options->first(Code::IA_ADDRESS) ?? '';

        return strlen($payload) >= 24 ? Address::fromBytes(substr($payload, 0, 16)) : null;
    }

    /** The client that is asked about. */
    public function client(): ?Duid
    {
        return Duid::tryFrom($this->options->first(Code::CLIENT_ID) ?? '');
    }

    public function isOfAnyLink(): bool
    {
        return trim($this->link->bytes, "\0") === '';
    }

    /**
     * What one client has on one link, as a server tells it, with what is left of its times.
     *
     * @param  non-empty-list<array{address: string, length: int, client: string, starts: int, ends: int, preferred: int, ...}>  $leases
     * @param  int  $now  seconds since 1970
     */
    public static function data(array $leases, int $now): string
    {
        $left = static fn (int $until): int => $until >= 0x7FFFFFFF ? 0xFFFFFFFF : max(0, min(0xFFFFFFFE, $until - $now));
        $options = [[Code::CLIENT_ID, Duid::parse($leases[0]['client'])->bytes]];
        foreach ($leases as $lease) {
            $bytes = Address::parse($lease['address'])->bytes;
            $times = pack('NN', $left($lease['preferred']), $left($lease['ends']));
            $options[] = $lease['length'] === 128 ? [Code::IA_ADDRESS, $bytes.$times]
                : [Code::IA_PREFIX, $times.chr($lease['length']).$bytes];
        }
        $options[] = [self::LAST_HEARD, pack('N', max(0, min(0xFFFFFFFF, $now - max(array_column($leases, 'starts')))))];

        return (new OptionList($options))->wire();
    }

    /**
     * What a message tells: of each client what it has.
     *
     * @param  int  $now  our clock: times are what is left of them
     * @return list<Told>
     *
     * @throws MalformedBytes
     */
    public static function told(Message $message, int $now): array
    {
        $leases = [];
        foreach ($message->options->each(self::CLIENT_DATA) as $payload) {
            $options = OptionList::fromWire(new ByteReader($payload));
            $client = Duid::tryFrom($options->first(Code::CLIENT_ID) ?? '');
            $heard = (string) $options->first(self::LAST_HEARD);
            if ($client === null || strlen($heard) !== 4) {
                throw MalformedBytes::at(0, 'a client identifier and when the client was heard (RFC 5007 §4.1.2.2)');
            }
            foreach ($options->all as [$code, $part]) {
                $net = self::net($code, $part);
                if ($net === null) {
                    continue;
                }
                [$address, $length, $preferred, $valid] = $net;
                $until = static fn (int $left): int => $left === 0xFFFFFFFF ? 0x7FFFFFFF : $now + $left;
                $leases[] = [
                    'address' => (string) $address, 'length' => $length, 'client' => (string) $client, 'mac' => (string) $client->mac(),
                    'state' => $valid > 0 ? 'active' : 'expired', 'starts' => $now - (new ByteReader($heard))->uint32(),
                    'ends' => $until($valid), 'preferred' => $until($preferred),
                ];
            }
        }

        return $leases;
    }

    /**
     * @return ?array{Address, int, int, int} address, length, preferred and valid seconds; null for another option
     *
     * @throws MalformedBytes
     */
    private static function net(int $code, string $payload): ?array
    {
        $reader = new ByteReader($payload);
        if ($code === Code::IA_ADDRESS) {
            return [Address::fromBytes($reader->take(16)), 128, $reader->uint32(), $reader->uint32()];
        }
        if ($code !== Code::IA_PREFIX) {
            return null;
        }
        [$preferred, $valid, $length] = [$reader->uint32(), $reader->uint32(), $reader->uint8()];
        $length >= 1 && $length <= 128 || throw MalformedBytes::at(8, 'a length from 1 to 128');

        return [Address::fromBytes($reader->take(16)), $length, $preferred, $valid];
    }

    /** Over TCP each message has its length in front (RFC 5460 §5.1). */
    public static function framed(Message $message): string
    {
        $wire = $message->wire();

        return pack('n', strlen($wire)).$wire;
    }
}
