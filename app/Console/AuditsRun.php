<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\AuditRun;

/** Rules about the data, all of them: exit status 1 when something fails. */
final class AuditsRun extends Computes
{
    protected $signature = 'audits:run {--json}';

    protected $description = 'Runs the team\'s rules about its data';

    public function handle(): int
    {
        $said = AuditRun::all();
        if ($this->option('json')) {
            $this->json(['failing' => $said]);
        }
        foreach ($this->option('json') ? [] : $said as $name => $failing) {
            $this->say("$name: $failing");
        }

        return array_sum($said) === 0 ? 0 : 1;
    }
}
