<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Scope;
use App\Models\TransferKey;
use App\Models\Zone;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Support\Collection;

/** Into which zones the names of leases can be written. Reverse zones of a view are read once. */
final class NamingZones
{
    /** @var array<string, Collection<int, Zone>> */
    private array $reverse = [];

    /** Does the zone take updates that this key signs, or unsigned ones? */
    public static function takes(Zone $zone, ?TransferKey $key): bool
    {
        return match ($zone->update_mode) {
            'key' => $key !== null && in_array("key $key->name", array_map(self::dotted(...), $zone->update_from ?? []), true),
            'address' => true,
            default => false,
        };
    }

    private static function dotted(string $entry): string
    {
        return str_starts_with($entry, 'key ') ? rtrim($entry, '.').'.' : $entry;
    }

    /** @return Collection<int, Zone> those that hold pointers of the scope's subnet, in the view of the zone, and take the updates */
    public function reverse(Scope $scope, Zone $zone, ?TransferKey $key): Collection
    {
        $net = $scope->prefix->prefix();
        $tree = $net->family() === Family::V4 ? '%.in-addr.arpa.' : '%.ip6.arpa.';
        $this->reverse[$zone->view_id.$tree] ??= Zone::query()->with('placements.server')->where('view_id', $zone->view_id)
            ->where('name', 'like', $tree)->get()->toBase();

        return $this->reverse[$zone->view_id.$tree]->filter(
            static fn (Zone $z): bool => self::takes($z, $key) && $z->primaryPlacement() !== null && self::covers($z, $net),
        )->values();
    }

    private static function covers(Zone $zone, Net $net): bool
    {
        $holds = ReverseName::prefixOf($zone->origin());

        return $holds !== null && ($holds->contains($net->first) || $net->contains($holds->first));
    }
}
