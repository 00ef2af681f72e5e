<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Server;
use App\Shipping\DriftWatch;
use Illuminate\Console\Command;

final class DriftLook extends Command
{
    protected $signature = 'drift:look {server? : name of one server; all of them otherwise} {--deep : read whole zones and '
        .'compare them line by line}';

    protected $description = 'Compares what servers run with what they were brought to';

    public function handle(DriftWatch $watch): int
    {
        $status = 0;
        $servers = Server::reached()
            ->when($this->argument('server'), fn ($q, $name) => $q->where('name', $name))->orderBy('name')->get();
        foreach ($servers as $server) {
            try {
                $count = $watch->look($server, (bool) $this->option('deep'));
                $this->line("$server->name: ".match (true) {
                    $count < 0 => 'cannot be read', $count === 0 => 'as it was brought there', $count === 1 => '1 object has drifted',
                    default => "$count objects have drifted",
                });
                $status = $count < 0 ? 1 : $status;
            } catch (\Throwable $e) {
                $this->error("$server->name: {$e->getMessage()}");
                $status = 1;
            }
        }

        return $status;
    }
}
