<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\ReportRun;

/** Reports whose time has come. */
final class ReportsRun extends Computes
{
    protected $signature = 'reports:run {--json}';

    protected $description = 'Brings reports that are due to those who get them';

    public function handle(): int
    {
        $said = ReportRun::due();
        $this->option('json') ? $this->json(['runs' => $said]) : array_map($this->say(...), $said === [] ? ['nothing was due'] : $said);

        return 0;
    }
}
