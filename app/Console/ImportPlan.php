<?php

declare(strict_types=1);

namespace App\Console;

final class ImportPlan extends Imports
{
    protected $signature = 'import:plan {file} {--space=Core : name of the space} {--commit : take it over; without, only the '
        .'preview} {--removals : also remove what the file does not have} {--json}';

    protected $description = 'Reads a CSV address plan, shows what it would change, and takes it over with --commit';

    protected function kind(): string
    {
        return 'plan';
    }
}
