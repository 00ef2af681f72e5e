<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Zone\ZoneDifference;

final class ZoneDiff extends ReadsZoneFile
{
    protected $signature = 'zone:diff {a : zone file before} {b : zone file after} {--origin= : name of the zone} {--json}';

    protected $description = 'What turns one zone file into another: records to remove and to add, however the files are written';

    public function handle(): int
    {
        $before = $this->read(false, 'a');
        $after = $before === null ? null : $this->read(false, 'b');
        if ($before === null || $after === null) {
            return 2;
        }
        if ($this->hasErrors()) {
            // A record that could not be read would show as removed or added, though it may be neither.
            foreach ($this->findings as $f) {
                $this->err(sprintf('line %s, column %s: %s [%s]', $f['line'] ?? '-', $f['column'] ?? '-', $f['message'], $f['standard']));
            }

            return $this->unusable('not compared: the files have errors');
        }
        $difference = ZoneDifference::between($before, $after);
        $removed = array_map(fn (Record $r): string => (string) $r, $difference->removed);
        $added = array_map(fn (Record $r): string => (string) $r, $difference->added);
        if ($this->option('json')) {
            $this->json(['removed' => $removed, 'added' => $added]);
        } else {
            foreach ($removed as $line) {
                $this->say("- $line");
            }
            foreach ($added as $line) {
                $this->say("+ $line");
            }
        }

        return $difference->isEmpty() ? 0 : 1;
    }
}
