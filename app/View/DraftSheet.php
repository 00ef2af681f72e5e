<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Drafts\Conflict;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\Note;
use App\Acts\Engine\NoteVerdict;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Written;
use App\Acts\Engine\WrittenPlaces;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Queries\Called;
use App\Shipping\Destinations;

/**
 * A draft as it is read: each edit with what it writes, old beside new, whether it holds, and where others wrote meanwhile.
 *
 * @phpstan-import-type Stop from Destinations
 *
 * @phpstan-type Line array{op: string, mark: string, object: string, home: string, what: string, was: string, will: string}
 * @phpstan-type Row array{edit: DraftEdit, number: int, reached: bool, rows: int, lines: list<Line>, more: int, block: ?Note, warned: int,
 *     at: array{site: list<string>, zone: list<string>, server: list<string>}, places: string, conflicts: list<Conflict>}
 */
final readonly class DraftSheet
{
    private const LINES = 12;

    /** @var list<Row> */
    public array $rows;

    public int $undecided;

    /**
     * @param  array<string, list<Conflict>>  $conflicts  by edit
     * @param  list<Stop>|null  $stops  where the whole goes; null for who is not told of servers
     */
    public function __construct(
        public Draft $draft,
        public ?Outcome $outcome,
        private Called $called,
        array $conflicts = [],
        private ?array $stops = [],
    ) {
        $rows = [];
        foreach ($draft->edits as $i => $edit) {
            $rows[] = $this->row($edit, (int) $i + 1, $outcome->ledgers[$i] ?? null, $conflicts[$edit->id] ?? []);
        }
        $this->rows = $rows;
        $this->undecided = count($conflicts);
    }

    /**
     * What has to be called by its name in it.
     *
     * @param  array<string, list<Conflict>>  $conflicts  by edit
     * @return array{list<array<string, mixed>>, array<string, string>, list<Written>} as Called takes it
     */
    public static function toCall(?Outcome $outcome, array $conflicts): array
    {
        $known = $changes = [];
        $written = $outcome?->written() ?? [];
        foreach ($written as $w) {
            $known[$w->id] = $w->line;
            array_push($changes, $w->before ?? [], $w->after ?? []);
        }
        foreach (array_merge(...array_values($conflicts), ...[[]]) as $conflict) {
            foreach ($conflict->ways as $way) {
                array_push($changes, ...array_map(static fn (string $k): array => [$way['column'] => $way[$k]], ['was', 'theirs', 'mine']));
            }
        }

        return [$changes, $known, $written];
    }

    /** How edits may be gathered. */
    private const BY = ['site' => 'by site', 'zone' => 'by zone', 'server' => 'by server'];

    /** @return array<key-of<self::BY>, string> how they may be gathered by who reads this */
    public function ways(): array
    {
        return $this->stops === null ? array_diff_key(self::BY, ['server' => true]) : self::BY;
    }

    /**
     * Edits by where they write; one that writes at several places stands at each.
     *
     * @param  key-of<self::BY>  $by
     * @return array<string, list<Row>> place → edits, in their order; those of no place last, under a blank
     */
    public function gathered(string $by): array
    {
        $gathered = $nowhere = [];
        foreach ($this->rows as $row) {
            foreach ($row['at'][$by] as $place) {
                $gathered[$place][] = $row;
            }
            $row['at'][$by] === [] ? $nowhere[] = $row : null;
        }
        ksort($gathered, SORT_NATURAL | SORT_FLAG_CASE);

        return $gathered + ($nowhere === [] ? [] : ['' => $nowhere]);
    }

    public function value(string $column, mixed $value): string
    {
        return $this->called->value($column, $value);
    }

    public function column(string $column): string
    {
        return $this->called->column($column);
    }

    /** @return list<Note> what the checks say of the whole, but for what passed */
    public function notes(): array
    {
        return array_values(array_filter($this->outcome?->notes() ?? [], static fn (Note $n): bool => $n->verdict !== NoteVerdict::Passed));
    }

    public function warns(): bool
    {
        return array_filter($this->notes(), static fn (Note $n): bool => $n->warns()) !== [];
    }

    /**
     * @param  list<Conflict>  $conflicts
     * @return Row
     */
    private function row(DraftEdit $edit, int $number, ?Ledger $ledger, array $conflicts): array
    {
        $notes = collect($ledger->notes ?? []);
        $written = array_values(array_filter($ledger->written ?? [], static fn (Written $w): bool => $w->noun !== 'draft'));
        $lines = [];
        foreach (array_slice($written, 0, self::LINES) as $w) {
            array_push($lines, ...$this->lines($w));
        }

        $at = WrittenPlaces::names($written);
        $goes = $this->stops === null || $ledger === null ? [] : Destinations::namesOf($this->stops, $ledger);
        $at['server'] = $this->stops === null ? [] : array_values(array_unique([...$at['server'], ...$goes]));

        return [
            'edit' => $edit, 'number' => $number, 'reached' => $ledger !== null, 'rows' => $ledger?->rows() ?? 0, 'lines' => $lines,
            'more' => ($ledger?->rows() ?? 0) - min(self::LINES, count($written)),
            'block' => $notes->first(static fn (Note $n): bool => $n->blocks()),
            'warned' => $notes->filter(static fn (Note $n): bool => $n->warns())->count(), 'at' => $at,
            'places' => implode(', ', array_unique(array_merge(...array_values($at)))),
            'conflicts' => $conflicts,
        ];
    }

    /** @return list<Line> one a column that turns; one for a row that comes or goes */
    private function lines(Written $w): array
    {
        $line = [
            'op' => $w->op, 'mark' => $w->word(), 'object' => $w->line, 'what' => $w->noun, 'was' => '', 'will' => '',
            'home' => $this->called->home($w->noun, $w->within),
        ];
        if ($w->op !== 'turn') {
            return [$line];
        }
        $lines = [];
        foreach ($w->before ?? [] as $column => $before) {
            $lines[] = [
                'object' => $lines === [] ? $w->line : '', 'home' => $lines === [] ? $line['home'] : '',
                'what' => $this->column((string) $column),
                'was' => $this->value((string) $column, $before), 'will' => $this->value((string) $column, $w->after[$column] ?? null),
            ] + $line;
        }

        return $lines === [] ? [$line] : $lines;
    }
}
