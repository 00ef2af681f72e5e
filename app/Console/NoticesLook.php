<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\NoticeLook;

/** What is wrong now, and what is over. */
final class NoticesLook extends Computes
{
    protected $signature = 'notices:look {--json}';

    protected $description = 'Looks what people have to be told of';

    public function handle(): int
    {
        $came = NoticeLook::now();
        $this->option('json') ? $this->json($came) : $this->say("$came[told] told, $came[over] over");

        return 0;
    }
}
