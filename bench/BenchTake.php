<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Engine\Acts;
use App\Acts\Plan\PlaceHost;
use Illuminate\Console\Command;

final class BenchTake extends Command
{
    protected $signature = 'bench:take {subnet} {count} {go : a file that starts it}';

    protected $description = 'Takes next-free addresses, one of many processes of the bench';

    protected $hidden = true;

    public function handle(Acts $acts): int
    {
        $acts->rehearse(null, [PlaceHost::fromInput(['prefix' => $this->argument('subnet')])]);
        $go = $this->argument('go');
        $go = is_string($go) ? $go : '';
        fwrite(STDOUT, "ready\n");
        for ($i = 0; $i < 3000 && ! is_file($go); $i++) {
            usleep(5000);
            clearstatcache();
        }
        $taken = 0;
        for ($i = 0; $i < (int) $this->argument('count'); $i++) {
            $taken += (int) (
                $acts->commit(null, [PlaceHost::fromInput(['prefix' => $this->argument('subnet')])])->made('address') !== null
            );
        }
        fwrite(STDOUT, "$taken\n");

        return 0;
    }
}
