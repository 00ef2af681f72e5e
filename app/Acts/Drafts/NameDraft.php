<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\DraftState;

/** What an open draft is called, and why it is wanted. */
final readonly class NameDraft extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Draft', most: 26)]
        public string $draft,
        #[Field(Kind::Line, 'What it is, in a few words', most: 120)]
        public string $name,
        #[Field(Kind::Text, 'Why', most: 2000, blank: true)]
        public string $why = '',
    ) {
    }

    public function title(): string
    {
        return 'Name the draft';
    }

    public function landing(): string
    {
        return at('ship.draft', $this->draft);
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Open);
        $draft->title = trim($this->name);
        $draft->why = trim($this->why);
        $draft->save();
    }
}
