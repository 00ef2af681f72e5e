<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Bulk;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Scope;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Support\Facades\DB;

/**
 * What a server says of its leases between two addresses is written down: what is the same is not written again, what is not there any
 * more is marked with the time, and a lease that cannot be read is one line of the log.
 */
final readonly class KeepLeases extends Act
{
    private const STATES = ['active', 'released', 'declined', 'expired'];

    /** What makes another binding of it. */
    private const WHOSE = ['mac' => 1, 'client_id' => 1, 'host_name' => 1, 'state' => 1];

    private const TIMES = ['starts_at', 'ends_at', 'preferred_at'];

    private const COLUMNS = [
        'scope_id', 'mac', 'client_id', 'iaid', 'length', 'host_name', 'state', 'starts_at', 'ends_at', 'preferred_at',
    ];

    /**
     * @param  list<mixed>  $leases  each {address, mac, name, state, starts, ends, scope}, and of IPv6 {client: DUID, iaid, length,
     *     preferred} too, as far as the server keeps to it
     * @param  string  $after  the address behind which the page begins; blank from the start
     * @param  ?string  $until  the address with which it ends; null to the end
     * @param  bool  $whole  the server lists in order, so that what is missing between the two is gone
     */
    public function __construct(
        public string $server,
        public array $leases,
        public string $after = '',
        public ?string $until = null,
        public bool $whole = true,
        /** @var list<string> ids of rows that the server did not tell of in its whole answer */
        public array $gone = [],
        /** seconds that a time may differ by and be the same */
        public int $slack = 0,
    ) {
    }

    public function title(): string
    {
        return 'Read '.count($this->leases).' leases';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $log = ['added' => 0, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []];
        $rows = $this->rows($log['refused']);
        $there = $this->there(array_keys($rows));
        $write = $former = [];
        foreach ($rows as $key => $row) {
            $before = $there[$key] ?? null;
            unset($there[$key]);
            if ($before !== null && $before['gone_at'] === null && $this->same($before, $row)) {
                $log['same']++;

                continue;
            }
            $log[$before === null ? 'added' : 'changed']++;
            if ($before !== null && self::ended($before, $row)) {
                $former[] = self::binding($before, $this->server, $ledger);
            }
            $write[] = $row + ['gone_at' => null];
        }
        foreach (array_chunk($write, 500) as $chunk) {
            Lease::query()->upsert($chunk, ['server_id', 'address'], [...self::COLUMNS, 'gone_at']);
        }
        Bulk::insert('lease_bindings', $former);
        $gone = $this->whole ? array_column(array_filter($there, static fn (array $r): bool => $r['gone_at'] === null), 'id') : [];
        foreach (array_chunk([...$gone, ...$this->gone], 1000) as $ids) {
            Lease::query()->whereKey($ids)->update(['gone_at' => $ledger->at->format('Y-m-d H:i:s')]);
            $log['gone'] += count($ids);
        }
        $ledger->made['leases'] = $log;
    }

    /**
     * @param  array<string, mixed>  $before
     * @param  array<string, mixed>  $row
     */
    private function same(array $before, array $row): bool
    {
        foreach ($this->slack > 0 ? self::TIMES : [] as $time) {
            $apart = abs(strtotime("$before[$time] UTC") - strtotime("$row[$time] UTC"));
            $row[$time] = $apart <= $this->slack ? $before[$time] : $row[$time];
        }

        return array_intersect_key($before, $row) == array_intersect_key($row, $before);
    }

    /**
     * Has somebody else the address now, or the same client under another name, or nobody? A renewal is none of these.
     *
     * @param  array<string, mixed>  $before
     * @param  array<string, mixed>  $now
     */
    private static function ended(array $before, array $now): bool
    {
        return in_array($before['state'], ['active', 'declined'], true)
            && array_intersect_key($before, self::WHOSE) !== array_intersect_key($now, self::WHOSE);
    }

    /**
     * @param  array<string, mixed>  $before
     * @return array<string, mixed>
     */
    private static function binding(array $before, string $server, Ledger $ledger): array
    {
        return [
            'server_id' => $server, 'address' => $before['address'], 'mac' => $before['mac'],
            'client_id' => $before['client_id'], 'host_name' => $before['host_name'],
            'state' => $before['state'], 'starts_at' => $before['starts_at'], 'ends_at' => $before['ends_at'],
            'until_at' => $ledger->at->format('Y-m-d H:i:s'),
        ];
    }

    /**
     * @param  list<string>  $refused  filled with what cannot be read, and why
     * @return array<string, array<string, mixed>> address in hexadecimal → columns
     */
    private function rows(array &$refused): array
    {
        $known = Scope::query()
            ->whereIn('id', array_filter(array_column(array_filter($this->leases, is_array(...)), 'scope'), is_string(...)))
            ->pluck('id', 'id');
        $rows = [];
        $subnets = null;
        foreach ($this->leases as $one) {
            $text = static fn (string $key): string => is_array($one) && is_scalar($one[$key] ?? null) ? (string) $one[$key] : '';
            $address = Address::tryParse($text('address'));
            $mac = MacAddress::tryParse($text('mac'));
            $six = $address?->family === Family::V6;
            $duid = $six ? Duid::tryParse($text('client')) : null;
            $length = $six && is_int($one['length'] ?? null) ? $one['length'] : 128;
            $fault = match (true) {
                $address === null => 'its address cannot be read',
                ! in_array($text('state'), [...self::STATES, 'offered'], true) => 'its state is none that is known',
                $six && $duid === null => 'its DUID cannot be read',
                $six && ($length < 1 || $length > 128 || ! $address->in($length)
                    ->first->equals($address)) => 'its length is not of a prefix',
                ! $six && $mac === null && $text('state') !== 'declined' => 'its MAC cannot be read',
                ! self::isTime($one['starts'] ?? null) || ! self::isTime($one['ends'] ?? null) => 'its times cannot be read',
                default => null,
            };
            if ($fault !== null || $address === null) {
                $refused[] = mb_scrub(mb_strimwidth($text('address') ?: 'a lease without an address', 0, 60, '…'), 'UTF-8').": $fault";

                continue;
            }
            if ($text('state') === 'offered') {
                continue;
            }
            $name = $text('name');
            if (strlen($name) > 255 || ! mb_check_encoding($name, 'UTF-8')) {
                $refused[] = "$address: kept without the client's name, which is too long or no text";
                $name = '';
            }
            $rows[bin2hex($address->bytes)] = [
                'server_id' => $this->server, 'scope_id' => $known[$text('scope')] ?? self::among($subnets ??= $this->subnets(), $address),
                'address' => $address->bytes, 'mac' => $mac?->bytes, 'client_id' => $duid?->bytes,
                'iaid' => $six && is_int($one['iaid'] ?? null) ? $one['iaid'] : null, 'length' => $length === 128 ? 0 : $length,
                'host_name' => $name,
                'state' => $text('state'),
                'starts_at' => gmdate('Y-m-d H:i:s', (int) $one['starts']),
                'ends_at' => gmdate('Y-m-d H:i:s', (int) $one['ends']),
                'preferred_at' => $six && self::isTime($one['preferred'] ?? null) ? gmdate('Y-m-d H:i:s', (int) $one['preferred']) : null,
            ];
        }

        return $rows;
    }

    /**
     * A server may name a scope that is not of the plan, or none: what counts is the subnet that holds the address.
     *
     * @return list<array{string, string, string}> first and last place and scope of each subnet that is leased from there, in order
     */
    private function subnets(): array
    {
        $rows = DB::table('scopes')->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')
            ->join('scope_servers', 'scope_servers.scope_id', '=', 'scopes.id')->where('scope_servers.server_id', $this->server)
            ->get(['scopes.id', 'prefixes.first', 'prefixes.length']);
        $subnets = [];
        foreach ($rows as $row) {
            $net = Net::of(Address::fromBytes((string) $row->first), (int) $row->length);
            $subnets[] = [self::place($net->first->bytes), self::place($net->last()->bytes), (string) $row->id];
        }
        sort($subnets);

        return $subnets;
    }

    /** In one order: all of IPv4, then all of IPv6. */
    private static function place(string $address): string
    {
        return chr(strlen($address)).$address;
    }

    /** @param  list<array{string, string, string}>  $subnets */
    private static function among(array $subnets, Address $address): ?string
    {
        $place = self::place($address->bytes);
        for ($low = 0, $high = count($subnets); $low < $high;) {
            $middle = intdiv($low + $high, 2);
            strcmp($subnets[$middle][0], $place) <= 0 ? $low = $middle + 1 : $high = $middle;
        }
        $before = $subnets[$low - 1] ?? null;

        return $before !== null && strcmp($place, $before[1]) <= 0 ? $before[2] : null;
    }

    /**
     * @param  list<int|string>  $told  addresses of the page, in hexadecimal
     * @return array<string, array<string, mixed>> rows of the server between the two addresses, as they are stored; those of the page alone
     *     where it lists in no order
     */
    private function there(array $told): array
    {
        $from = Address::tryParse($this->after);
        $until = $this->until === null ? null : Address::tryParse($this->until);
        $rows = Lease::query()->where('server_id', $this->server)
            ->when($this->whole && $from !== null, fn ($q) => $q->where('address', '>', $from?->bytes))
            ->when($this->whole && $until !== null, fn ($q) => $q->where('address', '<=', $until?->bytes))
            ->when(! $this->whole, fn ($q) => $q->whereIn('address', array_map(
                static fn (int|string $hex): string => (string) hex2bin((string) $hex), $told,
            )))
            ->toBase()->get(['id', 'address', 'gone_at', ...self::COLUMNS]);
        $there = [];
        foreach ($rows as $row) {
            $there[bin2hex((string) $row->address)] = (array) $row;
        }

        return $there;
    }

    private static function isTime(mixed $value): bool
    {
        return is_int($value) && $value >= 0 && $value <= 253402300799;
    }
}
