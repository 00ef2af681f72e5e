<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Person;
use App\Models\Record;
use App\Models\Zone;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use Illuminate\Support\Facades\DB;

/** One name through time: written, shipped, renewed; and what comes: when caches forget, when it lapses. */
final class NameTimeline
{
    /** @return list<array{at: ?CarbonImmutable, mark: string, words: string, who: string, future: bool}> oldest first */
    public static function of(Zone $zone, Name $name): array
    {
        $people = Person::query()->pluck('name', 'id');
        $events = [];
        $lastCut = null;
        foreach (
            DB::table('record_changes')->where('zone_id', $zone->id)->where('owner', (string) $name->lower())
                ->where('op', '!=', '~')->orderBy('id')->limit(500)->get() as $change
        ) {
            $at = CarbonImmutable::parse($change->at);
            $ttl = Ttl::of($change->ttl ?? $zone->default_ttl);
            $events[] = [
                'at' => $at,
                'mark' => $change->op === '+' ? 'add' : 'cut',
                'words' => ($change->op === '+' ? '' : 'gone: ')
                    .RecordType::of($change->type)
                    ." $change->data, TTL {$ttl->spoken()}; "
                    .($change->serial === null ? 'waits to be shipped' : "shipped with serial $change->serial"),
                'who' => (string) ($people[$change->person_id] ?? ''),
                'future' => false,
            ];
            $lastCut = $change->op === '-' && $change->serial === $zone->serial ? $ttl->seconds : $lastCut;
        }
        $shipped = $zone->placements->max('shipped_at');
        if ($lastCut !== null && $shipped instanceof CarbonImmutable) {
            $until = $shipped->addSeconds($lastCut);
            $events[] = [
                'at' => $until,
                'mark' => 'wait',
                'words' => 'until here caches may hold the old answer, its TTL counted from the last shipment',
                'who' => '',
                'future' => $until->isFuture(),
            ];
        }
        foreach (
            Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())->whereNotNull('renewed_at')->get() as $record
        ) {
            $events[] = [
                'at' => $record->renewed_at, 'mark' => 'turn', 'words' => "{$record->typeName()} renewed by its client", 'who' => '',
                'future' => false,
            ];
            if ($zone->lapse_after !== null && $record->renewed_at !== null) {
                $due = $record->renewed_at->addSeconds($zone->lapse_after);
                $events[] = [
                    'at' => $due, 'mark' => 'stop', 'words' => "{$record->typeName()} lapses unless it is renewed", 'who' => '',
                    'future' => $due->isFuture(),
                ];
            }
        }
        usort($events, static fn (array $a, array $b): int => ($a['at']?->getTimestamp() ?? 0) <=> ($b['at']?->getTimestamp() ?? 0));

        return $events;
    }
}
