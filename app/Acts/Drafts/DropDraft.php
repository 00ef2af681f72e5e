<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\DraftState;
use Carbon\CarbonImmutable;

/** One's own draft is dropped; nothing of it is written. It stays readable in the database with its end. */
final readonly class DropDraft extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Draft', most: 26)]
        public string $draft,
    ) {
    }

    public function title(): string
    {
        return 'Drop the draft';
    }

    public function landing(): string
    {
        return at('ship.drafts');
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Open, DraftState::Submitted);
        $draft->state = DraftState::Dropped;
        $draft->ended_at = CarbonImmutable::instance($ledger->at);
        $draft->due_at = null;
        $draft->save();
    }
}
