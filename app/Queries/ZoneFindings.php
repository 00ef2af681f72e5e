<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone as WholeZone;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;

/** What the rules find in a zone as it is planned; kept until a record of it changes. */
final class ZoneFindings
{
    public const MOST = 500;

    /** Records above which a page does not check by itself. */
    public const LARGE = 20_000;

    /**
     * @return list<array{code: string, severity: string, message: string, standard: string, owner: string, type: string, fix: string,
     *     act: ?array{0: string, 1: array<string, string>, 2: string}}>
     */
    public static function of(Zone $zone): array
    {
        $mark = DB::table('record_changes')->where('zone_id', $zone->id)->max('id');

        return Cache::remember("zone-findings-$zone->id-$zone->version-$mark", 3600, fn (): array => self::find($zone));
    }

    /**
     * @return list<array{code: string, severity: string, message: string, standard: string, owner: string, type: string, fix: string,
     *     act: ?array{0: string, 1: array<string, string>, 2: string}}>
     */
    private static function find(Zone $zone): array
    {
        $records = (function () use ($zone): \Generator {
            yield new DnsRecord($zone->origin(), $zone->default_ttl, $zone->soa());
            foreach (Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')->lazy(5000) as $record) {
                yield $record->toRecord($zone->default_ttl);
            }
        })();
        $found = [];
        foreach (ZoneRules::check(WholeZone::of($zone->origin(), $records)) as $finding) {
            $found[] = [
                'code' => $finding->code, 'severity' => $finding->severity->value, 'message' => $finding->message,
                'standard' => $finding->standard, 'owner' => (string) $finding->owner?->lower(), 'type' => (string) $finding->type,
                'fix' => (string) $finding->fix, 'act' => self::act($zone, $finding),
            ];
            if (count($found) >= self::MOST) {
                break;
            }
        }

        return [...$found, ...array_slice(self::elsewhere($zone), 0, self::MOST)];
    }

    /**
     * Targets in other zones of ours: the rules see one zone only.
     *
     * @return list<array{code: string, severity: string, message: string, standard: string, owner: string, type: string, fix: string,
     *     act: null}>
     */
    private static function elsewhere(Zone $zone): array
    {
        $found = [];
        // Zones of ours below this one hold their names themselves.
        $below = Zone::query()->where('name', 'like', '%.'.addcslashes($zone->name, '%_\\'))->pluck('name')
            ->map(static fn (string $n): Name => Name::parse($n))->all();
        $inside = fn (Name $name): bool => $name->isIn($zone->origin())
            && array_filter($below, fn (Name $child): bool => $name->isIn($child)) === [];
        Record::query()->where('zone_id', $zone->id)->whereNotNull('target')->where('type', '!=', RecordType::PTR)->orderBy('owner_key')
            ->chunk(1000, function ($records) use ($zone, $inside, &$found): void {
                $outside = $records->filter(fn (Record $r): bool => $r->target !== '.' && ! $inside(Name::parse((string) $r->target)));
                $there = Record::query()->whereIn('owner', $outside->pluck('target')->unique()->values())
                    ->get(['owner', 'type', 'zone_id'])->groupBy('owner');
                foreach ($outside as $record) {
                    $target = Name::parse((string) $record->target);
                    $home = isset($there[$record->target])
                        ? null
                        : Zones::closest($target, $zone->view_id) ?? Zones::closest($target, null);
                    $alias = isset($there[$record->target])
                        && $there[$record->target]->contains('type', RecordType::CNAME)
                        && in_array($record->type, [RecordType::NS, RecordType::MX, RecordType::SRV], true);
                    $covered = $home !== null
                        && $target->parent() !== null
                        && Record::query()->where('zone_id', $home->id)->where('owner', '*.'.$target->parent()->lower())->exists();
                    if ($home !== null && ! $covered || $alias) {
                        $found[] = [
                            'code' => $alias ? 'target-is-alias' : 'target-missing',
                            'severity' => $alias ? 'error' : 'warning',
                            'message' => $alias ? "{$record->target} is an alias" : "{$record->target} has no record in {$home?->title()}",
                            'standard' => $alias ? 'RFC 2181 §10.3' : 'RFC 1912 §2.4',
                            'owner' => $record->owner,
                            'type' => $record->typeName(),
                            'fix' => $alias ? 'name the host itself' : 'add it there, or change this record',
                            'act' => null,
                        ];
                    }
                }
            });

        return $found;
    }

    /**
     * @return ?array{0: string, 1: array<string, string>, 2: string} the act that mends it, its input, and what its button says; null
     *     where a person has to decide
     */
    private static function act(Zone $zone, Finding $finding): ?array
    {
        $rows = $finding->owner === null
            || $finding->type === null
                ? null
                : Record::query()->where('zone_id', $zone->id)->where('owner_key', $finding->owner->sortKey())
                    ->where('type', $finding->type->number)->orderBy('ttl')->get();
        $first = $rows?->first();

        return match ($finding->code) {
            'ttl-unequal' => $first === null
                ? null
                : [
                    'change-record',
                    ['record' => $first->id, 'ttl' => (string) ($rows->min(fn (Record $r): int => $r->ttl ?? $zone->default_ttl))],
                    'give all one TTL',
                ],
            'ttl-zero' => $first === null ? null : ['change-record', ['record' => $first->id, 'ttl' => ''], 'inherit the TTL'],
            'glue-pointless',
            'below-delegation',
            'record-twice' => $first === null
                || $first->address_id !== null ? null : ['remove-records', ['records[]' => $first->id, 'zone' => $zone->id], 'remove it'],
            'soa-retry',
            'soa-expire',
            'soa-negative-ttl' => [
                'change-zone',
                ['zone' => $zone->id, 'refresh' => '7200', 'retry' => '900', 'expire' => '1209600', 'negativeTtl' => '300'],
                'take sound timers',
            ],
            default => null,
        };
    }
}
