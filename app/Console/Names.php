<?php

declare(strict_types=1);

namespace App\Console;

use App\Serving\NameDoor;
use Illuminate\Console\Command;

final class Names extends Command
{
    protected $signature = 'names {--listen= : address:port; without it, as it is set}';

    protected $description = 'Hands zones out to the servers that copy them: SOA, AXFR, IXFR, NOTIFY and catalogs';

    public function handle(): int
    {
        $listen = (string) ($this->option('listen') ?? config('harbor.names'));
        if (preg_match('/\A(?:\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:.]+\]):\d{1,5}\z/i', $listen) !== 1) {
            $this->error("--listen=$listen: expected address:port, as 0.0.0.0:53 or [::]:53");

            return 2;
        }
        $log = function (string $words): void {
            $this->line(now()->format('Y-m-d H:i:s').' '.$words);
        };

        return (new NameDoor($listen, $log))->serve() ? 0 : 1;
    }
}
