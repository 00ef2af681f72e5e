<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Standins\Journal;

/** Leases by address, kept over a restart. Client keys are hexadecimal. Times are seconds since 1970. */
final class LeaseBook
{
    /** @var array<string, array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}> */
    private array $leases = [];

    /** @var array<string, string> client and scope → address */
    private array $byClient = [];

    public function __construct(private readonly Journal $journal)
    {
        foreach ($journal->entries() as $entry) {
            $this->keep($entry);
        }
        $journal->rewrite(array_values($this->leases));
    }

    /** @return array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}|null */
    public function at(string $address): ?array
    {
        return $this->leases[$address] ?? null;
    }

    /** @return array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}|null */
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

    public function write(string $address, string $client, string $mac, string $name, string $state, int $starts, int $ends, string $scope): void
    {
        $lease = compact('address', 'client', 'mac', 'name', 'state', 'starts', 'ends', 'scope');
        $this->keep($lease);
        $this->journal->append($lease);
    }

    /** @return list<array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}> */
    public function page(int $from, int $limit): array
    {
        return array_slice(array_values($this->leases), $from, $limit);
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
            'address' => $text('address'), 'client' => $text('client'), 'mac' => $text('mac'), 'name' => $text('name'), 'state' => $text('state'),
            'starts' => $number('starts'), 'ends' => $number('ends'), 'scope' => $text('scope'),
        ];
        $this->leases[$lease['address']] = $lease;
        $this->byClient["{$lease['client']} {$lease['scope']}"] = $lease['address'];
    }
}
