<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftEdit;

/** An edit is kept in the person's draft instead of being committed. */
final readonly class KeepEdit extends OwnDraft
{
    /**
     * @param  array<string, mixed>  $input
     * @param  array<string, int>  $expects
     * @param  list<string>  $touches
     */
    public function __construct(
        public string $action,
        public array $input,
        public array $expects,
        public array $touches,
        public string $edit,
    ) {
    }

    public function title(): string
    {
        return 'Keep in the draft';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        Guard::own("draft:$person->id");
        $draft = Draft::query()->where('person_id', $person->id)->where('state', 'open')->first();
        if ($draft === null) {
            $draft = new Draft(['person_id' => $person->id, 'state' => 'open', 'started_at' => $ledger->at]);
            $draft->save();
        }
        (new DraftEdit([
            'draft_id' => $draft->id,
            'position' => 1 + (int) DraftEdit::query()->where('draft_id', $draft->id)->max('position'),
            'action' => $this->action,
            'input' => $this->input, 'expects' => $this->expects, 'touches' => $this->touches,
            'title' => mb_strimwidth($this->edit, 0, 250, '…'),
        ]))->save();
    }
}
