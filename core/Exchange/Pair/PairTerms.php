<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

use HarborPost\Core\Net\Address;

/** What two servers agreed on: who answers which clients, whose addresses are whose, and how far a lease may run ahead of the other. */
final readonly class PairTerms
{
    /**
     * @param  int<0, 256>  $clients  buckets of clients that the first server answers while both hear each other (RFC 3074)
     * @param  int<0, 256>  $addresses  buckets of addresses that are the first server's to give
     * @param  int  $lead  seconds that a lease may run ahead of what the partner knows: the maximum client lead time (RFC 8156 §4.4)
     * @param  int  $skew  seconds that the two clocks may differ
     * @param  int  $startup  seconds that a server waits for its partner when it starts
     */
    private function __construct(
        public int $clients,
        public int $addresses,
        public int $lead,
        public int $skew,
        public int $startup,
    ) {
    }

    /** Both answer: the first one $percent of the clients, and the same part of the addresses is its own. */
    public static function balanced(int $percent, int $lead, int $skew = 5, int $startup = 10): self
    {
        $buckets = self::buckets($percent);

        return new self($buckets, $buckets, $lead, $skew, $startup);
    }

    /** The first one answers everybody; $reserve per cent of the addresses are kept for the second one, for when the first is lost. */
    public static function standby(int $reserve, int $lead, int $skew = 5, int $startup = 10): self
    {
        return new self(LoadBalance::BUCKETS, LoadBalance::BUCKETS - self::buckets($reserve), $lead, $skew, $startup);
    }

    /** @return array{clients: int, addresses: int, lead: int, skew: int, startup: int} */
    public function toArray(): array
    {
        return [
            'clients' => $this->clients,
            'addresses' => $this->addresses,
            'lead' => $this->lead,
            'skew' => $this->skew,
            'startup' => $this->startup,
        ];
    }

    /** @param  array<mixed>  $row */
    public static function fromArray(array $row): ?self
    {
        $number = static fn (string $key): ?int => is_int($row[$key] ?? null) && $row[$key] >= 0 ? $row[$key] : null;
        [$clients, $addresses, $lead] = [$number('clients'), $number('addresses'), $number('lead')];

        return $clients === null || $addresses === null || $lead === null
            ? null
            : new self(min(256, $clients), min(256, $addresses), $lead, $number('skew') ?? 5, $number('startup') ?? 10);
    }

    /** Who answers the client while both hear each other. */
    public function answers(string $key): Side
    {
        return LoadBalance::bucket($key) < $this->clients ? Side::First : Side::Second;
    }

    /** Whose the address is to give to a client that does not have it yet. */
    public function owner(Address $address): Side
    {
        return LoadBalance::bucket($address->bytes) < $this->addresses ? Side::First : Side::Second;
    }

    /** @return int<0, 256> */
    private static function buckets(int $percent): int
    {
        return max(0, min(LoadBalance::BUCKETS, (int) round(LoadBalance::BUCKETS * $percent / 100)));
    }
}
