<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Space;
use App\Models\Stage;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\PrefixSet;
use Illuminate\Database\Eloquent\Builder;

/**
 * Live subnets whose addresses no reverse zone covers: what is left of the address space without the zones is looked up in the index, so
 * the cost follows the gaps and not the plan.
 */
final class ReverseGaps
{
    /** that a page lists */
    public const MOST = 200;

    /** @return list<array{prefix: Prefix, zones: list<string>}> with the zones that are missing */
    public static function of(Reach $reach, int $most = self::MOST): array
    {
        $names = Zone::query()->where('name', 'like', '%.arpa.')->distinct()->pluck('name');
        $zones = $names->flip();
        $covered = [4 => [], 6 => []];
        foreach ($names as $name) {
            $net = ReverseName::prefixOf(Name::parse($name));
            $net === null ?: $covered[$net->family()->value][] = $net;
        }
        $gaps = [];
        foreach ($covered as $family => $nets) {
            $open = PrefixSet::of(Net::parse($family === 4 ? '0.0.0.0/0' : '::/0'))->difference(PrefixSet::of(...$nets));
            foreach (Space::query()->orderBy('name')->get() as $space) {
                foreach ($open->ranges() as $range) {
                    foreach (self::inside($reach, $space->id, $family, $range, $most) as $prefix) {
                        $gaps[$prefix->id] ??= ['prefix' => $prefix, 'zones' => self::missing($prefix->prefix(), $zones->all())];
                        if (count($gaps) >= $most) {
                            return array_values($gaps);
                        }
                    }
                }
            }
        }

        return array_values($gaps);
    }

    /** @return \Generator<int, Prefix> live subnets that begin in a stretch, or hold its beginning */
    private static function inside(Reach $reach, string $space, int $family, AddressRange $range, int $most): \Generator
    {
        $live = fn (): Builder => $reach->prefixes()->with('site')->where('space_id', $space)->where('family', $family)
            ->where('kind', PrefixKind::Subnet)->where('stage', Stage::Live);
        yield from $live()->whereKey(Ancestors::of($space, $range->first)->modelKeys())->get();
        yield from $live()->whereBetween('first', [$range->first->bytes, $range->last->bytes])->orderBy('first')->limit($most)->get();
    }

    /**
     * @param  array<string, int>  $zones
     * @return list<string>
     */
    private static function missing(Net $net, array $zones): array
    {
        $missing = [];
        foreach (ReverseName::zones($net) as $origin) {
            array_intersect_key(array_flip(Zones::above($origin)), $zones) !== [] ?: $missing[] = rtrim((string) $origin, '.');
        }

        // A subnet of which RFC 2317 children cover only a part lacks the zone around them.
        return $missing !== [] ? $missing : [rtrim((string) ReverseName::around($net), '.')];
    }
}
