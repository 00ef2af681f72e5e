<?php

declare(strict_types=1);

namespace App\Actions\Drafts;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Draft;
use App\Models\Person;

/** One's own open draft is dropped; nothing of it is written. It stays readable in the database with its end. */
final readonly class DropDraft extends Action
{
    public function __construct(public string $draft)
    {
    }

    public function title(): string
    {
        return 'Drop the draft';
    }

    public function may(Person $person): bool
    {
        return true;
    }

    public function landing(): string
    {
        return '/ship/draft';
    }

    public function apply(Ledger $ledger): void
    {
        EndDraft::end($ledger, $this->draft, 'dropped');
    }
}
