<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Models\Host;
use App\Models\Prefix;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\PrefixSet;

/** What a scan of some prefixes sweeps: IPv4 as a whole, of a wide IPv6 subnet the hosts that are known. */
final class ScanSpace
{
    /** Addresses that one scan may sweep. */
    public const MOST = 1 << 18;

    /**
     * The stretches of a subnet that are swept; of an IPv6 one none, since nobody can ask 2^64 addresses: known ones are asked there.
     *
     * @param  list<string>  $leftOut
     * @return list<AddressRange>
     */
    public static function stretches(Prefix $prefix, array $leftOut): array
    {
        if ($prefix->family === 6 && $prefix->length < 112) {
            return [];
        }
        $out = array_values(
            array_filter(
                array_map(AddressRange::parse(...), $leftOut),
                fn (AddressRange $r): bool => $r->first->family->value === $prefix->family,
            ),
        );

        return PrefixSet::of($prefix->prefix()->usable())->difference(PrefixSet::of(...$out))->ranges();
    }

    /** @param  list<string>  $leftOut */
    public static function count(Prefix $prefix, array $leftOut): int
    {
        return array_sum(array_map(fn (AddressRange $r): int => $r->size()->toInt(), self::stretches($prefix, $leftOut))) + (
            $prefix->family === 6 && $prefix->length < 112 ? Host::query()->where('prefix_id', $prefix->id)->count() : 0
        );
    }
}
