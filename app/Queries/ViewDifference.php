<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Record;
use App\Models\Zone;

/** One zone in two views, record set by record set. */
final class ViewDifference
{
    public const MOST = 2000;

    /**
     * @return array{rows: list<array{owner: string, type: string, state: 'same'|'shared'|'differs'|'left'|'right', left: list<Record>,
     *     right: list<Record>}>, more: bool}
     */
    public static function of(Zone $left, Zone $right, bool $all = false): array
    {
        $sets = [];
        foreach (['left' => $left, 'right' => $right] as $side => $zone) {
            foreach (
                Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')
                    ->orderBy('data_hash')->limit(20 * self::MOST)->get() as $record
            ) {
                $sets["$record->owner $record->type"][$side][] = $record;
            }
        }
        $rows = [];
        foreach ($sets as $set) {
            $hashes = static fn (array $records): array => array_map(
                static fn (Record $r): string => bin2hex($r->data_hash).':'.($r->ttl ?? ''),
                $records,
            );
            [$a, $b] = [$set['left'] ?? [], $set['right'] ?? []];
            $one = $a[0] ?? $b[0];
            $state = match (true) {
                $b === [] => 'left',
                $a === [] => 'right',
                $hashes($a) !== $hashes($b) => 'differs',
                default => $one->share_id !== null && $one->share_id === $b[0]->share_id ? 'shared' : 'same',
            };
            if ($all || ! in_array($state, ['same', 'shared'], true)) {
                $rows[] = ['owner' => $one->owner, 'type' => $one->typeName(), 'state' => $state, 'left' => $a, 'right' => $b];
            }
        }

        return ['rows' => array_slice($rows, 0, self::MOST), 'more' => count($rows) > self::MOST];
    }
}
