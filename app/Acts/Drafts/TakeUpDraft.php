<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\DraftState;
use App\Models\Person;

/** One of the drafts that a person works on becomes the one that edits go to. */
final readonly class TakeUpDraft extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Draft', most: 26)]
        public string $draft,
    ) {
    }

    public function title(): string
    {
        return 'Work on this draft';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::inHand($ledger, $this->draft, DraftState::Open);
        self::takeUp(Person::query()->findOrFail($ledger->personId()), $draft->id);
    }
}
