<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Models\DraftState;
use Carbon\CarbonImmutable;

/** Marks a draft as committed, in the same transaction as its edits. */
final readonly class EndDraft extends OwnDraft
{
    /** @param  string  $digest  of the draft whose edits are committed with this; blank when it is only looked at */
    public function __construct(public string $draft, public string $digest = '')
    {
    }

    public function title(): string
    {
        return 'The draft is committed';
    }

    public function ofDraft(): string
    {
        return $this->draft;
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Open, DraftState::Submitted);
        if ($this->digest !== '' && ! hash_equals($draft->digest(), $this->digest)) {
            $ledger->refuse('changed-meanwhile', 'The draft was changed meanwhile', 'Somebody else works on it; look again.');
        }
        $draft->state = DraftState::Committed;
        $draft->ended_at = CarbonImmutable::instance($ledger->at);
        $draft->due_at = null;
        $draft->due_problem = '';
        $draft->save();
    }
}
