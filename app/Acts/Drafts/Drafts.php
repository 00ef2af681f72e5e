<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Note;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\Person;
use App\Models\Role;
use Illuminate\Database\Eloquent\Builder;

/** A person's open draft, as acts that can be rehearsed, and what it touches. */
final class Drafts
{
    public static function open(Person $person): ?Draft
    {
        return Draft::query()->with('edits')->where('person_id', $person->id)->where('state', 'open')->first();
    }

    /** @return Builder<Draft> one's own; and what was laid before others, for those who decide or look after people */
    public static function readable(Person $person): Builder
    {
        $others = ! $person->isBound() && ($person->does(Role::Approver) || $person->does(Role::Steward));

        return Draft::query()->where(
            fn (Builder $q) => $q->where('drafts.person_id', $person->id)
                ->when($others, fn (Builder $o) => $o->orWhereNotNull('drafts.submitted_at')),
        );
    }

    /**
     * @return list<Act>
     *
     * @throws BadInput when an edit was made by an older version and cannot be read any more: none is passed over
     */
    public static function acts(?Draft $draft): array
    {
        $acts = [];
        foreach ($draft->edits ?? [] as $edit) {
            $class = Registry::find($edit->action)
                ?? throw new BadInput([
                    new Note(
                        'blocked',
                        'edit-unknown',
                        "\"$edit->title\" cannot be read any more",
                        'The act behind it is not known here; take the edit out and make it again.',
                    ),
                ]);
            try {
                $acts[] = $class::fromInput($edit->input);
            } catch (BadInput $e) {
                throw new BadInput([new Note('blocked', 'edit-unreadable', "\"$edit->title\" cannot be read any more", $e->getMessage())]);
            }
        }

        return $acts;
    }

    /** @return list<array<string, int>> */
    public static function expects(?Draft $draft): array
    {
        return $draft === null ? [] : array_values($draft->edits->map(fn (DraftEdit $e): array => $e->expects)->all());
    }

    /** @return array<string, string> "noun:id" → title of the edit that touches it */
    public static function touched(Person $person): array
    {
        $touched = [];
        foreach (self::open($person)->edits ?? [] as $edit) {
            foreach ($edit->touches as $object) {
                $touched[$object] = $edit->title;
            }
        }

        return $touched;
    }

    /**
     * What the last act of an outcome relied on and writes: versions of rows that were there before the draft, and all it touches.
     *
     * @return array{array<string, int>, list<string>}
     */
    public static function traces(Outcome $outcome): array
    {
        $ledgers = $outcome->ledgers;
        $last = array_pop($ledgers);
        $earlier = [];
        foreach ($ledgers as $ledger) {
            foreach ($ledger->written as $written) {
                $earlier["$written->noun:$written->id"] = true;
            }
        }
        $expects = $touches = [];
        foreach ($last->written ?? [] as $written) {
            $object = "$written->noun:$written->id";
            $touches[] = $object;
            if ($written->versionBefore !== null && ! isset($earlier[$object]) && \App\Models\Nouns::classOf($written->noun) !== null) {
                $expects[$object] = $written->versionBefore;
            }
        }

        return [$expects, array_values(array_unique($touches))];
    }
}
