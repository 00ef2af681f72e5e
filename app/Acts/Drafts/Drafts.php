<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Note;
use App\Acts\Engine\NoteVerdict;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Person;
use App\Models\Role;
use Illuminate\Database\Eloquent\Builder;

/** Drafts that a person works on or may read, as acts that can be rehearsed, and what they touch. */
final class Drafts
{
    /** How many drafts, the youngest first, mark what they touch. */
    private const LOOKED_AT = 100;

    /** The draft that a person's edits go to. */
    public static function open(Person $person): ?Draft
    {
        $draft = Draft::query()->with(['edits', 'person'])->where('state', DraftState::Open)
            ->whereIn('id', DraftHand::query()->where('person_id', $person->id)->where('current', true)->select('draft_id'))->first();

        return $draft !== null && ($draft->person_id === $person->id || self::mayBeShared($draft->person, $person)) ? $draft : null;
    }

    /** Somebody bound to a tenant learns nothing from a draft of others, except of those who see no more than they do. */
    public static function mayBeShared(?Person $author, Person $with): bool
    {
        return $author !== null && $author->active && (! $with->isBound() || $with->tenant_id === $author->tenant_id);
    }

    /** @return Builder<Draft> those that a person works on */
    public static function inHandsOf(Person $person): Builder
    {
        return Draft::query()->where(
            fn (Builder $q) => $q->where('drafts.person_id', $person->id)->orWhere(
                fn (Builder $o) => $o
                    ->whereIn('drafts.id', DraftHand::query()->where('person_id', $person->id)->select('draft_id'))
                    ->when(
                        $person->isBound(),
                        fn (Builder $t) => $t->whereHas('person', fn ($p) => $p->where('tenant_id', $person->tenant_id)),
                    ),
            ),
        );
    }

    /** @return Builder<Draft> those in one's hands; and what was laid before others, for those who decide or look after people */
    public static function readable(Person $person): Builder
    {
        $others = ! $person->isBound() && ($person->does(Role::Approver) || $person->does(Role::Steward));

        return $others
            ? Draft::query()->where(
                fn (Builder $q) => $q->whereIn('drafts.id', self::inHandsOf($person)->select('drafts.id'))
                    ->orWhereNotNull('drafts.submitted_at'),
            )
            : self::inHandsOf($person);
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
            $acts[] = self::act($edit);
        }

        return $acts;
    }

    /**
     * @param  array<string, mixed>|null  $input  others than those of the edit
     *
     * @throws BadInput
     */
    public static function act(?DraftEdit $edit, ?array $input = null): Act
    {
        $class = Registry::find($edit->action ?? '') ?? throw new BadInput([
            new Note(
                NoteVerdict::Blocked, 'edit-unknown', '"'.($edit->title ?? 'an edit').'" cannot be read any more',
                'The act behind it is not known here; take the edit out and make it again.',
            ),
        ]);
        try {
            return $class::fromInput($input ?? $edit->input ?? []);
        } catch (BadInput $e) {
            $title = $edit->title ?? 'an edit';
            throw new BadInput([new Note(NoteVerdict::Blocked, 'edit-unreadable', "\"$title\" cannot be read any more", $e->getMessage())]);
        }
    }

    /** @return list<array<string, int>> */
    public static function expects(?Draft $draft): array
    {
        return $draft === null ? [] : array_values($draft->edits->map(fn (DraftEdit $e): array => $e->expects)->all());
    }

    /** @return array<string, string> "noun:id" → in whose draft which edit touches it, of drafts that the person may know of */
    public static function touched(Person $person): array
    {
        $touched = [];
        $drafts = self::readable($person)->with(['edits', 'person'])->whereIn('state', [DraftState::Open, DraftState::Submitted])
            ->orderByDesc('started_at')->limit(self::LOOKED_AT)->get();
        foreach ($drafts as $draft) {
            $whose = $draft->person_id === $person->id ? 'in your draft' : "in a draft of {$draft->person->name}";
            foreach ($draft->edits as $edit) {
                foreach ($edit->touches as $object) {
                    $touched[$object] ??= "$whose: $edit->title";
                }
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
