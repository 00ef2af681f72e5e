<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Unanswered;
use App\Live\LeaseReading;
use App\Models\Server;
use App\Models\ServerKind;
use Illuminate\Console\Command;

final class LeasesRead extends Command
{
    protected $signature = 'leases:read {server? : name of one DHCP server; all of them otherwise}';

    protected $description = 'Reads the leases of DHCP servers: over their control channel, and where there is none by the standard';

    public function handle(LeaseReading $reading): int
    {
        $status = 0;
        $servers = Server::query()->where('kind', ServerKind::Dhcp)->where('endpoint', '!=', '')
            ->when($this->argument('server'), fn ($q, $name) => $q->where('name', $name))->orderBy('name')->get();
        if ($servers->isEmpty() && $this->argument('server') !== null) {
            $this->error("no DHCP server is called {$this->argument('server')}");

            return 1;
        }
        foreach ($servers as $server) {
            try {
                $log = $reading->read($server);
                $this->line(
                    "$server->name: {$log['added']} added, {$log['changed']} changed, {$log['same']} same, {$log['gone']} gone, "
                        .count($log['refused'])
                        .' refused',
                );
                foreach (array_slice($log['refused'], 0, 20) as $line) {
                    $this->warn("  $line");
                }
            } catch (\Throwable $e) {
                // One server that cannot be read is no reason not to read the others.
                $this->error(
                    $e instanceof Unanswered ? $e->getMessage() : "$server->name: its leases could not be taken in: {$e->getMessage()}",
                );
                $status = 1;
            }
        }

        return $status;
    }
}
