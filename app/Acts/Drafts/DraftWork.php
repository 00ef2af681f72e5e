<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Note;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\Nouns;
use App\Models\Person;
use App\Queries\Reach;

/**
 * Works on the edits of a draft: takes one out, puts them in another order, amends one, decides where others wrote meanwhile. What each
 * edit relies on follows it: a row that two edits write is relied on by the first of them, whichever that is now, as it was when it was
 * seen.
 *
 * @phpstan-import-type Arranged from ArrangeEdits
 */
final readonly class DraftWork
{
    public function __construct(private Acts $acts)
    {
    }

    public function takeOut(Person $person, Draft $draft, string $edit): Outcome
    {
        return $this->arrange($person, $draft, self::rows($draft->edits->where('id', '!=', $edit)));
    }

    /** @param  int  $by  places; below 0: earlier */
    public function move(Person $person, Draft $draft, string $edit, int $by): Outcome
    {
        $rows = self::rows($draft->edits);
        $at = array_search($edit, array_column($rows, 'id'), true);
        if ($at !== false) {
            [$moved] = array_splice($rows, $at, 1);
            array_splice($rows, max(0, min(count($rows), $at + $by)), 0, [$moved]);
        }

        return $this->arrange($person, $draft, array_values($rows));
    }

    /** The edit with other inputs. */
    public function amend(Person $person, Draft $draft, string $edit, Act $act): Outcome
    {
        $anew = ['input' => $act->toInput(), 'title' => $act->title()] + ($person->id === $draft->person_id ? [] : ['by' => $person->id]);
        $rows = array_map(static fn (array $r): array => $r['id'] === $edit ? $anew + $r : $r, self::rows($draft->edits));

        return $this->arrange($person, $draft, $rows);
    }

    /** The draft as it would be with an edit of other inputs: what that edit says to it. */
    public function amended(Draft $draft, string $edit, Act $act): Outcome
    {
        $acts = $expects = [];
        foreach ($draft->edits as $row) {
            $acts[] = $row->id === $edit ? $act : Drafts::act($row);
            $expects[] = [];
            if ($row->id === $edit) {
                break;
            }
        }

        return $this->acts->rehearse($draft->person, $acts, $expects);
    }

    /**
     * May somebody who is not its author have this edit so? As if they did it themselves: on top of the draft, or where that is not theirs
     * to do, alone.
     *
     * @return ?Note why not
     */
    public function stops(Person $person, Draft $draft, string $edit, Act $act): ?Note
    {
        if ($person->id === $draft->person_id) {
            return null;
        }
        $before = [];
        foreach ($draft->edits as $row) {
            if ($row->id === $edit) {
                break;
            }
            $before[] = Drafts::act($row);
        }
        $block = $this->acts->rehearse($person, [...$before, $act])->block();

        return $block === null ? null : $this->acts->rehearse($person, [$act])->block();
    }

    /**
     * Mine stays on top of what was shown; nothing else is known to be there.
     *
     * @param  array<string, int>  $shown  "noun:id" → the version that was shown
     */
    public function keepMine(Person $person, Draft $draft, string $edit, array $shown): Outcome
    {
        $found = [];
        foreach ($this->conflicts($draft)[$edit] ?? [] as $conflict) {
            $found[$conflict->object] = $conflict->version;
        }
        if (array_intersect_assoc($shown, array_filter($found, is_int(...))) !== $shown) {
            return self::notAsShown();
        }
        $rows = array_map(
            static fn (array $r): array => $r['id'] === $edit ? ['expects' => $shown + $r['expects']] + $r : $r,
            self::rows($draft->edits),
        );

        return $this->arrange($person, $draft, $rows, decides: true);
    }

    /** Theirs stays: the edit lets go of that object, and of itself where that was all it spoke of. */
    public function takeTheirs(Person $person, Draft $draft, string $edit, string $object): Outcome
    {
        if (! in_array($object, array_map(static fn (Conflict $c): string => $c->object, $this->conflicts($draft)[$edit] ?? []), true)) {
            return self::notAsShown();
        }
        $rows = [];
        foreach ($draft->edits as $row) {
            $without = $row->id === $edit ? self::without($row, $object) : [];
            if ($without === null) {
                continue;
            }
            $one = $without + self::row($row);
            unset($one['expects'][$row->id === $edit ? $object : '']);
            $rows[] = $one;
        }

        return $this->arrange($person, $draft, $rows, decides: true);
    }

    private static function notAsShown(): Outcome
    {
        return new Outcome([], false, 'It was changed once more, or is decided already; look again');
    }

    /** @return array{input: array<string, mixed>, title: string}|null null when nothing of the edit is left */
    private static function without(DraftEdit $edit, string $object): ?array
    {
        $class = Registry::find($edit->action);
        $id = explode(':', $object, 2)[1] ?? '';
        $input = $edit->input;
        if ($class === null) {
            return null;
        }
        foreach (Inputs::of($class) as $name => $field) {
            if ($field->kind === Kind::Ids && is_array($input[$name] ?? null) && in_array($id, $input[$name], true)) {
                $input[$name] = array_values(array_diff($input[$name], [$id]));
                if ($input[$name] === []) {
                    return null;
                }

                return ['input' => $input, 'title' => $class::fromInput($input)->title()];
            }
        }

        return null;
    }

    /** @param  list<Arranged>  $rows  the edits that stay, in order */
    private function arrange(Person $person, Draft $draft, array $rows, bool $decides = false): Outcome
    {
        $act = new ArrangeEdits($draft->id, $draft->digest(), $this->settled($draft, $rows), $decides);

        return $this->acts->commit($person, [$act]);
    }

    /**
     * What each edit relies on and touches in this order, found by doing them; where that stops, the rest keeps what it had.
     *
     * @param  list<Arranged>  $rows
     * @return list<Arranged>
     */
    private function settled(Draft $draft, array $rows): array
    {
        $known = [];
        foreach ([...$rows, ...self::rows($draft->edits)] as $row) {
            $known += $row['expects'];
        }
        $ledgers = $this->looked($draft, $rows)->ledgers ?? [];
        $given = [];
        foreach ($rows as $i => $row) {
            $through = isset($ledgers[$i]) && array_filter($ledgers[$i]->notes, static fn ($n): bool => $n->blocks()) === [];
            if ($through) {
                [$expects, $touches] = Drafts::traces(new Outcome(array_slice($ledgers, 0, $i + 1), false));
                foreach ($expects as $object => $version) {
                    $expects[$object] = $known[$object] ?? $version;
                }
                $row = ['expects' => $expects, 'touches' => $touches] + $row;
            } else {
                $mine = array_intersect_key($known, array_flip($row['touches']));
                $row['expects'] = array_diff_key($row['expects'] + $mine, $given);
            }
            $given += $row['expects'];
            $rows[$i] = $row;
        }

        return $rows;
    }

    /** @param  list<Arranged>  $rows */
    private function looked(Draft $draft, array $rows): ?Outcome
    {
        try {
            $acts = array_map(
                static fn (array $r): Act => Drafts::act($draft->edits->find($r['id']), $r['input']),
                $rows,
            );
        } catch (BadInput) {
            // An edit that cannot be read any more is taken out: until then nothing can be found by doing.
            return null;
        }

        return $this->acts->rehearse($draft->person, $acts);
    }

    /**
     * Where others wrote what the draft writes, since it was seen: three-way, edit by edit.
     *
     * @param  ?Outcome  $rehearsed  the draft as it is now, where that was done already
     * @return array<string, list<Conflict>> by edit
     */
    public function conflicts(Draft $draft, ?Outcome $rehearsed = null): array
    {
        $rows = self::rows($draft->edits);
        $through = $rehearsed !== null && ! $rehearsed->blocked();
        $ledgers = ($through ? $rehearsed : $this->looked($draft, $rows))->ledgers ?? [];
        $reach = Reach::of($draft->person);
        $earlier = $found = [];
        foreach ($rows as $i => $row) {
            $wrote = [];
            foreach ($ledgers[$i]->written ?? [] as $w) {
                $wrote["$w->noun:$w->id"][] = $w;
            }
            $new = array_filter(
                array_diff_key($wrote, $row['expects'], $earlier),
                static fn (array $ws): bool => $ws[0]->versionBefore !== null && Nouns::classOf($ws[0]->noun) !== null,
            );
            foreach ($row['expects'] + array_map(static fn (): int => 0, $new) as $object => $version) {
                $conflict = Conflict::of($reach, $object, $version, $wrote[$object] ?? []);
                if ($conflict !== null) {
                    $found[$row['id']][] = $conflict;
                }
            }
            $earlier += $wrote;
        }

        return $found;
    }

    /**
     * @param  iterable<DraftEdit>  $edits
     * @return list<Arranged>
     */
    private static function rows(iterable $edits): array
    {
        $rows = [];
        foreach ($edits as $edit) {
            $rows[] = self::row($edit);
        }

        return $rows;
    }

    /** @return Arranged */
    private static function row(DraftEdit $e): array
    {
        return ['id' => $e->id, 'input' => $e->input, 'expects' => $e->expects, 'touches' => $e->touches, 'title' => $e->title];
    }
}
