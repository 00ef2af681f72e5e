<?php

declare(strict_types=1);

namespace App\View\Joined;

use App\Models\Part;
use App\Models\Zone;
use App\Models\ZoneServer;
use Carbon\CarbonImmutable;
use Illuminate\Support\HtmlString;

/**
 * A zone from its primary to its secondaries: serials as they answer, how old each copy is, and as a clock how long it is still served
 * when the primary is gone (RFC 1035 §3.3.13, EXPIRE).
 *
 * @phpstan-type Told array{placement: ZoneServer, serial: ?string, step: string, words: string, refreshed: ?CarbonImmutable,
 *     expires: ?CarbonImmutable, transfer: string, trouble: string}
 */
final class Transfers
{
    /** @param  list<Told>  $servers */
    public static function draw(Zone $zone, array $servers): HtmlString
    {
        $boxes = [];
        $primary = null;
        foreach ($servers as $told) {
            $told['placement']->part === Part::Primary && $primary === null ? $primary = $told : $boxes[] = self::box($zone, $told);
        }

        return Drawing::of($primary === null ? $boxes : [self::box($zone, $primary, $boxes)], "Transfers of {$zone->title()}");
    }

    /**
     * @param  Told  $told
     * @param  list<Box>  $next
     */
    private static function box(Zone $zone, array $told, array $next = []): Box
    {
        $age = $told['refreshed'] === null ? null : 'heard of its primary '.$told['refreshed']->diffForHumans();
        $left = $told['expires'] === null || $zone->expire === 0 ? null : (float) now()->diffInSeconds($told['expires']) / $zone->expire;

        return new Box(
            $told['placement']->server->name,
            array_values(array_filter([
                ($told['serial'] === null ? 'no serial' : "serial {$told['serial']}").", {$told['words']}",
                $age,
                match (true) {
                    $told['expires'] === null => null,
                    $left > 0 => "it serves alone until {$told['expires']->format('j M, H:i')}",
                    default => 'it is too old to be served',
                },
            ])),
            at('ship.server', $told['placement']->server_id),
            match ($told['step']) {
                'same' => Sign::Good,
                'behind', 'ahead' => Sign::Odd,
                default => Sign::Wrong,
            },
            $left,
            $next,
        );
    }
}
