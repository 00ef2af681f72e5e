<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Difference;
use App\Links\DifferenceState;
use App\Models\Part;
use App\Models\Zone;
use App\Models\ZoneServer;

/** Who may copy and update a zone, whom its primary notifies, where a secondary fetches: the part of the intent that is not records. */
final class ZoneTerms
{
    /** The key that signs transfers between its servers, when one is listed. */
    public static function transferKey(Zone $zone): ?string
    {
        foreach ($zone->transferList() as $entry) {
            if (str_starts_with($entry, 'key ')) {
                return substr($entry, 4);
            }
        }

        return null;
    }

    /**
     * @return array{transfer: list<string>, notify: list<string>, update: array{mode: string, from: list<string>},
     *     lapse: ?array{after: int, quiet: int}} who may do what with a zone
     */
    public static function of(Zone $zone, bool $primary): array
    {
        $client = $zone->clientInView();
        $notify = $zone->placements->filter(fn (ZoneServer $p): bool => $p->part === Part::Secondary)
            ->map(fn (ZoneServer $p): string => trim("{$p->server->endpoint} $client"))->all();

        return [
            'transfer' => $zone->transferList(),
            'notify' => $primary ? array_values($notify) : [],
            'update' => $primary ? ['mode' => $zone->update_mode, 'from' => $zone->update_from ?? []] : ['mode' => 'refused', 'from' => []],
            'lapse' => $primary && $zone->lapse_after !== null ? ['after' => $zone->lapse_after, 'quiet' => $zone->lapse_quiet] : null,
        ];
    }

    /**
     * Who may transfer and update, whom to notify, where to fetch from: part of what is intended.
     *
     * @param  array<string, mixed>  $there
     */
    public static function added(Difference $difference, ZoneServer $placement, array $there): Difference
    {
        $zone = $placement->zone;
        $primary = $placement->part !== Part::Secondary;
        $meant = self::of($zone, $primary) + [
            'part' => [
                ($primary ? Part::Primary : Part::Secondary)->value,
                $primary ? '' : (string) $zone->primaryPlacement()?->server->endpoint,
                $primary ? '' : (string) self::transferKey($zone),
            ],
        ];
        $is = (is_array($there['settings'] ?? null) ? $there['settings'] : []) + [
            'part' => [$there['part'] ?? Part::Primary->value, $there['primary'] ?? '', $there['key'] ?? ''],
        ];
        $removed = $added = [];
        foreach ($meant as $what => $value) {
            if (($is[$what] ?? null) !== $value) {
                $words = static fn (mixed $v): string => $v === null
                    || $v === []
                        ? 'nobody'
                        : (
                            is_array($v)
                                && isset($v['mode'])
                                    ? "{$v['mode']} ".implode(', ', (array) ($v['from'] ?? []))
                                    : (
                                        is_array($v)
                                            ? implode(', ', array_map(static fn (mixed $x): string => is_scalar($x) ? (string) $x : '', $v))
                                            : ''
                                    )
                        );
                $removed[] = '# '.$what.': '.trim($words($is[$what] ?? null));
                $added[] = '# '.$what.': '.trim($words($value));
            }
        }

        return $added === [] || ! in_array($difference->state, [DifferenceState::Same, DifferenceState::Differs], true)
            ? $difference : new Difference(
                'zone', $difference->id, $difference->title, DifferenceState::Differs, [...$difference->removed, ...$removed],
                [...$difference->added, ...$added], $difference->removedCount + count($removed), $difference->addedCount + count($added),
                $difference->message, $difference->running, $difference->intended, $difference->drifted, $difference->readWhole,
            );
    }
}
