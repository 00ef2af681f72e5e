<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Lease;
use App\Queries\LeaseList;
use App\Queries\Reach;

final class LeaseQuery extends Computes
{
    protected $signature = 'lease:query {filter?* : words as in the list: address, prefix, MAC, name, state: server: scope:} {--json}';

    protected $description = 'Leases as the servers told them; exit status 1 when there is none';

    public function handle(): int
    {
        $list = new LeaseList(Reach::whole(), implode(' ', array_filter((array) $this->argument('filter'), is_string(...))));
        $query = $list->query()->with('server');
        if ($list->misread !== []) {
            return $this->unusable(implode("\n", $list->misread));
        }
        $found = 0;
        foreach ($query->lazyById(1000) as $lease) {
            $found++;
            $this->option('json') ? $this->json(self::told($lease)) : $this->say(implode("\t", array_map(strval(...), self::told($lease))));
        }

        return $found > 0 ? 0 : 1;
    }

    /** @return array{address: string, mac: string, name: string, server: string, state: string, since: string, until: string} */
    private static function told(Lease $lease): array
    {
        return [
            'address' => (string) $lease->address, 'mac' => (string) $lease->mac, 'name' => $lease->host_name,
            'server' => $lease->server->name,
            'state' => $lease->stateWords(), 'since' => $lease->starts_at->toIso8601String(), 'until' => $lease->ends_at->toIso8601String(),
        ];
    }
}
