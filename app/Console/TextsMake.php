<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Texts\TextMaking;

/** Texts that are kept are made again: exit status 1 when one could not be. */
final class TextsMake extends Computes
{
    protected $signature = 'texts:make {--json}';

    protected $description = 'Makes the texts again that are kept of templates, and notes which changed';

    public function handle(Acts $acts): int
    {
        $told = TextMaking::again($acts);
        if ($this->option('json')) {
            $this->json($told);
        } else {
            $this->say("$told[made] made, $told[changed] changed, $told[failed] failed");
        }

        return $told['failed'] === 0 ? 0 : 1;
    }
}
