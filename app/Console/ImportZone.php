<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Zone;

final class ImportZone extends Imports
{
    protected $signature = 'import:zone {file} {--zone= : name of the zone} {--view= : its view, when several have it} '
        .'{--commit : take it over; without, only the preview} {--removals : also remove what the file does not have} {--json}';

    protected $description = 'Reads a zone file, shows what it would change, and takes it over with --commit';

    protected function kind(): string
    {
        return 'zone';
    }

    protected function target(): ?string
    {
        $zones = Zone::query()->where('name', rtrim(strtolower((string) $this->option('zone')), '.').'.')
            ->when($this->option('view'), fn ($q, $view) => $q->whereHas('view', fn ($v) => $v->where('name', $view)))->pluck('id');

        return $zones->count() === 1 ? $zones->first() : null;
    }

    protected function noTarget(): string
    {
        return "say with --zone=NAME (and --view=NAME) which zone it is; \"{$this->option('zone')}\" is none, or several";
    }
}
