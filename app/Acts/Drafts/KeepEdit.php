<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\DraftHand;
use App\Models\DraftState;

/** An edit is kept in the draft that the person works on instead of being committed; where there is none, one is begun. */
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
        $draft = Drafts::open($person);
        if ($draft !== null) {
            // It may be submitted or ended at this moment.
            $draft = self::inHand($ledger, $draft->id, DraftState::Open);
        } else {
            $draft = new Draft(['person_id' => $person->id, 'state' => DraftState::Open, 'started_at' => $ledger->at]);
            $draft->save();
            (new DraftHand(['draft_id' => $draft->id, 'person_id' => $person->id, 'current' => false]))->save();
            self::takeUp($person, $draft->id);
        }
        (new DraftEdit([
            'draft_id' => $draft->id,
            'position' => 1 + (int) DraftEdit::query()->where('draft_id', $draft->id)->max('position'),
            'action' => $this->action,
            'input' => $this->input, 'expects' => $this->expects, 'touches' => $this->touches,
            'title' => mb_strimwidth($this->edit, 0, 250, '…'),
            'person_id' => $draft->person_id === $person->id ? null : $person->id,
        ]))->save();
    }
}
