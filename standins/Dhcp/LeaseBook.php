<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Standins\Journal;

/** Leases by address, kept over a restart. Client keys are hexadecimal. Times are seconds since 1970. */
final class LeaseBook
{
    /** Given by the partner of a pair, and held for its client here. */
    public const HELD = 'held';

    /**
     * @var array<string, array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int,
     *     scope: string}>
     */
    private array $leases = [];

    /** @var list<string>|null bytes of all addresses in order; null when one came since */
    private ?array $order = null;

    /** @var array<string, string> client and scope → address */
    private array $byClient = [];

    public function __construct(private readonly Journal $journal, private readonly ChangeOrder $changes = new ChangeOrder)
    {
        foreach ($journal->entries() as $entry) {
            $this->keep($entry);
        }
        $journal->rewrite(array_values($this->leases));
    }

    /**
     * @return array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}|null
     */
    public function at(string $address): ?array
    {
        return $this->leases[$address] ?? null;
    }

    /**
     * @return array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}|null
     */
    public function ofClient(string $client, string $scope): ?array
    {
        return $this->leases[$this->byClient["$client $scope"] ?? ''] ?? null;
    }

    /** May the client have the address now? */
    public function isFree(string $address, string $client, int $now): bool
    {
        $lease = $this->leases[$address] ?? null;

        return $lease === null || $lease['client'] === $client && $lease['state'] !== 'declined' || $lease['ends'] <= $now;
    }

    public function write(
        string $address,
        string $client,
        string $mac,
        string $name,
        string $state,
        int $starts,
        int $ends,
        string $scope,
    ): void {
        $lease = compact('address', 'client', 'mac', 'name', 'state', 'starts', 'ends', 'scope');
        $this->keep($lease);
        $this->changes->note((string) $lease['address']);
        $this->journal->append($lease);
    }

    /**
     * In the order of addresses, so that a reader goes on behind the last one it saw, whatever is written meanwhile.
     *
     * @return list<array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}>
     */
    public function page(string $after, int $limit): array
    {
        if ($this->order === null) {
            $this->order = array_map(static fn (int|string $a): string => (string) inet_pton((string) $a), array_keys($this->leases));
            sort($this->order, SORT_STRING);
        }
        $from = $after === '' ? 0 : self::behind($this->order, (string) inet_pton($after));

        $page = [];
        for ($i = $from, $end = count($this->order); $i < $end && count($page) < $limit; $i++) {
            $lease = $this->leases[(string) inet_ntop($this->order[$i])];
            // What a partner gave is the partner's to tell.
            if ($lease['state'] !== self::HELD) {
                $page[] = $lease;
            }
        }

        return $page;
    }

    /**
     * @return list<array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}>
     */
    public function ofScope(string $scope): array
    {
        return array_values(array_filter($this->leases, static fn (array $l): bool => $l['scope'] === $scope));
    }

    /**
     * What a client has or had, by its identifier or its hardware address; what a partner gave is the partner's to tell.
     *
     * @return list<array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}>
     */
    public function where(?string $client, ?string $mac): array
    {
        return array_values(array_filter($this->leases, static fn (array $l): bool => $l['state'] !== self::HELD
            && ($client === null || $l['client'] === $client) && ($mac === null || $l['mac'] === $mac)));
    }

    /** @param  list<string>  $order */
    private static function behind(array $order, string $address): int
    {
        for ($low = 0, $high = count($order); $low < $high;) {
            $middle = intdiv($low + $high, 2);
            strcmp($order[$middle], $address) <= 0 ? $low = $middle + 1 : $high = $middle;
        }

        return $low;
    }

    public function count(): int
    {
        return count($this->leases);
    }

    /** @param  array<mixed>  $entry */
    private function keep(array $entry): void
    {
        $text = static fn (string $key): string => is_string($entry[$key] ?? null) ? $entry[$key] : '';
        $number = static fn (string $key): int => is_int($entry[$key] ?? null) ? $entry[$key] : 0;
        $lease = [
            'address' => $text('address'), 'client' => $text('client'), 'mac' => $text('mac'), 'name' => $text('name'),
            'state' => $text('state'),
            'starts' => $number('starts'), 'ends' => $number('ends'), 'scope' => $text('scope'),
        ];
        if (inet_pton($lease['address']) === false) {
            return;
        }
        $this->order = isset($this->leases[$lease['address']]) ? $this->order : null;
        $this->leases[$lease['address']] = $lease;
        // What ended of a client does not hide what it has elsewhere by now.
        $key = "{$lease['client']} {$lease['scope']}";
        if (! isset($this->byClient[$key]) || in_array($lease['state'], ['active', 'offered', self::HELD], true)) {
            $this->byClient[$key] = $lease['address'];
        }
    }
}
