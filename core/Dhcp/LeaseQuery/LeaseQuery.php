<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\LeaseQuery;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\OptionBytes;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

/**
 * A question about leases, or one answer to it: the message of RFC 2131 with the fields that RFC 4388 and RFC 6926 fill. What is asked
 * for goes by one of them: an address (ciaddr), a hardware address (chaddr), a client identifier (option 61), or, in bulk, by nothing,
 * which is all leases. Fields that are not asked by are zero, the kind and length of the hardware address among them.
 */
final readonly class LeaseQuery
{
    /** Options of RFC 6926 §6.2. */
    public const STATUS = 151;

    public const BASE_TIME = 152;

    public const STATE_SINCE = 153;

    public const QUERY_START = 154;

    public const QUERY_END = 155;

    public const STATE = 156;

    /** Seconds since the client was last heard (RFC 4388 §6.1). */
    public const LAST_TRANSACTION = 91;

    public const ASSOCIATED = 92;

    /** What is asked for of each lease: its time, the client's name and identifier, when it was heard, its state. */
    private const WANTED = "\x0c\x33\x3d\x5b\x5c\x98\x99\x9c";

    /** The longest message that a length of two bytes can say (RFC 6926 §6.1). */
    public const LONGEST = 65535;

    /** @param  array<int, string>  $options  code → payload, without the message type */
    private function __construct(
        public MessageType $type,
        public int $xid,
        public Address $address,
        public ?MacAddress $mac,
        public Address $relay,
        public array $options,
    ) {
    }

    /** All leases of a server, for a connection of TCP; those whose state changed since then where a time is given (RFC 6926 §6.2.5). */
    public static function ofAll(int $xid, ?int $since = null): self
    {
        return self::question(MessageType::BulkLeaseQuery, $xid, null, null, '', null, $since);
    }

    /** One datagram (RFC 4388 §6.2): the relay is where the answer goes. */
    public static function of(int $xid, Address|MacAddress|string $what, Address $relay): self
    {
        return self::question(
            MessageType::LeaseQuery, $xid, $what instanceof Address ? $what : null, $what instanceof MacAddress ? $what : null,
            is_string($what) ? $what : '', $relay, null,
        );
    }

    private static function question(
        MessageType $type,
        int $xid,
        ?Address $address,
        ?MacAddress $mac,
        string $client,
        ?Address $relay,
        ?int $since,
    ): self {
        $options = [OptionTable::PARAMETERS => self::WANTED];
        $options += $client === '' ? [] : [OptionTable::CLIENT_ID => $client];
        $options += $since === null ? [] : [self::QUERY_START => pack('N', $since)];
        $none = Address::parse('0.0.0.0');

        return new self($type, $xid, $address ?? $none, $mac, $relay ?? $none, $options);
    }

    /**
     * What a server answers of one lease.
     *
     * @param  ?LeaseState  $state  null: of an address that nobody has, or had
     * @param  int  $now  the server's clock, seconds since 1970
     * @param  list<Address>  $also  further addresses of the same client (RFC 4388 §6.4.2)
     */
    public function answered(
        MessageType $type,
        ?Address $address,
        ?MacAddress $mac,
        string $client,
        string $name,
        ?LeaseState $state,
        int $starts,
        int $ends,
        int $now,
        array $also = [],
    ): self {
        $time = static fn (int $seconds): string => pack('N', max(0, min(0xFFFFFFFF, $seconds)));
        $options = [self::BASE_TIME => $time($now)];
        $options += $client === '' ? [] : [OptionTable::CLIENT_ID => $client];
        $options += $name === '' ? [] : [OptionTable::HOST_NAME => substr($name, 0, 255)];
        if ($state !== null) {
            $since = $time($now - $starts);
            $options += [self::STATE => chr($state->value), self::STATE_SINCE => $since, self::LAST_TRANSACTION => $since];
        }
        $options += $type === MessageType::LeaseActive ? [OptionTable::LEASE_TIME => $time($ends - $now)] : [];
        $options += $also === [] ? [] : [self::ASSOCIATED => implode('', array_map(static fn (Address $a): string => $a->bytes, $also))];

        return new self($type, $this->xid, $address ?? Address::parse('0.0.0.0'), $mac, $this->relay, $options);
    }

    /** The last message of a bulk answer. */
    public function done(QueryStatus $status, string $words = ''): self
    {
        $options = $status === QueryStatus::Success ? [] : [self::STATUS => chr($status->value).$words];

        return new self(MessageType::LeaseQueryDone, $this->xid, Address::parse('0.0.0.0'), null, $this->relay, $options);
    }

    public function status(): QueryStatus
    {
        $payload = $this->options[self::STATUS] ?? "\0";

        return QueryStatus::tryFrom(ord($payload[0])) ?? QueryStatus::UnspecifiedFailure;
    }

    /** A time of so many seconds, or null where the server does not say it. */
    public function seconds(int $code): ?int
    {
        $payload = $this->options[$code] ?? '';

        return strlen($payload) === 4 ? (new ByteReader($payload))->uint32() : null;
    }

    public function client(): string
    {
        return $this->options[OptionTable::CLIENT_ID] ?? '';
    }

    /** Since when a change is asked for (RFC 6926 §6.2.5); null: all of them. */
    public function since(): ?int
    {
        return $this->seconds(self::QUERY_START);
    }

    /**
     * The lease as it is listed; times that the server reckons from its own clock are told by it (RFC 6926 §6.2.3).
     *
     * @param  int  $now  our clock, for a server that says no time of its own
     * @return ?array{address: string, mac: string, client: string, name: string, state: string, starts: int, ends: int} null: it tells of
     *     no lease
     */
    public function lease(int $now): ?array
    {
        $tells = in_array($this->type, [MessageType::LeaseActive, MessageType::LeaseUnassigned], true);
        if (! $tells || (string) $this->address === '0.0.0.0') {
            return null;
        }
        $payload = $this->options[self::STATE] ?? '';
        $state = strlen($payload) === 1 ? LeaseState::tryFrom(ord($payload)) : null;
        $state ??= $this->type === MessageType::LeaseActive ? LeaseState::Active : LeaseState::Available;
        if ($state === LeaseState::Available) {
            return null;
        }
        $base = $this->seconds(self::BASE_TIME) ?? $now;
        $starts = $base - ($this->seconds(self::STATE_SINCE) ?? $this->seconds(self::LAST_TRANSACTION) ?? 0);
        $left = $this->seconds(OptionTable::LEASE_TIME);

        return [
            'address' => (string) $this->address, 'mac' => (string) $this->mac, 'client' => bin2hex($this->client()),
            'name' => $this->options[OptionTable::HOST_NAME] ?? '', 'state' => $state->word(), 'starts' => $starts,
            'ends' => $left === null ? $starts : ($left === 0xFFFFFFFF ? 0x7FFFFFFF : $base + $left),
        ];
    }

    /** @throws MalformedBytes with the offset */
    public static function fromWire(string $bytes): self
    {
        $reader = new ByteReader($bytes);
        $reader->uint8();
        $hardware = $reader->uint8();
        $length = $reader->uint8();
        $reader->uint8();
        $xid = $reader->uint32();
        $reader->take(4);
        $address = Address::fromBytes($reader->take(4));
        $reader->take(8);
        $relay = Address::fromBytes($reader->take(4));
        $mac = $reader->take(16);
        $reader->take(192);
        if ($reader->take(4) !== OptionBytes::COOKIE) {
            throw MalformedBytes::at(236, 'the cookie of DHCP');
        }
        $options = OptionBytes::read($reader);
        $type = MessageType::tryFrom(ord(($options[OptionTable::MESSAGE_TYPE] ?? '')."\0"));
        if ($type === null || $type->value < MessageType::LeaseQuery->value) {
            throw MalformedBytes::at(240, 'a message about leases (RFC 4388, RFC 6926)');
        }
        unset($options[OptionTable::MESSAGE_TYPE]);

        return new self(
            $type, $xid, $address, $hardware === 1 && $length === 6 ? MacAddress::fromBytes(substr($mac, 0, 6)) : null, $relay, $options,
        );
    }

    public function wire(): string
    {
        $asks = in_array($this->type, [MessageType::LeaseQuery, MessageType::BulkLeaseQuery], true);
        $bytes = pack('C4Nnn', $asks ? 1 : 2, $this->mac === null ? 0 : 1, $this->mac === null ? 0 : 6, 0, $this->xid, 0, 0)
            .$this->address->bytes.str_repeat("\0", 8).$this->relay->bytes
            .str_pad($this->mac === null ? '' : $this->mac->bytes, 16, "\0").str_repeat("\0", 192).OptionBytes::COOKIE;

        return $bytes.OptionBytes::write([OptionTable::MESSAGE_TYPE => chr($this->type->value)] + $this->options);
    }

    /** Over TCP each message has its length in front (RFC 6926 §6.1). */
    public function framed(): string
    {
        $wire = $this->wire();

        return pack('n', strlen($wire)).$wire;
    }
}
