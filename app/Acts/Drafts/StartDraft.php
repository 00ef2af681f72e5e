<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Draft;
use App\Models\DraftHand;
use App\Models\DraftState;

/** Another draft is begun; edits go there from now on. */
final readonly class StartDraft extends OwnDraft
{
    /** How many drafts of one person are open at once. */
    private const MOST = 50;

    public function __construct(
        #[Field(Kind::Line, 'What it is, in a few words', most: 120)]
        public string $name = '',
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return 'Begin a draft';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if (Draft::query()->where('person_id', $person->id)->where('state', DraftState::Open)->count() >= self::MOST) {
            $ledger->refuse('many-drafts', self::MOST.' drafts of yours are open', 'Commit, submit or drop one of them first.');
        }
        (new Draft([
            'id' => $this->id, 'person_id' => $person->id, 'state' => DraftState::Open, 'started_at' => $ledger->at,
            'title' => trim($this->name),
        ]))->save();
        (new DraftHand(['draft_id' => $this->id, 'person_id' => $person->id, 'current' => false]))->save();
        self::takeUp($person, $this->id);
    }
}
