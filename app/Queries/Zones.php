<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** Zones by the names they hold. */
final class Zones
{
    /** @return list<string> the name itself and every name above it, as zones are named */
    public static function above(Name $name): array
    {
        $names = [];
        for ($up = $name->lower(); $up !== null; $up = $up->parent()) {
            $names[] = (string) $up;
        }

        return $names;
    }

    /** The zone that a name belongs to: the longest one above it, in one view or in any. */
    public static function closest(Name $name, ?string $view): ?Zone
    {
        return Zone::query()->whereIn('zones.name', self::above($name))->when($view, fn ($q) => $q->where('view_id', $view))
            ->join('views', 'views.id', '=', 'zones.view_id')->orderByRaw('CHAR_LENGTH(zones.name) DESC')
            ->orderBy('views.position')->select('zones.*')->first();
    }

    /**
     * Where the PTR of an address belongs: the RFC 2317 child that holds it, else the closest reverse zone; in the view, or in any
     * when the view has none.
     *
     * @return array{Zone, Name}|null zone and owner
     */
    public static function pointer(Address $address, ?string $view): ?array
    {
        $children = [];
        for ($length = 31; $address->family === Family::V4 && $length > 24; $length--) {
            $children[] = (string) ReverseName::classless($address->in($length));
        }
        $name = ReverseName::of($address);
        foreach (array_unique([$view, null]) as $in) {
            $child = $children === []
                ? null
                : Zone::query()->whereIn('name', $children)->when($in, fn ($q) => $q->where('view_id', $in))->orderByDesc('name')->first();
            $zone = $child ?? self::closest($name, $in);
            if ($zone !== null) {
                return [$zone, ReverseName::inZone($address, $zone->origin())];
            }
        }

        return null;
    }
}
