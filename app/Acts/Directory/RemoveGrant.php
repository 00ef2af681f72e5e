<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Grant;

/** A grant is taken back. */
final readonly class RemoveGrant extends OnGrants
{
    public function __construct(
        #[Field(Kind::Id, 'Grant', of: Grant::class)]
        public string $grant,
    ) {
    }

    public function title(): string
    {
        return 'Take a grant back';
    }

    public function apply(Ledger $ledger): void
    {
        $grant = Grant::query()->with(['person', 'team'])->find($this->grant) ?? $ledger->refuse('gone', 'The grant is not there any more');
        self::telling($ledger, [$grant], static function () use ($grant): void {
            $grant->delete();
        });
    }
}
