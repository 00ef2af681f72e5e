<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Record;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\OldAnswers;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/** What was changed lately, asked of every server of its zone without a cache in between, against what is meant. */
final class ChangedSets
{
    private const MOST = 40;

    /**
     * @return list<array{zone: Zone, owner: string, type: string, intended: list<string>, answers: list<array{server: string,
     *     state: 'right'|'wrong'|'silent', words: string}>, waits: bool, until: ?CarbonImmutable}>
     */
    public static function of(?Zone $only, ?string $person): array
    {
        $sets = [];
        foreach (
            DB::table('record_changes')->where('at', '>', now()->subDay())->where('op', '!=', '~')
                ->when($only, fn ($q) => $q->where('zone_id', $only?->id))
                ->when($person, fn ($q) => $q->where('person_id', $person))->orderByDesc('id')->limit(600)
                ->get() as $change
        ) {
            $key = "$change->zone_id $change->owner $change->type";
            $sets[$key] ??= [
                'zone' => $change->zone_id, 'owner' => $change->owner, 'type' => (int) $change->type, 'waits' => false, 'ttl' => null,
            ];
            $sets[$key]['waits'] = $sets[$key]['waits'] || $change->serial === null;
            $sets[$key]['ttl'] = $change->op === '-' ? ($change->ttl ?? -1) : $sets[$key]['ttl'];
            if (count($sets) > self::MOST) {
                break;
            }
        }
        $zones = Zone::query()->with(['view', 'placements.server'])->whereIn('id', array_column($sets, 'zone'))->get()->keyBy('id');
        $rows = [];
        foreach (array_slice($sets, 0, self::MOST) as $set) {
            $zone = $zones[$set['zone']] ?? null;
            if ($zone === null || str_starts_with($set['owner'], '*')) {
                continue;
            }
            $owner = Name::parse($set['owner']);
            $intended = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())
                ->where('type', $set['type'])->pluck('data')->map(static fn (mixed $data): string => (string) $data)->all();
            sort($intended);
            $shipped = OldAnswers::since($zone);
            $ttl = match ($set['ttl']) {
                // Where nothing was before, caches may know that nothing is there.
                null => OldAnswers::negative($zone),
                -1 => $zone->default_ttl,
                default => $set['ttl'],
            };
            $rows[] = [
                'zone' => $zone, 'owner' => rtrim($set['owner'], '.'), 'type' => (string) RecordType::of($set['type']),
                'intended' => $intended, 'waits' => $set['waits'],
                'answers' => array_values(
                    $zone->placements
                        ->map(fn (ZoneServer $p): array => self::ask($p, $zone, $owner, RecordType::of($set['type']), $intended))
                        ->all(),
                ),
                'until' => $set['waits'] ? null : $shipped?->addSeconds($ttl),
            ];
        }

        return $rows;
    }

    /**
     * @param  list<string>  $intended  sorted
     * @return array{server: string, state: 'right'|'wrong'|'silent', words: string}
     */
    private static function ask(ZoneServer $placement, Zone $zone, Name $owner, RecordType $type, array $intended): array
    {
        $server = $placement->server;
        try {
            $message = (new DnsClient($server->name, $server->endpoint, 1.0))->ask($owner, $type, $zone->clientInView(), false)->message;
        } catch (Unanswered $e) {
            return ['server' => $server->name, 'state' => 'silent', 'words' => $e->getMessage()];
        }
        $got = [];
        foreach ([...$message->answers, ...($message->authoritative ? [] : $message->authority)] as $record) {
            $record->owner->equals($owner) && $record->type()->equals($type) ? $got[] = $record->data->text() : null;
        }
        sort($got);

        return [
            'server' => $server->name,
            'state' => $got === $intended ? 'right' : 'wrong',
            'words' => $got === []
                ? $message->rcode->explained().($message->rcode->value === 0 ? ', no such data' : '')
                : implode(', ', $got),
        ];
    }
}
