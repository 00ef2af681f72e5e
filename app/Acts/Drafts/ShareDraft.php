<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Person;

/** A colleague may read one's open draft and work on it: their edits go in with their own rights, and its author commits it. */
final readonly class ShareDraft extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Draft', most: 26)]
        public string $draft,
        #[Field(Kind::Line, 'Sign-in or name', most: 120)]
        public string $with,
    ) {
    }

    public function title(): string
    {
        return 'Share the draft';
    }

    public function landing(): string
    {
        return at('ship.draft', $this->draft);
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Open);
        $found = Person::query()->where('active', true)
            ->where(fn ($q) => $q->where('sign_in', trim($this->with))->orWhere('name', trim($this->with)))->limit(2)->get();
        $other = $found->count() === 1 ? $found->first() : null;
        // To somebody of a tenant, others are not there.
        if ($other === null || ! Drafts::mayBeShared($ledger->person, $other)) {
            $ledger->refuse(
                'no-colleague',
                'No colleague is called "'.mb_strimwidth($this->with, 0, 40, '…').'"',
                'A draft is shared with somebody who may sign in and sees at least what its author sees.',
                field: 'with',
            );
        }
        if ($draft->hands->contains('person_id', $other->id)) {
            $ledger->refuse('shared-already', "$other->name works on it already", field: 'with');
        }
        (new DraftHand(['draft_id' => $draft->id, 'person_id' => $other->id, 'current' => false]))->save();
    }
}
