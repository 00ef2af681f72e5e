<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Person;
use Carbon\CarbonImmutable;

/** An act on a draft that one works on: open to everybody, since apply() finds the draft by its people. */
abstract readonly class OwnDraft extends Act
{
    public static function may(Person $person): bool
    {
        return true;
    }

    public function landing(): string
    {
        return at('ship.draft.mine');
    }

    /** The draft, of which the person is the author; alone with it until the transaction ends. */
    protected static function authored(Ledger $ledger, string $id, DraftState ...$states): Draft
    {
        Guard::own("draft-of:$id");

        return Draft::query()->with('edits')->where('person_id', $ledger->person?->id)->whereIn('state', $states)->lockForUpdate()
            ->find($id)
            ?? $ledger->refuse('gone', 'The draft is not open any more');
    }

    /** The draft, on which the person works; alone with it until the transaction ends. */
    protected static function inHand(Ledger $ledger, string $id, DraftState ...$states): Draft
    {
        Guard::own("draft-of:$id");
        $mine = DraftHand::query()->where('person_id', $ledger->person?->id)->select('draft_id');

        return Draft::query()->with('edits')->whereIn('id', $mine)->whereIn('state', $states)->lockForUpdate()->find($id)
            ?? $ledger->refuse('not-yours', 'This draft is not available to you', 'It ended, was submitted, or is not shared with you.');
    }

    /** From now on the person's edits go here, and to no other draft; blank: the next edit starts a new one. */
    protected static function takeUp(Person $person, string $draft): void
    {
        Guard::own("draft:$person->id");
        foreach (DraftHand::query()->where('person_id', $person->id)->where('current', true)->orderBy('id')->get() as $hand) {
            $hand->current = false;
            $hand->save();
        }
        $hand = DraftHand::query()->where('person_id', $person->id)->where('draft_id', $draft)->first();
        if ($hand !== null) {
            $hand->current = true;
            $hand->save();
        }
    }

    /** What others said of the draft as it was does not count any more. */
    protected static function voidDecisions(Ledger $ledger, Draft $draft): void
    {
        foreach (DraftDecision::query()->where('draft_id', $draft->id)->whereNull('void_at')->get() as $decision) {
            $decision->void_at = CarbonImmutable::instance($ledger->at);
            $decision->save();
        }
    }
}
