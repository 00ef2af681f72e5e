<?php

declare(strict_types=1);

namespace App\Console;

use App\Actions\Acts;
use App\Actions\Lease\KeepLeases;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Server;
use Illuminate\Console\Command;

final class LeasesRead extends Command
{
    protected $signature = 'leases:read {server? : name of one DHCP server; all of them otherwise}';

    protected $description = 'Reads the leases of DHCP servers';

    public function handle(Acts $acts): int
    {
        $status = 0;
        foreach (Server::query()->where('kind', 'dhcp')->whereNotNull('control')->when($this->argument('server'), fn ($q, $name) => $q->where('name', $name))->get() as $server) {
            try {
                $this->line("$server->name: ".self::from($acts, $server).' leases');
            } catch (Unanswered $e) {
                $this->error($e->getMessage());
                $status = 1;
            }
        }

        return $status;
    }

    /** Page by page, so that memory does not grow with the number of leases. */
    public static function from(Acts $acts, Server $server): int
    {
        $channel = new ControlChannel($server, (float) config('harbor.patience'));
        $from = 0;
        do {
            $page = (array) ($channel->ask('leases', ['from' => $from])['leases'] ?? []);
            $page === [] || $acts->commit(null, [new KeepLeases($server->id, array_values($page))]);
            $from += count($page);
        } while (count($page) === 1000);

        return $from;
    }
}
