<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Exchange\V6\Held;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Journal;

/**
 * Leases of IPv6 by address and prefix, kept over a restart. Times are seconds since 1970.
 *
 * @phpstan-type LeaseV6 array{address: string, length: int, key: string, client: string, iaid: int, mac: string, name: string,
 *     state: string, starts: int, ends: int, preferred: int, scope: string}
 */
final class BookV6 implements Held
{
    /** @var array<string, LeaseV6> net → lease */
    private array $leases = [];

    /** @var array<string, array<string, true>> key of a client → nets that it has or had, the last one last */
    private array $byKey = [];

    /** @var array<string, Prefix> prefixes that are or were delegated: few, and the only ones that may lie in one another */
    private array $prefixes = [];

    /** @var array<int, true> lengths that are leased */
    private array $lengths = [];

    /** @var list<string>|null nets in the order of their addresses; null when one came since */
    private ?array $order = null;

    public function __construct(private readonly Journal $journal, private readonly ChangeOrder $changes = new ChangeOrder)
    {
        foreach ($journal->entries() as $entry) {
            $this->keep($entry);
        }
        $journal->rewrite(array_values($this->leases));
    }

    public function holder(Prefix $net, int $now): ?string
    {
        foreach (array_keys($this->lengths) as $length) {
            if ($length <= $net->length) {
                $lease = $this->leases[(string) $net->first->in($length)] ?? null;
                if ($lease !== null && self::runs($lease, $now)) {
                    return $lease['state'] === 'declined' ? '' : $lease['key'];
                }
            }
        }
        // What is leased inside it holds the whole of it.
        foreach ($net->length < 128 ? $this->prefixes : [] as $text => $prefix) {
            $lease = $this->leases[$text];
            if ($prefix->length > $net->length && self::runs($lease, $now) && $net->contains($prefix)) {
                return $lease['state'] === 'declined' ? '' : $lease['key'];
            }
        }

        return null;
    }

    public function current(string $key, int $now): array
    {
        $nets = [];
        foreach (array_keys($this->byKey[$key] ?? []) as $text) {
            $lease = $this->leases[$text] ?? null;
            if ($lease !== null && $lease['key'] === $key && $lease['state'] === 'active' && $lease['ends'] > $now) {
                $nets[] = Prefix::parse($text);
            }
        }

        return array_reverse($nets);
    }

    public function last(string $key): ?Prefix
    {
        $text = array_key_last($this->byKey[$key] ?? []);

        return $text === null ? null : Prefix::parse($text);
    }

    /** @return array<string, int|string>|null */
    public function at(Prefix $net): ?array
    {
        return $this->leases[(string) $net] ?? null;
    }

    public function count(): int
    {
        return count($this->leases);
    }

    /** @param  array<string, int|string>  $lease */
    public function write(array $lease): void
    {
        $this->keep($lease);
        $this->changes->note((string) $lease['address']);
        $this->journal->append($lease);
    }

    /**
     * What stands at an address now: a lease, or the prefixes that begin there.
     *
     * @return list<LeaseV6>
     */
    public function from(string $address): array
    {
        $leases = [];
        foreach (array_keys($this->lengths) as $length) {
            $lease = $this->leases[(string) Address::parse($address)->in($length)] ?? null;
            if ($lease !== null && $lease['address'] === $address) {
                $leases[] = $lease;
            }
        }

        return $leases;
    }

    /** @return list<LeaseV6> */
    public function ofClient(string $duid): array
    {
        return array_values(array_filter($this->leases, static fn (array $l): bool => $l['client'] === $duid));
    }

    /** @return list<LeaseV6> in the order of addresses */
    public function ofScope(string $scope): array
    {
        $leases = array_values(array_filter($this->leases, static fn (array $l): bool => $l['scope'] === $scope));
        usort($leases, static fn (array $a, array $b): int => strcmp(self::bytes($a['address']), self::bytes($b['address'])));

        return $leases;
    }

    /** @return list<array<string, int|string>> those behind an address, in order */
    public function page(string $after, int $limit): array
    {
        if ($this->order === null) {
            $this->order = array_map(strval(...), array_keys($this->leases));
            usort($this->order, static fn (string $a, string $b): int => strcmp(self::bytes($a), self::bytes($b)));
        }
        $bytes = Address::tryParse($after)->bytes ?? '';
        $page = [];
        foreach ($this->order as $net) {
            if (strcmp(self::bytes($net), $bytes) > 0 || $bytes === '') {
                $page[] = $this->leases[$net];
                if (count($page) === $limit) {
                    break;
                }
            }
        }

        return $page;
    }

    private static function bytes(string $net): string
    {
        return (string) inet_pton(explode('/', $net)[0]);
    }

    /** @param  array{state: string, ends: int, ...}  $lease */
    private static function runs(array $lease, int $now): bool
    {
        return $lease['ends'] > $now && in_array($lease['state'], ['active', 'declined'], true);
    }

    /** @param  array<mixed>  $entry */
    private function keep(array $entry): void
    {
        $text = static fn (string $key): string => is_string($entry[$key] ?? null) ? $entry[$key] : '';
        $number = static fn (string $key): int => is_int($entry[$key] ?? null) ? $entry[$key] : 0;
        $address = Address::tryParse($text('address'));
        $client = Duid::tryParse($text('client'));
        if ($address === null || $client === null || $address->family->value !== 6 || $number('length') < 1 || $number('length') > 128) {
            return;
        }
        $net = (string) $address->in($number('length'));
        $this->order = isset($this->leases[$net]) ? $this->order : null;
        $this->leases[$net] = [
            'address' => (string) $address, 'length' => $number('length'), 'key' => $text('key'), 'client' => (string) $client,
            'iaid' => $number('iaid'), 'mac' => (string) $client->mac(), 'name' => $text('name'), 'state' => $text('state'),
            'starts' => $number('starts'), 'ends' => $number('ends'), 'preferred' => $number('preferred'), 'scope' => $text('scope'),
        ];
        $this->lengths[$number('length')] = true;
        if ($number('length') < 128) {
            $this->prefixes[$net] = $address->in($number('length'));
        }
        unset($this->byKey[$text('key')][$net]);
        $this->byKey[$text('key')][$net] = true;
    }
}
