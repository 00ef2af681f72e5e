<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Engine\Ledger;
use App\Acts\Engine\Note;
use App\Acts\Engine\NoteVerdict;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Written;
use App\Queries\Called;

/** What an edit would write, grouped by kind, and what the checks say: ready to be drawn. */
final readonly class Follows
{
    /** Rows of a kind that stand open at once; the rest opens. */
    public const OPEN = 8;

    /** Rows of a kind that a page lists at all. */
    public const LISTED = 2000;

    /** @var array<string, list<Written>> "op noun" → rows */
    public array $groups;

    /** @var list<Note> */
    public array $notes;

    /** @var list<string> */
    public array $later;

    public bool $draftFails;

    public function __construct(public Outcome $outcome, public int $base, public Called $called)
    {
        $own = self::own($outcome, $base);
        $this->draftFails = $own === null && $base > 0;
        $groups = [];
        foreach ($own->written ?? [] as $written) {
            $groups["$written->op $written->noun"][] = $written;
        }
        $this->groups = $groups;
        $this->notes = $own === null ? $outcome->notes() : (new Outcome([$own], false))->notes();
        $this->later = array_values(array_unique(array_column($own->later ?? [], 0)));
    }

    public function count(NoteVerdict $verdict): int
    {
        return count(array_filter($this->notes, static fn (Note $n): bool => $n->verdict === $verdict));
    }

    /** "2 warned, 3 passed" */
    public function tally(): string
    {
        $said = [];
        foreach (NoteVerdict::cases() as $verdict) {
            $n = $this->count($verdict);
            if ($n > 0) {
                $said[] = "$n $verdict->value";
            }
        }

        return implode(', ', $said);
    }

    /** One line for who cannot see the panel: "2 rows written; 1 warned, 3 passed". */
    public function upshot(): string
    {
        $rows = array_sum(array_map(count(...), $this->groups)) + $this->outcome->bulk();
        $said = $this->outcome->blocked()
            ? 'Nothing can be written'
            : ($rows === 0 ? 'Nothing changes' : number_format($rows).' '.self::plural('row', $rows).' written');

        return implode('; ', array_filter([$said, $this->tally(), $this->outcome->block()->message ?? $this->outcome->trouble]));
    }

    public static function heading(string $group, int $count): string
    {
        [$op, $noun] = explode(' ', $group, 2);

        return number_format($count).' '.self::plural($noun, $count).' '.(Written::WORDS[$op] ?? $op);
    }

    public static function plural(string $noun, int $count): string
    {
        return match (true) {
            $count === 1 => $noun,
            str_ends_with($noun, 's') => $noun.'es',
            str_ends_with($noun, 'x') => $noun.'es',
            str_contains($noun, ' on ') => preg_replace('/^(\S+)/', '$1s', $noun) ?? $noun,
            default => $noun.'s',
        };
    }

    /**
     * What has to be called by its name in it.
     *
     * @return array{list<array<string, mixed>>, array<string, string>, list<Written>} as Called takes it
     */
    public static function toCall(Outcome $outcome, int $base): array
    {
        $known = $changes = [];
        foreach ($outcome->ledgers as $ledger) {
            foreach ($ledger->written as $written) {
                $known[$written->id] = $written->line;
            }
        }
        $own = self::own($outcome, $base)->written ?? [];
        foreach ($own as $written) {
            if ($written->op === 'turn') {
                array_push($changes, $written->before ?? [], $written->after ?? []);
            }
        }

        return [$changes, $known, $own];
    }

    /** What the edit itself writes, beside the draft that it stands on. */
    private static function own(Outcome $outcome, int $base): ?Ledger
    {
        $ledgers = $outcome->ledgers;

        return count($ledgers) > $base ? (end($ledgers) ?: null) : null;
    }
}
