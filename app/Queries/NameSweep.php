<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * Every address record against every pointer, stretch by stretch in the order of ids: what is missing, what differs, what is left over,
 * and which addresses have several names.
 */
final class NameSweep
{
    public const STEP = 4000;

    public const LABELS = [
        'missing' => 'without a PTR', 'differing' => 'PTR says something else', 'orphan' => 'PTR without a name',
        'several' => 'several names, PTR carries another', self::UNCOVERED => 'without a reverse zone',
    ];

    /** No reverse zone of ours covers the address: made with the zone, not by a record. */
    public const UNCOVERED = 'uncovered';

    /** @var array<string, true> names of reverse zones */
    private array $zones;

    /** @var array<string, true> name and address of what was found already */
    private array $seen = [];

    /** @var list<int> lengths of RFC 2317 children that exist */
    private array $children = [];

    public function __construct()
    {
        $this->zones = array_fill_keys(Zone::query()->where('name', 'like', '%.arpa.')->pluck('name')->all(), true);
        foreach (array_keys($this->zones) as $name) {
            preg_match('~\A\d+/(\d+)\.~', (string) $name, $m) === 1 ? $this->children[] = (int) $m[1] : null;
        }
        $this->children = array_values(array_unique($this->children));
    }

    /**
     * @param  string  $after  id
     * @return array{findings: list<array{code: string, record: string, name: string, address: string, says: string}>, count: int,
     *     cursor: string} an empty cursor is the end
     */
    public function step(string $after): array
    {
        $rows = Record::query()->whereIn('type', [RecordType::A, RecordType::AAAA, RecordType::PTR])
            ->where('id', '>', $after)->orderBy('id')->limit(self::STEP)->toBase()
            ->get(['id', 'owner', 'type', 'data', 'target']);
        $findings = [
            ...$this->forward($rows->filter(fn (object $r): bool => $r->type !== RecordType::PTR)->all()),
            ...$this->backward($rows->filter(fn (object $r): bool => $r->type === RecordType::PTR)->all()),
        ];

        return [
            'findings' => $findings,
            'count' => $rows->count(),
            'cursor' => $rows->count() < self::STEP ? '' : (string) $rows->last()?->id,
        ];
    }

    /**
     * @param  array<int, \stdClass>  $rows  address records
     * @return list<array{code: string, record: string, name: string, address: string, says: string}>
     */
    private function forward(array $rows): array
    {
        $owners = $all = [];
        foreach ($rows as $row) {
            $address = Address::tryParse($row->data);
            if ($address !== null && ! str_starts_with($row->owner, '*')) {
                $owners[$row->id] = [$address, $this->owners($address)];
                $all = [...$all, ...$owners[$row->id][1]];
            }
        }
        $pointers = [];
        foreach (array_chunk(array_values(array_unique($all)), 2000) as $chunk) {
            foreach (
                Record::query()->whereIn('owner', $chunk)->where('type', RecordType::PTR)->toBase()->get(['owner', 'target']) as $pointer
            ) {
                $pointers[$pointer->owner][] = (string) $pointer->target;
            }
        }
        $others = [];
        $findings = [];
        foreach ($rows as $row) {
            if (! isset($owners[$row->id])) {
                continue;
            }
            [$address, $names] = $owners[$row->id];
            $says = array_merge(...array_map(static fn (string $n): array => $pointers[$n] ?? [], $names), ...[[]]);
            if (in_array($row->owner, $says, true)) {
                continue;
            }
            $key = $row->owner.' '.bin2hex($address->bytes);
            if (isset($this->seen[$key])) {
                continue; // The same name and address in another view.
            }
            $this->seen = count($this->seen) > 100_000 ? [] : $this->seen;
            $this->seen[$key] = true;
            $findings[] = [
                'code' => $names === [] ? self::UNCOVERED : ($says === [] ? 'missing' : 'differing'), 'record' => $row->id,
                'name' => $row->owner, 'address' => bin2hex($address->bytes), 'says' => $says[0] ?? '',
            ];
            $says === [] ?: $others[$says[0]] = true;
        }

        return $this->several($findings, array_keys($others));
    }

    /**
     * Where the PTR's name has the address too, both names are right and the PTR carries one of them.
     *
     * @param  list<array{code: string, record: string, name: string, address: string, says: string}>  $findings
     * @param  list<int|string>  $names
     * @return list<array{code: string, record: string, name: string, address: string, says: string}>
     */
    private function several(array $findings, array $names): array
    {
        $has = [];
        foreach (array_chunk($names, 2000) as $chunk) {
            foreach (
                Record::query()->whereIn('owner', $chunk)->whereIn('type', [RecordType::A, RecordType::AAAA])->toBase()
                    ->get(['owner', 'data']) as $record
            ) {
                $address = Address::tryParse($record->data);
                $address === null ?: $has[$record->owner.' '.bin2hex($address->bytes)] = true;
            }
        }
        foreach ($findings as $i => $finding) {
            if ($finding['code'] === 'differing' && isset($has[$finding['says'].' '.$finding['address']])) {
                $findings[$i]['code'] = 'several';
            }
        }

        return $findings;
    }

    /**
     * @param  array<int, \stdClass>  $rows  pointers
     * @return list<array{code: string, record: string, name: string, address: string, says: string}>
     */
    private function backward(array $rows): array
    {
        $has = [];
        foreach (
            array_chunk(array_values(array_unique(array_map(static fn (object $r): string => (string) $r->target, $rows))), 2000) as $chunk
        ) {
            foreach (
                Record::query()->whereIn('owner', $chunk)
                    ->whereIn('type', [RecordType::A, RecordType::AAAA, RecordType::CNAME])->toBase()
                    ->get(['owner', 'type', 'data']) as $record
            ) {
                $address = Address::tryParse($record->data);
                $has[$record->owner.' '.($address === null ? '' : bin2hex($address->bytes))] = true;
            }
        }
        $findings = [];
        foreach ($rows as $row) {
            $name = Name::tryParse($row->owner);
            $address = $name === null ? null : ReverseName::addressOf($name);
            if ($address !== null && $this->ours((string) $row->target) && ! isset($has[$row->target.' '.bin2hex($address->bytes)])) {
                $findings[] = [
                    'code' => 'orphan', 'record' => $row->id, 'name' => $row->owner, 'address' => bin2hex($address->bytes),
                    'says' => (string) $row->target,
                ];
            }
        }

        return $findings;
    }

    /** @var array<string, bool> */
    private array $known = [];

    /** Is the name in a zone of ours? What others hold cannot be judged. */
    private function ours(string $name): bool
    {
        $parent = explode('.', $name, 2)[1] ?? '';

        return $this->known[$parent] ??= ($parsed = Name::tryParse($name)) !== null && Zones::closest($parsed, null) !== null;
    }

    /** @return list<string> names at which the PTR of an address may stand; none when no reverse zone covers it */
    private function owners(Address $address): array
    {
        $name = ReverseName::of($address);
        $owners = array_intersect_key(array_flip(Zones::above($name)), $this->zones) !== [] ? [(string) $name] : [];
        foreach ($address->family === Family::V4 ? $this->children : [] as $length) {
            $child = ReverseName::classless($address->in($length));
            isset($this->zones[(string) $child]) ? $owners[] = (string) ReverseName::inZone($address, $child) : null;
        }

        return $owners;
    }
}
