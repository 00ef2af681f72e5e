<?php

declare(strict_types=1);

namespace App\Console;

use App\Shipping\KeepSigned;

/** Steps of keys whose time has come, and signatures that end soon. */
final class SigningKeep extends Computes
{
    protected $signature = 'signing:keep {--json}';

    protected $description = 'Keeps signed zones signed: steps of keys, signatures made anew, what servers of the parent say';

    public function handle(KeepSigned $keep): int
    {
        $said = $keep->all();

        if ($this->option('json')) {
            $this->json(['done' => $said]);
        } else {
            array_map($this->say(...), $said === [] ? ['nothing was due'] : $said);
        }

        return 0;
    }
}
