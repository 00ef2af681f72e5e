<?php

declare(strict_types=1);

namespace App\Console;

final class ZoneCheck extends ReadsZoneFile
{
    protected $signature = 'zone:check {file} {--origin= : name of the zone} {--signed : audit signatures and denial too} '
        .'{--json}';

    protected $description = 'Every fault of a zone file, with line, column and standard';

    public function handle(): int
    {
        if ($this->read(true, signed: (bool) $this->option('signed')) === null) {
            return 2;
        }
        $this->option('json') ? $this->json(['findings' => $this->findings]) : $this->sayFindings(false);

        return $this->findings === [] ? 0 : 1;
    }
}
