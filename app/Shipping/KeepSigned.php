<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Sign\AdvanceKeys;
use App\Domain\Name\Signing;
use App\Live\ParentLook;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/** Keeps every signed zone signed: takes the steps of its keys whose time has come and ships what that changes. */
final readonly class KeepSigned
{
    public function __construct(private Acts $acts, private Shipping $shipping)
    {
    }

    /** @return list<string> what was done, and what could not be */
    public function all(): array
    {
        $said = [];
        foreach (Zone::query()->with(['policy', 'view'])->whereNotNull('policy_id')->orderBy('name')->get() as $zone) {
            $said = [...$said, ...$this->one($zone)];
        }

        return $said;
    }

    /** @return list<string> */
    public function one(Zone $zone): array
    {
        $waits = $zone->unsign_asked !== null && $zone->unsign_seen === null
            || $zone->keys()->whereNotNull('ds_asked')->whereNull('removed')->exists();
        $look = $waits ? ParentLook::of($zone) : null;
        $this->acts->commit(null, [new AdvanceKeys($zone->id, $look?->says())]);
        $parent = Signing::parentOf($zone);
        $said = [];
        foreach ($parent === null ? [$zone] : [$zone, $parent] as $one) {
            $said = [...$said, ...$this->bring($one)];
        }

        return $said;
    }

    /** @return list<string> */
    private function bring(Zone $zone): array
    {
        if ($zone->policy_id === null && ! self::onlyOurs($zone)) {
            return [];
        }
        $changed = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->exists();
        if ($changed && ! self::onlyOurs($zone) && ! self::isUrgent($zone)) {
            return ["{$zone->line()}: changes of people wait to be shipped, and the signing with them"];
        }
        $said = [];
        $placements = ZoneServer::query()->with('server')->where('zone_id', $zone->id)->where('planned', false)->orderBy('part')->get();
        foreach ($placements as $placement) {
            $placement->refresh();
            $behind = $placement->shipped_serial !== Zone::query()->whereKey($zone->id)->value('serial')
                || $placement->verified_at === null;
            if (! $changed && ! $behind) {
                continue;
            }
            $run = $this->shipping->ship(null, $placement->server, [$zone->id]);
            foreach ($run['steps'] as $step) {
                $said[] = "{$zone->line()}, {$placement->server->name}: {$step['message']}";
            }
            $changed = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->exists();
        }

        return $said;
    }

    /** Nothing waits but what signing wants: nobody's records are shipped behind their back. */
    private static function onlyOurs(Zone $zone): bool
    {
        $waiting = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial');

        return (clone $waiting)->exists() && (clone $waiting)->where('op', '!=', '~')->where('type', '!=', RecordType::DS)->doesntExist()
            || (clone $waiting)->doesntExist() && $zone->policy_id !== null;
    }

    /** Half of the time to mend is over: a zone that cannot be believed is worse than a change that comes early. */
    private static function isUrgent(Zone $zone): bool
    {
        $first = DB::table('signed_records')->where('zone_id', $zone->id)->min('expires');

        return $first !== null && (int) $first < now()->getTimestamp() + intdiv($zone->policy->refresh ?? 0, 2);
    }
}
