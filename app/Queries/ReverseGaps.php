<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\Zone;
use HarborPost\Core\Dns\ReverseName;

/** Live subnets whose addresses no reverse zone covers. */
final class ReverseGaps
{
    public const MOST = 500;

    /** @return list<array{prefix: Prefix, zones: list<string>}> at most MOST, with the zones that are missing */
    public static function of(Reach $reach): array
    {
        $zones = Zone::query()->where('name', 'like', '%.arpa.')->pluck('name')->flip();
        $gaps = [];
        foreach ($reach->prefixes()->with('site')->where('kind', 'subnet')->where('stage', 'live')->orderBy('family')->orderBy('first')->lazy(1000) as $prefix) {
            $missing = [];
            foreach (ReverseName::zones($prefix->prefix()) as $origin) {
                $covered = false;
                for ($up = $origin; $up !== null && ! $covered; $up = $up->parent()) {
                    $covered = isset($zones[(string) $up->lower()]);
                }
                $covered ?: $missing[] = rtrim((string) $origin, '.');
            }
            $missing === [] ?: $gaps[] = ['prefix' => $prefix, 'zones' => $missing];
            if (count($gaps) >= self::MOST) {
                break;
            }
        }

        return $gaps;
    }
}
