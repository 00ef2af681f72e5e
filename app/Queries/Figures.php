<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Server;
use App\Models\ServerKind;
use Carbon\CarbonImmutable;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * What servers measured: who is read and who is not and why, the main figures of all in one view, and the course of one.
 *
 * @phpstan-type Point array{at: int, low: float, mean: float, high: float}
 * @phpstan-type Line array{id: int, labels: string, points: list<Point>, before: list<Point>}
 */
final class Figures
{
    /** span → hours, step in minutes */
    public const SPANS = ['hours' => [6, 1], 'day' => [24, 5], 'week' => [7 * 24, 60], 'month' => [31 * 24, 60],
        'year' => [366 * 24, 1440]];

    /** Lines of one chart; of more, those with the highest mean. */
    public const LINES = 6;

    /** Minutes after which a reading is old. */
    private const LATE = 5;

    /**
     * @return list<array{server: Server, state: 'read'|'late'|'problem'|'new'|'none'|'off', says: string, since: ?CarbonImmutable}> every
     *     server that figures can be told of, by name
     */
    public static function coverage(): array
    {
        $states = DB::table('server_states')->get()->keyBy('server_id');

        return array_values(Server::query()->with('site')->where('kind', '!=', ServerKind::Network)->orderBy('name')->get()->map(
            static function (Server $server) use ($states): array {
                $row = (array) ($states[$server->id] ?? []);
                $time = static fn (string $of): ?CarbonImmutable => isset($row[$of]) ? CarbonImmutable::parse((string) $row[$of]) : null;
                [$at, $since] = [$time('figures_at'), $time('figures_since')];
                [$state, $says] = match (true) {
                    ! $server->measured => ['off', "left out: $server->unmeasured_why"],
                    $server->metrics === null => ['none', 'no address of its figures is written down'],
                    isset($row['figures_problem']) => ['problem', (string) $row['figures_problem']],
                    $at === null => ['new', 'not read yet'],
                    $at->addMinutes(self::LATE)->isPast() => ['late', "read last {$at->diffForHumans()}: is the scheduler at work?"],
                    default => ['read', 'read '.$at->diffForHumans()
                        .($row['figures_left'] > 0 ? ", $row[figures_left] figures left out" : '')],
                };

                return ['server' => $server, 'state' => $state, 'says' => $says, 'since' => $since];
            },
        )->all());
    }

    /**
     * The main figures of each server: the value now, which is none when nothing was read lately, and the last hours as a line.
     *
     * @return array<string, array<string, array{now: ?float, line: list<float>}>> server → figure → values
     */
    public static function overview(): array
    {
        $from = now()->subHours(3)->format('Y-m-d H:i:s');
        $rows = DB::table('samples')->join('series', 'series.id', '=', 'samples.series_id')->where('step', 1)
            ->where('samples.at', '>=', $from)
            ->whereIn('family', ['dns_queries', 'dns_answers', 'dns_answer_seconds', 'dhcp_messages', 'dhcp_replies', 'dhcp_leases'])
            ->selectRaw("server_id, IF(family = 'dns_answers' AND labels = 'code=ServFail', 'dns_failures', family) AS figure,
                TIMESTAMPDIFF(MINUTE, '2000-01-01', samples.at) DIV 5 AS slot, SUM(mean) / COUNT(DISTINCT samples.at) AS v,
                MAX(samples.at) AS last")
            ->groupBy('server_id', 'figure', 'slot')->orderBy('slot')->get();
        $all = [];
        $fresh = now()->subMinutes(self::LATE)->format('Y-m-d H:i:s');
        foreach ($rows as $row) {
            $all[(string) $row->server_id][(string) $row->figure] ??= ['now' => null, 'line' => []];
            $all[(string) $row->server_id][(string) $row->figure]['line'][] = (float) $row->v;
            $all[(string) $row->server_id][(string) $row->figure]['now'] = $row->last >= $fresh ? (float) $row->v : null;
        }

        return $all;
    }

    /** @return Collection<int, \stdClass> family, type, unit, help, series of a server */
    public static function families(string $server): Collection
    {
        return DB::table('series')->where('server_id', $server)->groupBy('family', 'type')->orderBy('family')
            ->selectRaw('family, type, MAX(unit) AS unit, MAX(help) AS help, COUNT(*) AS series')->get();
    }

    /**
     * The course of one figure, its labels apart, and the same a week before.
     *
     * @return array{lines: list<Line>, left: int, from: int, to: int, step: int}
     */
    public static function course(string $server, string $family, string $span): array
    {
        [$hours, $step] = self::SPANS[$span] ?? self::SPANS['day'];
        $to = now()->getTimestamp();
        $from = $to - $hours * 3600;
        $names = DB::table('series')->where('server_id', $server)->where('family', $family)->pluck('labels', 'id');
        $ids = array_values($names->keys()->all());
        $points = self::points($ids, $step, $from, $to);
        // Where nothing was folded yet, what it will be folded from.
        if ($points === [] && $step > 1) {
            $points = self::points($ids, $step === 5 ? 1 : 5, $from, $to);
        }
        $mean = static fn (array $of): float => array_sum(array_column($of, 'mean')) / max(1, count($of));
        uasort($points, static fn (array $a, array $b): int => $mean($b) <=> $mean($a));
        $before = in_array($span, ['hours', 'day'], true)
            ? self::points(array_keys($points), $step === 1 ? 5 : $step, $from - 7 * 86400, $to - 7 * 86400)
            : [];
        $lines = [];
        foreach (array_slice($points, 0, self::LINES, true) as $id => $of) {
            $lines[] = [
                'id' => $id, 'labels' => (string) $names[$id], 'points' => $of,
                'before' => array_map(static fn (array $p): array => ['at' => $p['at'] + 7 * 86400] + $p, $before[$id] ?? []),
            ];
        }

        return ['lines' => $lines, 'left' => max(0, count($points) - self::LINES), 'from' => $from, 'to' => $to, 'step' => $step];
    }

    /**
     * Shipments to the server in a time, to be marked on its charts.
     *
     * @return list<array{at: int, words: string}>
     */
    public static function events(string $server, int $from, int $to): array
    {
        return array_values(DB::table('shipments')->where('server_id', $server)
            ->whereBetween('started_at', [gmdate('Y-m-d H:i:s', $from), gmdate('Y-m-d H:i:s', $to)])->orderBy('started_at')->limit(60)
            ->get(['started_at', 'state'])->map(static fn (object $s): array => [
                'at' => (int) strtotime("$s->started_at UTC"), 'words' => "shipment, $s->state",
            ])->all());
    }

    /**
     * @param  list<int|string>  $series
     * @return array<int, list<Point>>
     */
    private static function points(array $series, int $step, int $from, int $to): array
    {
        $points = [];
        $rows = DB::table('samples')->whereIn('series_id', $series)->where('step', $step)
            ->whereBetween('at', [gmdate('Y-m-d H:i:s', $from), gmdate('Y-m-d H:i:s', $to)])->orderBy('series_id')->orderBy('at')->get();
        foreach ($rows as $row) {
            $points[(int) $row->series_id][] = [
                'at' => (int) strtotime("$row->at UTC"), 'low' => (float) $row->low, 'mean' => (float) $row->mean,
                'high' => (float) $row->high,
            ];
        }

        return $points;
    }
}
