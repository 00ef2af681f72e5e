<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Models\DraftState;
use App\Models\Person;

/** A submitted draft is taken back to be changed: what others said of it does not count any more, and its time is off. */
final readonly class ReopenDraft extends OwnDraft
{
    public function __construct(public string $draft)
    {
    }

    public function title(): string
    {
        return 'Take the draft back';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Submitted);
        self::voidDecisions($ledger, $draft);
        $draft->state = DraftState::Open;
        $draft->submitted_at = null;
        $draft->due_at = null;
        $draft->due_digest = null;
        $draft->due_problem = '';
        $draft->save();
        self::takeUp(Person::query()->findOrFail($ledger->personId()), $draft->id);
    }
}
