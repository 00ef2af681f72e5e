<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Draft;
use App\Models\DraftEdit;

/** An edit is taken out of one's own open draft. */
final readonly class DropEdit extends OwnDraft
{
    public function __construct(
        #[Field(Kind::Line, 'Edit', most: 26)]
        public string $edit,
    ) {
    }

    public function title(): string
    {
        return 'Take an edit out of the draft';
    }

    public function apply(Ledger $ledger): void
    {
        $edit = DraftEdit::query()->find($this->edit) ?? $ledger->refuse('gone', 'The edit is not there any more');
        if (Draft::query()->whereKey($edit->draft_id)->where('person_id', $ledger->person?->id)->where('state', 'open')->doesntExist()) {
            $ledger->refuse('not-yours', 'This draft is not available to you');
        }
        $edit->delete();
    }
}
