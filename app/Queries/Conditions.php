<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\FactKind;
use App\Models\Notice;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Models\ReportState;
use App\Models\RightTest;
use App\Models\Threshold;
use App\Pages\Pages;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Condition;
use App\Queries\Facts\FactQuery;
use App\Queries\Facts\Test;
use Carbon\CarbonImmutable;
use HarborPost\Core\Exchange\Pair\PairState;
use Illuminate\Support\Facades\DB;

/**
 * What holds now of each kind of trouble, by its rule.
 *
 * @phpstan-type Trouble array{object: string, title: string, words: string, link: string, server?: string}
 */
final class Conditions
{
    /** Most of one kind that are followed; a storm is told by its count. */
    public const MOST = 10_000;

    /** @return iterable<int, Trouble> */
    public static function of(NoticeRule $rule): iterable
    {
        return match ($rule->kind) {
            NoticeKind::Silent => self::silent(),
            NoticeKind::Leases => self::leases(),
            NoticeKind::Pair => self::pairs(),
            NoticeKind::Drift => self::drift($rule->threshold),
            NoticeKind::Behind => self::behind(),
            NoticeKind::Signature => self::signatures($rule->threshold),
            NoticeKind::Subnet => self::full($rule, FactKind::Subnet),
            NoticeKind::Scope => self::full($rule, FactKind::Scope),
            NoticeKind::Audit => self::audits($rule->threshold),
            NoticeKind::Draft => self::drafts($rule->threshold),
            NoticeKind::Due => self::missed(),
            NoticeKind::Hook => self::hooks(),
            NoticeKind::Report => self::reports(),
            NoticeKind::Right => self::rights(),
            NoticeKind::Figure => self::figures(),
        };
    }

    /** @return \Generator<int, Trouble> */
    private static function silent(): \Generator
    {
        foreach (self::states()->whereNotNull('problem')->get() as $row) {
            yield [
                'object' => (string) $row->server_id, 'title' => "$row->name cannot be read", 'words' => (string) $row->problem,
                'link' => at('ship.server', $row->server_id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function leases(): \Generator
    {
        foreach (self::states()->whereNotNull('leases_problem')->get() as $row) {
            yield [
                'object' => (string) $row->server_id, 'title' => "The leases of $row->name cannot be read",
                'words' => (string) $row->leases_problem, 'link' => at('ship.server', $row->server_id),
                'server' => (string) $row->server_id,
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function pairs(): \Generator
    {
        $rows = DB::table('pair_servers')->join('pairs', 'pairs.id', '=', 'pair_servers.pair_id')
            ->join('servers', 'servers.id', '=', 'pair_servers.server_id')->whereNotNull('shipped_at')
            ->where(static fn ($q) => $q->whereNull('state')->orWhere('state', '!=', PairState::Normal->value))
            ->limit(self::MOST)
            ->get(['pairs.id', 'pairs.name', 'servers.name AS on', 'state', 'pair_servers.server_id', 'first_id', 'second_id']);
        foreach ($rows as $row) {
            $state = PairState::tryFrom((string) $row->state);
            yield [
                'object' => $row->id.$row->server_id, 'title' => "$row->on in the pair $row->name is in ".($state->value ?? 'no state'),
                'words' => $state?->means() ?? 'it does not have the pair any more', 'link' => at('lease.pair', $row->id),
                // A partner that cannot be read is the cause, and told of by itself.
                'server' => (string) ($row->server_id === $row->first_id ? $row->second_id : $row->first_id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function drift(int $threshold): \Generator
    {
        $rows = DB::table('drifts')->join('servers', 'servers.id', '=', 'drifts.server_id')->groupBy('servers.id', 'servers.name')
            ->havingRaw('COUNT(*) >= ?', [$threshold])->selectRaw('servers.id, servers.name, COUNT(*) AS n, MIN(drifts.title) AS first')
            ->get();
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => "$row->name is not as it is meant",
                'words' => (int) $row->n === 1 ? (string) $row->first : "$row->first and ".((int) $row->n - 1).' more',
                'link' => at('ship.server', $row->id), 'server' => (string) $row->id,
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function behind(): \Generator
    {
        $rows = DB::table('zone_servers')->join('zones', 'zones.id', '=', 'zone_servers.zone_id')
            ->join(
                'servers',
                'servers.id',
                '=',
                'zone_servers.server_id',
            )->where('zone_servers.planned', false)->where('zones.serial', '>', 0)
            ->whereRaw('NOT (zone_servers.shipped_serial <=> zones.serial)')->limit(self::MOST)
            ->get(['zones.id', 'zones.name', 'zones.serial', 'servers.id AS server', 'servers.name AS on', 'shipped_serial']);
        foreach ($rows as $row) {
            yield [
                'object' => $row->id.$row->server, 'title' => rtrim((string) $row->name, '.')." on $row->on",
                'words' => $row->shipped_serial === null ? 'not there yet' : "serial $row->shipped_serial, meant is $row->serial",
                'link' => at('ship.server', $row->server), 'server' => (string) $row->server,
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function signatures(int $hours): \Generator
    {
        $rows = DB::table('signed_records')->join('zones', 'zones.id', '=', 'signed_records.zone_id')->groupBy('zones.id', 'zones.name')
            ->havingRaw('MIN(expires) < ?', [now()->getTimestamp() + $hours * 3600])
            ->selectRaw('zones.id, zones.name, MIN(expires) AS first')->get();
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => 'The signatures of '.rtrim((string) $row->name, '.').' end',
                'words' => 'the first '.CarbonImmutable::createFromTimestamp((int) $row->first)->format('j M, H:i').' UTC',
                'link' => at('name.zone.signing', $row->id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function full(NoticeRule $rule, FactKind $kind): \Generator
    {
        $facts = Catalogue::of($kind);
        $title = $facts[Catalogue::title($kind)];
        // What was told of stays until it falls well below.
        $known = Notice::query()->where('kind', $rule->kind->value)->whereNull('over_at')->pluck('cause')
            ->map(static fn (?string $c): string => substr((string) $c, strlen($rule->kind->value) + 1));
        $conditions = [new Condition('use', Test::Above, (string) ($rule->threshold - $rule->kind->slack()))];
        // A line between two routers is full by its nature.
        $kind === FactKind::Subnet ? $conditions[] = new Condition('usable', Test::Above, '6') : null;
        $rows = FactQuery::of($kind, Reach::whole(), null, $conditions)
            ->where(
                static fn ($q) => $q->whereRaw("({$facts['use']->sql}) >= ?", [$rule->threshold])->orWhereIn(FactQuery::id($kind), $known),
            )
            ->selectRaw(
                FactQuery::id($kind)." AS id, ($title->sql) AS title, ({$facts['use']->sql}) AS used, s.name AS site",
            )->limit(self::MOST)->get();
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => $title->type->shown($row->title).' is '.round((float) $row->used).' % full',
                'words' => (string) $row->site, 'link' => (string) Pages::ofFact($kind, (string) $row->id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function audits(int $threshold): \Generator
    {
        $rows = DB::table('audits')->where('active', true)->where('severity', 'error')->where('failing', '>=', max(1, $threshold))->get();
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => "\"$row->name\" fails", 'words' => "$row->failing objects",
                'link' => at('watch.audit', $row->id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function drafts(int $hours): \Generator
    {
        $rows = DB::table('drafts')->join('people', 'people.id', '=', 'drafts.person_id')->where('drafts.state', 'submitted')
            ->where('drafts.submitted_at', '<', now()->subHours($hours))->get(['drafts.id', 'drafts.title', 'people.name', 'submitted_at']);
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => "\"$row->title\" waits for agreement", 'words' => "of $row->name",
                'link' => at('ship.draft', $row->id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function missed(): \Generator
    {
        $rows = DB::table('drafts')->join('people', 'people.id', '=', 'drafts.person_id')->where('drafts.state', 'submitted')
            ->where('drafts.due_problem', '!=', '')->get(['drafts.id', 'drafts.title', 'people.name', 'due_problem']);
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id, 'title' => "A draft of $row->name was not committed at its time",
                'words' => (string) $row->due_problem, 'link' => at('ship.draft', $row->id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function hooks(): \Generator
    {
        $rows = DB::table('hook_states')->join('hooks', 'hooks.id', '=', 'hook_states.hook_id')->whereNotNull('parked_at')->get();
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id,
                'title' => "The hook $row->name is parked",
                'words' => 'its receiver did not take what it was sent',
                'link' => at('ship.hooks'),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function reports(): \Generator
    {
        $rows = DB::table('report_runs')->join('reports', 'reports.id', '=', 'report_runs.report_id')
            ->where('report_runs.state', ReportState::Failed)
            ->where('done_at', '>', now()->subDay())->get(['report_runs.id', 'reports.name', 'words', 'report_id']);
        foreach ($rows as $row) {
            yield [
                'object' => (string) $row->id,
                'title' => "The report \"$row->name\" was not brought",
                'words' => (string) $row->words,
                'link' => at('watch.report', $row->report_id),
            ];
        }
    }

    /** @return \Generator<int, Trouble> */
    private static function rights(): \Generator
    {
        foreach (RightTest::query()->with('person')->whereNotNull('found')->whereColumn('found', '!=', 'expected')->get() as $test) {
            yield [
                'object' => $test->id, 'title' => 'Not so any more: '.$test->sentence(), 'words' => 'a test of rights',
                'link' => at('directory.person', $test->person_id),
            ];
        }
    }

    /**
     * In every minute that was measured of those that a threshold names, and in at least half of them: a figure that was not read says
     * nothing.
     *
     * @return \Generator<int, Trouble>
     */
    private static function figures(): \Generator
    {
        foreach (Threshold::query()->orderBy('id')->get() as $limit) {
            $rows = DB::table('samples')->join('series', 'series.id', '=', 'samples.series_id')
                ->join('servers', 'servers.id', '=', 'series.server_id')->where('step', 1)
                ->where('samples.at', '>', now()->subMinutes($limit->minutes + 1)->format('Y-m-d H:i:s'))->where('family', $limit->family)
                ->when($limit->labels !== '', static fn ($q) => $q->where('labels', $limit->labels))
                ->groupBy('series.id', 'labels', 'servers.name', 'server_id')->havingRaw('COUNT(*) * 2 >= ?', [$limit->minutes])
                ->havingRaw($limit->above ? 'MIN(mean) > ?' : 'MAX(mean) < ?', [$limit->value])->limit(self::MOST)
                ->selectRaw('series.id, labels, servers.name, server_id, AVG(mean) AS mean')->get();
            foreach ($rows as $row) {
                yield [
                    'object' => "$row->id", 'title' => trim("$row->name: $limit->family $row->labels").' is '.round((float) $row->mean, 4),
                    'words' => $limit->line(), 'link' => at('watch.server', $row->server_id), 'server' => (string) $row->server_id,
                ];
            }
        }
    }

    private static function states(): \Illuminate\Database\Query\Builder
    {
        return DB::table('server_states')->join('servers', 'servers.id', '=', 'server_states.server_id');
    }
}
