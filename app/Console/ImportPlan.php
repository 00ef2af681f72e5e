<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Space;

final class ImportPlan extends Imports
{
    protected $signature = 'import:plan {file} {--space=Core : name of the space} {--commit : take it over; without, only the '
        .'preview} {--removals : also remove what the file does not have} {--json}';

    protected $description = 'Reads a CSV address plan, shows what it would change, and takes it over with --commit';

    protected function kind(): string
    {
        return 'plan';
    }

    protected function target(): ?string
    {
        return Space::query()->where('name', $this->option('space'))->value('id');
    }

    protected function noTarget(): string
    {
        return "there is no space \"{$this->option('space')}\"";
    }
}
