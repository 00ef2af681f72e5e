<?php

declare(strict_types=1);

namespace App\Console;

final class ImportZone extends Imports
{
    protected $signature = 'import:zone {file} {--zone= : name of the zone} {--view= : its view, when several have it} '
        .'{--commit : take it over; without, only the preview} {--removals : also remove what the file does not have} {--json}';

    protected $description = 'Reads a zone file, shows what it would change, and takes it over with --commit';

    protected function kind(): string
    {
        return 'zone';
    }
}
