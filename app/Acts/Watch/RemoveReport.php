<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Report;

/** A report goes, with its past runs. */
final readonly class RemoveReport extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Report', of: Report::class)]
        public string $report,
    ) {
    }

    public function title(): string
    {
        return 'Remove the report '.(Report::query()->find($this->report)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return '/watch/reports';
    }

    public function apply(Ledger $ledger): void
    {
        (Report::query()->find($this->report) ?? $ledger->refuse('gone', 'The report is not there any more'))->delete();
    }
}
