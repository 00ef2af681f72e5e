<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Directory\Rights;

/** Tests of rights, all of them: exit status 1 when one turned. */
final class RightsTest extends Computes
{
    protected $signature = 'rights:test {--json}';

    protected $description = 'Tries what people may and may not, as it was laid down';

    public function handle(): int
    {
        $turned = Rights::test();
        if ($this->option('json')) {
            $this->json(['turned' => $turned]);
        }
        foreach ($this->option('json') ? [] : $turned as $sentence) {
            $this->say("not so any more: $sentence");
        }

        return $turned === [] ? 0 : 1;
    }
}
