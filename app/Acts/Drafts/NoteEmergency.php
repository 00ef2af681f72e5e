<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftVerdict;
use Carbon\CarbonImmutable;

/** In the transaction of a draft that is committed without the agreement that rules ask for: every approver is told of it. */
final readonly class NoteEmergency extends OwnDraft
{
    public function __construct(public string $draft, public string $reason)
    {
    }

    public function title(): string
    {
        return 'Committed in an emergency';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = Draft::query()->with('edits')->findOrFail($this->draft);
        (
            new DraftDecision([
                'draft_id' => $draft->id, 'person_id' => $ledger->personId(), 'verdict' => DraftVerdict::Emergency,
                'reason' => mb_strimwidth(trim($this->reason), 0, 2000, '…'), 'digest' => $draft->digest(),
                'at' => CarbonImmutable::instance($ledger->at),
            ])
        )->save();
    }
}
