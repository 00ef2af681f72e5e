<?php

declare(strict_types=1);

namespace App\Console;

use App\Live\PairWatch;
use App\Models\Pair;
use Illuminate\Console\Command;

final class PairState extends Command
{
    protected $signature = 'pair:state {pair? : name of one pair; all of them otherwise} {--json : as JSON}';

    protected $description = 'Asks both servers of each pair in which state they are';

    public function handle(PairWatch $watch): int
    {
        $pairs = Pair::query()->with(['first', 'second'])->orderBy('name')
            ->when($this->argument('pair'), fn ($q, $name) => $q->where('name', $name))->get();
        if ($pairs->isEmpty() && $this->argument('pair') !== null) {
            $this->error("no pair is called {$this->argument('pair')}");

            return 1;
        }
        $status = 0;
        $lines = [];
        $states = collect($watch->read($pairs));
        foreach ($pairs as $pair) {
            foreach ($pair->servers() as $side => $server) {
                $one = $states->first(static fn (array $s): bool => $s['pair'] === $pair->id && $s['server'] === $server->id);
                $state = $one['told']['state'] ?? null;
                $status = $state === 'NORMAL' ? $status : 1;
                $lines[] = [
                    'pair' => $pair->name, 'server' => $server->name, 'side' => $side, 'state' => is_string($state) ? $state : null,
                    'problem' => $one['problem'] ?? null,
                ] + (array) ($one['told'] ?? []);
            }
        }
        if ($this->option('json')) {
            $this->line((string) json_encode($lines, JSON_PRETTY_PRINT));
        } else {
            foreach ($lines as $line) {
                $this->line("$line[pair]: $line[server] ($line[side]): "
                    .($line['problem'] ?? $line['state'] ?? 'it does not have this pair'));
            }
        }

        return $status;
    }
}
