<?php

declare(strict_types=1);

namespace App\Console;

use App\Live\ZoneSigned;
use App\Models\Zone;
use App\Models\ZoneKey;

/** The keys of signed zones and what comes next for each; public halves alone. */
final class DnssecKeys extends Computes
{
    protected $signature = 'dnssec:keys {zone? : all signed zones otherwise} {--json}';

    protected $description = 'Keys of signed zones, their state, their DS and their next step';

    public function handle(): int
    {
        $asked = $this->argument('zone');
        $zones = Zone::query()->with(['view', 'policy'])->whereNotNull('policy_id')->orderBy('name')
            ->when(is_string($asked), fn ($q) => $q->where('name', rtrim((string) $asked, '.').'.'))->get();
        $rows = [];
        foreach ($zones as $zone) {
            $signed = ZoneSigned::of($zone);
            foreach ($signed->keys as $key) {
                $rows[] = [
                    'zone' => $zone->title(), 'view' => $zone->view->name, 'tag' => $key->tag, 'role' => $key->role->value,
                    'algorithm' => $key->algorithm->value, 'state' => self::state($signed, $key), 'next' => $signed->next($key),
                    'dnskey' => $key->public, 'ds' => $key->role->isEntry() ? $key->ds()->text() : null,
                ];
            }
        }
        if ($this->option('json')) {
            $this->json(['keys' => $rows]);
        }
        foreach ($this->option('json') ? [] : $rows as $row) {
            $this->say("$row[zone] ($row[view]) $row[role] $row[tag] $row[state]".($row['next'] === null ? '' : "; $row[next]"));
        }

        return $rows === [] ? 1 : 0;
    }

    private static function state(ZoneSigned $signed, ZoneKey $key): string
    {
        return $key->published === null ? 'made' : $signed->state($key)->value ?? '';
    }
}
