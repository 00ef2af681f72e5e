<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Models\DraftEdit;
use App\Models\DraftState;

/**
 * The edits of a draft in another order, some amended, some taken out; each relies on what DraftWork found. A submitted one is only decided
 * where others wrote meanwhile, and is read anew after that.
 *
 * @phpstan-type Arranged array{id: string, input: array<string, mixed>, expects: array<string, int>, touches: list<string>, title: string,
 *     by?: string}
 */
final readonly class ArrangeEdits extends OwnDraft
{
    /**
     * @param  string  $digest  of the draft that this starts from
     * @param  list<Arranged>  $edits  those that stay, in order
     */
    public function __construct(public string $draft, public string $digest, public array $edits, public bool $decides = false)
    {
    }

    public function title(): string
    {
        return 'Arrange the edits';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = $this->decides
            ? self::authored($ledger, $this->draft, DraftState::Open, DraftState::Submitted)
            : self::inHand($ledger, $this->draft, DraftState::Open);
        if (! hash_equals($draft->digest(), $this->digest)) {
            $ledger->refuse('changed-meanwhile', 'The draft was changed meanwhile', 'Somebody else works on it; look again.');
        }
        $stay = array_column($this->edits, null, 'id');
        foreach ($draft->edits as $edit) {
            isset($stay[$edit->id]) || $edit->delete();
        }
        // A place is taken by one edit at a time: all go behind the last one first.
        $at = 1 + (int) $draft->edits->max('position');
        foreach ($this->edits as $kept) {
            $edit = $draft->edits->find($kept['id']) ?? $ledger->refuse('gone', 'The edit is not there any more');
            $this->rewrite($edit, $kept, $at++);
        }
        self::voidDecisions($ledger, $draft);
    }

    /** @param  Arranged  $kept */
    private function rewrite(DraftEdit $edit, array $kept, int $position): void
    {
        $edit->position = $position;
        $edit->input = $kept['input'];
        $edit->expects = $kept['expects'];
        $edit->touches = $kept['touches'];
        $edit->title = mb_strimwidth($kept['title'], 0, 250, '…');
        // Who wrote it anew wrote a part of the draft.
        $edit->person_id = $kept['by'] ?? $edit->person_id;
        $edit->save();
    }
}
