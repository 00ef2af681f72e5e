<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Report;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Condition;
use App\Queries\Facts\Fact;
use App\Queries\Facts\FactQuery;
use Illuminate\Database\Query\Builder;

/** The rows of a report, as far as somebody may see them. */
final readonly class ReportTable
{
    /** @param  array<string, Fact>  $columns */
    private function __construct(public Report $report, public array $columns, private Builder $query)
    {
    }

    public static function of(Report $report, Reach $reach): self
    {
        $kind = $report->kind;
        $facts = Catalogue::of($kind);
        $columns = [];
        foreach ($report->columns as $key) {
            isset($facts[$key]) ? $columns[$key] = $facts[$key] : null;
        }
        $columns = $columns === [] ? array_slice($facts, 0, 5, true) : $columns;
        $sites = $report->site_id === null ? null : SitesBelow::of($report->site_id);

        return new self($report, $columns, FactQuery::of($kind, $reach, $sites, Condition::all($kind, $report->conditions)));
    }

    /** What it asks for, in words. */
    public function words(): string
    {
        return Condition::sentence($this->report->kind, Condition::all($this->report->kind, $this->report->conditions));
    }

    public function count(): int
    {
        return (clone $this->query)->count();
    }

    /** @return \Generator<int, array{id: string, by: string, cells: array<string, string>}> */
    public function rows(?int $most = null): \Generator
    {
        $query = $this->ordered();
        // Read in parts: a hundred thousand rows are never in memory together.
        foreach ($most === null ? $query->lazy(1000) : $query->limit($most)->get() as $row) {
            $cells = [];
            foreach ($this->columns as $key => $fact) {
                $cells[$key] = $fact->type->shown($row->{$key});
            }
            yield ['id' => (string) $row->object_id, 'by' => (string) ($row->stands_by ?? ''), 'cells' => $cells];
        }
    }

    /** @return array<string, float|int> group → rows in it, most first; nothing when rows do not stand together */
    public function groups(): array
    {
        $by = $this->by();

        return $by === null ? [] : (clone $this->query)->selectRaw("($by->sql) AS stands_by, COUNT(*) AS n")->groupBy('stands_by')
            ->orderByDesc('n')->limit(30)->get()->mapWithKeys(static fn ($r): array => [(string) $r->stands_by => (int) $r->n])->all();
    }

    public function by(): ?Fact
    {
        return Catalogue::of($this->report->kind)[$this->report->by] ?? null;
    }

    private function ordered(): Builder
    {
        $kind = $this->report->kind;
        $query = (clone $this->query)->selectRaw(FactQuery::id($kind).' AS object_id');
        foreach ($this->columns as $key => $fact) {
            $query->selectRaw("($fact->sql) AS `$key`");
        }
        $by = $this->by();
        if ($by !== null) {
            $query->selectRaw("($by->sql) AS stands_by")->orderByRaw("($by->sql)");
        }
        $down = str_starts_with($this->report->sort, '-');
        $sort = Catalogue::of($kind)[ltrim($this->report->sort, '-')] ?? Catalogue::of($kind)[Catalogue::title($kind)];

        return $query->orderByRaw("($sort->sql) ".($down ? 'DESC' : 'ASC'))->orderByRaw(FactQuery::id($kind));
    }
}
