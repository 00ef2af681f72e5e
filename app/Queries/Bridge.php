<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Audit;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftState;
use App\Models\DraftVerdict;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Report;
use App\Models\ReportState;
use App\Models\Role;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Queries\Facts\Fact;
use Carbon\CarbonImmutable;
use HarborPost\Core\Checks\Severity;
use Illuminate\Support\Facades\DB;

/** What needs a person, panel by panel, in the order that they chose: each line says what it is and leads there. */
final readonly class Bridge
{
    /** key → title and what it says when it has nothing */
    public const PANELS = [
        'waits' => ['Waits for you', 'Nothing waits for you.'],
        'wrong' => ['What is wrong', 'Nothing that was looked at is wrong.'],
        'fills' => ['Fills first', 'No subnet is filling as far as its samples tell.'],
        'servers' => ['Servers', 'No server is written down yet.'],
        'favourites' => ['Favourites', 'Mark a prefix with the star on its page, and it stands here.'],
        'touched' => ['You did last', 'What you commit stands here.'],
        'report' => ['A report', 'Keep one here from its page.'],
        'chart' => ['A chart', 'Keep one here from the figures of a server.'],
    ];

    private const ROWS = 8;

    private function __construct(private Person $person, private Reach $reach)
    {
    }

    /** @return array<string, list<array{mark: string, words: string, hint: string, link: ?string}>> panel → its lines, in order */
    public static function of(Person $person): array
    {
        $bridge = new self($person, Reach::of($person));
        $panels = [];
        foreach (self::order($person) as $key) {
            $panels[$key] = match ($key) {
                'waits' => $bridge->waits(),
                'wrong' => $bridge->wrong(),
                'fills' => $bridge->fills(),
                'servers' => $bridge->servers(),
                'favourites' => $bridge->favourites(),
                'report' => $bridge->report(),
                'chart' => [],
                default => $bridge->touched(),
            };
        }

        return $panels;
    }

    /** @return list<string> those that the person has, in the order that they chose; new ones at the end */
    public static function order(Person $person): array
    {
        $own = array_values(array_diff(self::offered($person), $person->bridge['away'] ?? []));
        $chosen = array_values(array_intersect(explode(' ', (string) $person->panels), $own));

        return [...$chosen, ...array_values(array_diff($own, $chosen))];
    }

    /** @return list<string> those that the person took away */
    public static function away(Person $person): array
    {
        return array_values(array_intersect(self::offered($person), $person->bridge['away'] ?? []));
    }

    /** @return list<string> */
    private static function offered(Person $person): array
    {
        return $person->isBound() ? ['waits', 'fills', 'favourites', 'report'] : array_keys(self::PANELS);
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function waits(): array
    {
        return array_slice([...$this->agreements(), ...$this->drafts(), ...$this->work()], 0, self::ROWS);
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> drafts of others, the oldest first */
    private function agreements(): array
    {
        return self::lines(
            Waiting::drafts($this->person)->with('person')->limit(self::ROWS)->get(),
            fn (Draft $d): array => [
                'wait', "{$d->person->name} asks you to read \"{$d->line()}\"", self::ago($d->submitted_at), at('ship.draft', $d->id),
            ],
        );
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> one's own */
    private function drafts(): array
    {
        $own = Draft::query()->withCount('edits')->with('decisions.person')->where('person_id', $this->person->id)
            ->whereIn('state', [DraftState::Open, DraftState::Submitted])->orderBy('started_at')->limit(self::ROWS)->get()
            ->filter(fn (Draft $d): bool => (int) $d->getAttribute('edits_count') > 0);

        return self::lines($own, function (Draft $d): array {
            $standing = $d->decisions->whereNull('void_at');
            $refused = $standing->firstWhere('verdict', DraftVerdict::Refused);
            $agreed = $standing->where('verdict', DraftVerdict::Agreed)->count();
            $n = (int) $d->getAttribute('edits_count');

            return match (true) {
                $d->state === DraftState::Open => [
                    'turn',
                    "Your draft has $n ".($n === 1 ? 'edit that is' : 'edits that are').' not true yet',
                    self::ago($d->started_at),
                    at('ship.draft.mine'),
                ],
                $refused !== null => ['stop', "{$refused->person->name} refused \"{$d->line()}\"", $refused->reason,
                    at('ship.draft', $d->id)],
                $agreed > 0 => [
                    'ok',
                    "\"{$d->line()}\": $agreed agreed; you commit it",
                    self::ago($d->submitted_at),
                    at('ship.draft', $d->id),
                ],
                default => ['wait', "\"{$d->line()}\" waits for others", self::ago($d->submitted_at), at('ship.draft', $d->id)],
            };
        });
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> shipments that failed, imports that are read */
    private function work(): array
    {
        $lines = [];
        if ($this->person->operatesAll()) {
            $last = Shipment::query()->selectRaw('MAX(id)')->groupBy('server_id');
            $names = Server::query()->pluck('name', 'id');
            array_push($lines, ...self::lines(
                Shipment::query()->whereIn('id', $last)->whereIn('state', ShipmentState::FELL_SHORT)->orderByDesc('id')->limit(self::ROWS)
                    ->get(),
                fn (Shipment $s): array => [
                    'stop', 'The last shipment to '.($names[$s->server_id] ?? 'a server').' did not end well', $s->state->value,
                    at('ship.server', $s->server_id),
                ],
            ));
        }
        $brought = DB::table('report_runs')->join('reports', 'reports.id', '=', 'report_runs.report_id')->where('state', ReportState::Done)
            ->where('report_runs.person_id', $this->person->id)->whereNull('seen_at')->orderByDesc('report_runs.id')->limit(3)
            ->get(['report_runs.id', 'reports.name', 'words', 'done_at']);
        foreach ($brought as $run) {
            $lines[] = self::line('wait', "The report \"$run->name\" is new", (string) $run->words, at('watch.reports'));
        }
        array_push($lines, ...self::lines(
            Import::query()->where('person_id', $this->person->id)->where('state', ImportState::Judged)
                ->orderByDesc('id')->limit(self::ROWS)->get(),
            fn (Import $i): array => [
                'wait',
                "$i->file_name is read and waits to be taken over",
                self::ago($i->started_at),
                at('import.one', $i->id),
            ],
        ));

        return $lines;
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function wrong(): array
    {
        $lines = [];
        $names = Server::query()->pluck('name', 'id');
        $drifted = DB::table('drifts')->groupBy('server_id')->selectRaw('server_id, COUNT(*) AS n')->pluck('n', 'server_id');
        foreach (DB::table('server_states')->get() as $state) {
            $name = $names[$state->server_id] ?? '?';
            $page = at('ship.server', $state->server_id);
            if ($state->problem !== null) {
                $lines[] = self::line('stop', "$name could not be read", (string) $state->problem, $page);
            }
            if ($state->leases_problem !== null) {
                $lines[] = self::line('stop', "The leases of $name could not be read", (string) $state->leases_problem, $page);
            }
            $n = (int) ($drifted[$state->server_id] ?? 0);
            if ($n > 0) {
                $lines[] = self::line(
                    'warn',
                    $n === 1 ? "1 object on $name is not as it is meant" : "$n objects on $name are not as they are meant",
                    'drift',
                    // There each thing that differs stands with what can be done of it: a zone, a scope, how it resolves.
                    $page,
                );
            }
        }
        $counts = (new Coverage($this->reach, ''))->counts();
        foreach ([
            'undivided' => 'live scopes are undivided: two servers may lease one address',
            'nobody' => 'live scopes are on no server',
        ] as $how => $says) {
            if ($counts[$how] > 0) {
                $lines[] = self::line('warn', "$counts[$how] $says", 'coverage', at('lease.coverage')."?filter=is:$how");
            }
        }
        foreach (Audit::query()->where('active', true)->where('failing', '>', 0)->orderByRaw("severity = 'error' DESC")
            ->orderByDesc('failing')->limit(3)->get() as $audit) {
            $lines[] = self::line(
                $audit->severity === Severity::Error ? 'stop' : 'warn',
                ($audit->failing === 1 ? '1 object fails' : number_format($audit->failing).' objects fail')." \"$audit->name\"",
                'audit, run '.self::ago($audit->run_at),
                at('watch.audit', $audit->id),
            );
        }
        $emergencies = DraftDecision::query()->with('draft')->where('verdict', DraftVerdict::Emergency)
            ->where('at', '>', now()->subDays(7))->orderByDesc('at')->limit(self::ROWS)->get();
        if ($this->person->does(Role::Approver)) {
            array_push($lines, ...self::lines($emergencies, fn (DraftDecision $d): array => [
                'warn', "\"{$d->draft->line()}\" was committed without agreement", $d->reason, at('ship.draft', $d->draft_id),
            ]));
        }

        return array_slice($lines, 0, self::ROWS);
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function fills(): array
    {
        return self::lines(Forecasts::filling($this->reach->prefixes(), self::ROWS), static fn (array $f): array => [
            $f['percent'] >= (float) config('harbor.high_water') ? 'warn' : 'wait', $f['prefix']->line(),
            round($f['percent']).' % now, full about '.CarbonImmutable::createFromTimestamp(86400 * $f['day'])->format('j M Y'),
            at('plan.prefix', $f['prefix']->id),
        ]);
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function servers(): array
    {
        $states = DB::table('server_states')->get()->keyBy('server_id');

        return self::lines(Server::query()->orderBy('name')->limit(self::ROWS * 2)->get(), function (Server $s) use ($states): array {
            $state = $states[$s->id] ?? null;
            $seen = $state?->compared_at === null ? null : CarbonImmutable::parse((string) $state->compared_at);

            return [
                $state?->problem !== null ? 'stop' : ($seen === null ? 'wait' : ((int) $state->differing > 0 ? 'turn' : 'ok')),
                "$s->name, {$s->kind->value}",
                match (true) {
                    $state?->problem !== null => 'does not answer since '.self::ago(CarbonImmutable::parse((string) $state->problem_since)),
                    $seen === null => 'not compared yet',
                    (int) $state->differing > 0 => "$state->differing of $state->compared differ, ".self::ago($seen),
                    default => "$state->compared as meant, ".self::ago($seen),
                },
                at('ship.server', $s->id),
            ];
        });
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function favourites(): array
    {
        $ids = DB::table('favourites')->where('person_id', $this->person->id)->pluck('prefix_id');

        return self::lines(
            $this->reach->prefixes()->with('site')->whereIn('id', $ids)->orderBy('family')->orderBy('first')->limit(self::ROWS)->get(),
            fn (Prefix $p): array => ['open', $p->line(), $p->site->name ?? '', at('plan.prefix', $p->id)],
        );
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> */
    private function touched(): array
    {
        $entries = array_filter(
            (new HistoryPage("by:{$this->person->sign_in}"))->entries(null),
            static fn (array $e): bool => ! in_array($e['parts'], [['1 person changed'], ['1 token new']], true),
        );

        return array_map(static fn (array $e): array => self::line(
            'turn',
            ucfirst(str_replace('-', ' ', $e['action'])).": $e[first]",
            implode(', ', $e['parts']).', '.self::ago($e['at']),
            at('watch')."?act={$e['act']}",
        ), array_values(array_slice($entries, 0, self::ROWS)));
    }

    /** @return list<array{mark: string, words: string, hint: string, link: ?string}> the first rows of the report that is kept there */
    private function report(): array
    {
        $report = Report::openTo($this->person)->find($this->person->bridge['report'] ?? '');
        if ($report === null) {
            return [];
        }
        $run = RunHead::of($report, $this->person, self::ROWS - 1);
        $lines = [self::line(
            'open',
            $report->name,
            $run === null ? 'as it is now' : "$run->words, ".self::ago($run->at),
            at('watch.report', $report->id),
        )];
        $table = $run === null ? ReportTable::of($report, $this->reach) : null;
        $heads = $run->heads ?? array_map(static fn (Fact $f): string => $f->label, array_values($table->columns ?? []));
        $rows = $run->rows ?? array_map(
            static fn (array $r): array => array_values($r['cells']),
            $table === null ? [] : iterator_to_array($table->rows(self::ROWS - 1), false),
        );
        foreach ($rows as $row) {
            $more = [];
            foreach (array_slice($row, 1) as $i => $cell) {
                // A number says nothing without its head, a name says all of it.
                $cell === '' ?: $more[] = is_numeric($cell) ? lcfirst($heads[$i + 1] ?? '')." $cell" : $cell;
            }
            $lines[] = self::line('', $row[0] ?? '', implode(', ', $more), null);
        }

        return $lines;
    }

    /** @return ?array{server: Server, family: string, course: array<string, mixed>} the day of the figure that is kept there */
    public static function chart(Person $person): ?array
    {
        [$id, $family] = ($person->bridge['chart'] ?? null) ?? ['', ''];
        $server = $id === '' || ! Reach::of($person)->isWhole() ? null : Server::query()->find($id);

        return $server === null ? null : ['server' => $server, 'family' => $family, 'course' => Figures::course($id, $family, 'day')];
    }

    /**
     * @template T
     *
     * @param  iterable<T>  $rows
     * @param  \Closure(T): array{string, string, string, ?string}  $line
     * @return list<array{mark: string, words: string, hint: string, link: ?string}>
     */
    private static function lines(iterable $rows, \Closure $line): array
    {
        $lines = [];
        foreach ($rows as $row) {
            $lines[] = self::line(...$line($row));
        }

        return $lines;
    }

    /** @return array{mark: string, words: string, hint: string, link: ?string} */
    private static function line(string $mark, string $words, string $hint, ?string $link): array
    {
        return ['mark' => $mark, 'words' => $words, 'hint' => mb_strimwidth($hint, 0, 120, '…'), 'link' => $link];
    }

    private static function ago(?CarbonImmutable $at): string
    {
        return $at === null ? '' : $at->diffForHumans();
    }
}
