<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Models\DraftState;
use Carbon\CarbonImmutable;

/** One's own open draft is laid before others: from now on it is read, and not changed until it is taken back. */
final readonly class SubmitDraft extends OwnDraft
{
    public function __construct(public string $draft, public string $name, public string $why = '')
    {
    }

    public function title(): string
    {
        return 'Submit the draft';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Open);
        if ($draft->edits->isEmpty()) {
            $ledger->refuse('empty', 'The draft is empty', 'Add an edit first.');
        }
        if (trim($this->name) === '') {
            $ledger->refuse('no-title', 'Say in a few words what the draft is', 'Approvers see it in their list.', field: 'title');
        }
        $draft->title = mb_strimwidth(trim($this->name), 0, 120, '…');
        $draft->why = mb_strimwidth(trim($this->why), 0, 2000, '…');
        $draft->state = DraftState::Submitted;
        $draft->submitted_at = CarbonImmutable::instance($ledger->at);
        $draft->save();
    }
}
