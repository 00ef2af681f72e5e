<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Report;

/** A report goes, with its past runs. */
final readonly class RemoveReport extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Id, 'Report', of: Report::class)]
        public string $report,
    ) {
    }

    public function title(): string
    {
        return 'Remove the report '.(Report::query()->find($this->report)->name ?? '');
    }

    public function landing(): string
    {
        return at('watch.reports');
    }

    public function apply(Ledger $ledger): void
    {
        (Report::query()->find($this->report) ?? $ledger->refuse('gone', 'The report is not there any more'))->delete();
    }
}
