<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dns\Zone\ZoneFileWriter;

final class ZonePrint extends ReadsZoneFile
{
    protected $signature = 'zone:print {file} {--origin= : name of the zone} {--json}';

    protected $description = 'The canonical text of a zone file: the same bytes for the same zone';

    public function handle(): int
    {
        $zone = $this->read(false);
        if ($zone === null) {
            return 2;
        }
        $lines = ZoneFileWriter::lines($zone);
        if ($this->option('json')) {
            $this->json(['records' => array_map(rtrim(...), iterator_to_array($lines, false)), 'findings' => $this->findings]);
        } else {
            foreach ($lines as $line) {
                fwrite(STDOUT, $line);
            }
            $this->sayFindings(true);
        }

        return $this->hasErrors() ? 1 : 0;
    }
}
