<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Drafts\DueDrafts;

/** Drafts whose time has come. */
final class DraftsDue extends Computes
{
    protected $signature = 'drafts:due {--json}';

    protected $description = 'Commits drafts whose time has come, as they were shown';

    public function handle(DueDrafts $due): int
    {
        $said = $due->run();
        $this->option('json') ? $this->json(['drafts' => $said]) : array_map($this->say(...), $said === [] ? ['nothing was due'] : $said);

        return 0;
    }
}
