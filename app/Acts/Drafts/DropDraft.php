<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Draft;

/** One's own open draft is dropped; nothing of it is written. It stays readable in the database with its end. */
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

    public function apply(Ledger $ledger): void
    {
        EndDraft::end($ledger, $this->draft, Draft::DROPPED);
    }
}
