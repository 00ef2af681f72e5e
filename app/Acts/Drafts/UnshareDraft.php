<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftHand;

/** A colleague works on a draft no more: the author says so, or they leave it themselves. What they added stays. */
final readonly class UnshareDraft extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Draft', most: 26)]
        public string $draft,
        #[Field(Kind::Line, 'Person', most: 26)]
        public string $colleague,
    ) {
    }

    public function title(): string
    {
        return 'Share the draft no more';
    }

    public function landing(): string
    {
        return at('ship.drafts');
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("draft-of:$this->draft");
        $author = Draft::query()->whereKey($this->draft)->value('person_id');
        $me = $ledger->personId();
        $hand = $author === $this->colleague || ! in_array($me, [$author, $this->colleague], true) ? null
            : DraftHand::query()->where('draft_id', $this->draft)->where('person_id', $this->colleague)->first();
        ($hand ?? $ledger->refuse('gone', 'The draft is not shared with them'))->delete();
    }
}
