<?php

declare(strict_types=1);

namespace App\Shipping;

use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** What is known to have drifted, by object or by server. */
final class Drifts
{
    /**
     * @param  iterable<string>  $ids
     * @return array<string, list<string>> object → names of the servers where it has drifted
     */
    public static function of(string $kind, iterable $ids): array
    {
        $drifts = [];
        $rows = DB::table('drifts')->join('servers', 'servers.id', '=', 'drifts.server_id')->where('drifts.kind', $kind)
            ->whereIn('object_id', [...$ids])->orderBy('servers.name')->get(['object_id', 'servers.name']);
        foreach ($rows as $row) {
            $drifts[(string) $row->object_id][] = (string) $row->name;
        }

        return $drifts;
    }

    /**
     * @return Collection<string, \stdClass> server → {compared_at, compared, differing, problem, problem_since, leases_read_at, leases,
     *     leases_problem, leases_log}
     */
    public static function states(): Collection
    {
        return DB::table('server_states')->get()->keyBy('server_id');
    }
}
