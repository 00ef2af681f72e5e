<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Person;
use Carbon\CarbonImmutable;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The history, an entry an act, the newest first: who did what when, to how much; filtered by words. */
final class HistoryPage
{
    private const ENTRIES = 40;

    /** Numbers that are looked through in one step, and steps of one page: a page costs the same however long the history is. */
    private const WINDOW = 5000;

    private const WINDOWS = 20;

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'by:' => 'sign-in name of a person', 'act:place-host' => 'the act', 'kind:zone' => 'a kind of object that it wrote',
        'since:2026-11-01' => 'from that day', 'until:2026-11-30' => 'to that day', 'via:' => 'name of a program',
    ];

    /** @var list<string> */
    public array $misread = [];

    /** The number to go on from; null at the end. */
    public ?int $next = null;

    /** How far back it was looked, when there may be more and the page is not full. */
    public ?CarbonImmutable $looked = null;

    public function __construct(private readonly string $filter)
    {
    }

    /**
     * @return list<array{act: string, at: CarbonImmutable, person: ?string, action: string, via: ?string, reason: ?string, rows: int,
     *     parts: list<string>, first: string}>
     */
    public function entries(?int $before): array
    {
        $at = $before ?? (int) DB::table('history')->max('id') + 1;
        $acts = [];
        for ($window = 0; $window < self::WINDOWS && $at > 1 && count($acts) < self::ENTRIES; $window++) {
            $from = max(1, $at - self::WINDOW);
            $found = $this->narrowed()->where('id', '>=', $from)->where('id', '<', $at)->groupBy('act_id')
                ->selectRaw('act_id, MAX(id) AS last')->orderByDesc('last')->limit(self::ENTRIES + 1)->get();
            foreach ($found as $row) {
                $acts[(string) $row->act_id] ??= (int) $row->last;
            }
            $at = $from;
        }
        arsort($acts);
        $more = count($acts) > self::ENTRIES;
        $acts = array_slice($acts, 0, self::ENTRIES, true);
        $this->next = $more && $acts !== [] ? min($acts) : ($at > 1 ? $at : null);
        if (! $more && $at > 1) {
            $when = DB::table('history')->where('id', '>=', $at)->orderBy('id')->value('at');
            $this->looked = is_string($when) ? CarbonImmutable::parse($when) : null;
        }

        return $this->told(array_keys($acts), $before);
    }

    /**
     * @param  list<int|string>  $acts
     * @return list<array{act: string, at: CarbonImmutable, person: ?string, action: string, via: ?string, reason: ?string, rows: int,
     *     parts: list<string>, first: string}>
     */
    private function told(array $acts, ?int $before): array
    {
        $entries = array_fill_keys($acts, null);
        $rows = DB::table('history')->whereIn('act_id', $acts)->groupBy('act_id', 'object_type', 'op')
            ->selectRaw(
                "act_id, object_type, CASE WHEN `before` IS NULL THEN 'new' WHEN after IS NULL THEN 'removed' ELSE 'changed' END AS op, "
                    .'COUNT(*) AS n, MIN(id) AS first, MAX(id) AS last, MIN(at) AS at, MAX(person_id) AS person_id, '
                    .'MAX(action) AS action, MAX(via) AS via, MAX(reason) AS reason',
            )->orderBy('first')->get();
        $titles = DB::table('history')->whereIn('id', $rows->groupBy('act_id')->map(static fn ($g) => $g->min('first')))
            ->pluck('title', 'act_id');
        // An act whose rows reach over the edge of the page before stands there.
        $shown = $before === null ? [] : $rows->where('last', '>=', $before)->pluck('act_id')->flip()->all();
        foreach ($rows as $row) {
            if (isset($shown[$row->act_id])) {
                continue;
            }
            $act = (string) $row->act_id;
            $entries[$act] ??= [
                'act' => $act, 'at' => CarbonImmutable::parse((string) $row->at), 'person' => $row->person_id,
                'action' => (string) $row->action,
                'via' => $row->via, 'reason' => $row->reason, 'rows' => 0, 'parts' => [], 'first' => (string) ($titles[$act] ?? ''),
            ];
            $entries[$act]['rows'] += (int) $row->n;
            $entries[$act]['parts'][] = number_format((int) $row->n).' '.self::plural(
                (string) $row->object_type,
                (int) $row->n,
            )." $row->op";
        }

        return array_values(array_filter($entries));
    }

    /**
     * Every row that fits, the oldest first, each with its link in the chain: however many, they are read as they are sent.
     *
     * @return \Generator<int, array<string, mixed>>
     */
    public function rows(): \Generator
    {
        $people = Person::query()->pluck('sign_in', 'id');
        foreach ($this->narrowed()->lazyById(self::WINDOW, 'id') as $row) {
            $link = DB::table('history_chain')->where('history_id', $row->id)->first();
            $read = static fn (?string $json): mixed => $json === null ? null : json_decode($json, true);
            yield [
                'number' => (int) $row->id, 'at' => str_replace(' ', 'T', (string) $row->at).'Z', 'by' => $people[$row->person_id] ?? null,
                'via' => $row->via, 'act' => $row->action, 'change' => $row->act_id, 'kind' => $row->object_type,
                'object' => $row->object_id,
                'title' => $row->title, 'before' => $read($row->before), 'after' => $read($row->after), 'reason' => $row->reason,
                'link' => $link?->seq, 'hash' => $link?->hash,
            ];
        }
    }

    private function narrowed(): Builder
    {
        $query = DB::table('history');
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            $expected = match ($key) {
                null => self::where($query, 'title', 'like', '%'.FilterWords::start($value)),
                'by' => self::by($query, $value),
                'act' => self::where($query, 'action', '=', $value),
                'kind' => self::where($query, 'object_type', '=', $value),
                'via' => self::where($query, 'via', 'like', 'token '.FilterWords::start($value)),
                'since', 'until' => self::day($query, $key, $value),
                default => 'there are by:, act:, kind:, since:, until:, via:, and words of what was written',
            };
            if ($expected !== null) {
                $words->misread($word, $expected);
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return $query;
    }

    private static function where(Builder $query, string $column, string $is, string $value): null
    {
        $query->where($column, $is, $value);

        return null;
    }

    private static function by(Builder $query, string $value): ?string
    {
        $ids = Person::query()->where('sign_in', $value)->pluck('id');
        $query->whereIn('person_id', $ids);

        return $ids->isEmpty() ? 'nobody signs in so' : null;
    }

    private static function day(Builder $query, string $key, string $value): ?string
    {
        $day = preg_match('/\A\d{4}-\d\d-\d\d\z/', $value) === 1 ? CarbonImmutable::createFromFormat('!Y-m-d', $value) : null;
        if ($day === null) {
            return 'a day is meant, as 2026-11-26';
        }
        $key === 'since' ? $query->where('at', '>=', $day) : $query->where('at', '<', $day->addDay());

        return null;
    }

    private static function plural(string $noun, int $count): string
    {
        return $count === 1 ? $noun : ($noun.(str_ends_with($noun, 's') || str_ends_with($noun, 'x') ? 'es' : 's'));
    }
}
