<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftDecision;
use Carbon\CarbonImmutable;

/** A submitted draft is taken back to be changed: what others said of it does not count any more. */
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
        $person = $ledger->personId();
        Guard::own("draft:$person");
        $draft = Draft::query()->where('person_id', $person)->where('state', Draft::SUBMITTED)->lockForUpdate()->find($this->draft)
            ?? $ledger->refuse('gone', 'The draft is not submitted any more');
        $open = Draft::query()->withCount('edits')->where('person_id', $person)->where('state', Draft::OPEN)->first();
        if ($open !== null && $open->edits()->exists()) {
            $ledger->refuse('open-draft', 'You have another draft open', 'Commit, submit or drop that one first: edits go to one draft.');
        }
        $open?->delete();
        foreach (DraftDecision::query()->where('draft_id', $draft->id)->whereNull('void_at')->get() as $decision) {
            $decision->void_at = CarbonImmutable::instance($ledger->at);
            $decision->save();
        }
        $draft->state = Draft::OPEN;
        $draft->submitted_at = null;
        $draft->save();
    }
}
