<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Outside;

/** A system outside is no longer compared; what it holds stays there. */
final readonly class RemoveOutside extends OnOutside
{
    public function __construct(
        #[Field(Kind::Id, 'Outside system', of: Outside::class)]
        public string $outside,
    ) {
    }

    public function title(): string
    {
        return 'Remove the outside system '.(Outside::query()->find($this->outside)->name ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        (Outside::query()->find($this->outside) ?? $ledger->refuse('gone', 'It is not there any more'))->delete();
    }
}
