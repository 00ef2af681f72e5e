<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\SwitchVlan;
use App\Models\Zone;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;

/**
 * Which servers answer the names of a prefix and lease its addresses, computed from zones and scopes; gaps and unknown servers are named.
 */
final class ServedBy
{
    /**
     * @return array{names: list<string>, leases: list<string>, gaps: list<array{words: string, link: ?string}>}
     */
    public static function of(Prefix $prefix, ?Scope $scope): array
    {
        $names = $gaps = [];
        $zones = ReverseName::zones($prefix->prefix());
        foreach (array_slice($zones, 0, 8) as $name) {
            $zone = Zones::closest($name, null);
            if ($zone === null) {
                $gaps[] = [
                    'words' => 'no reverse zone for '.rtrim((string) $name, '.'),
                    'link' => at('name.reverse').'?nets='.urlencode((string) $prefix->prefix()),
                ];

                continue;
            }
            foreach (Zone::query()->with('placements.server')->find($zone->id)->placements ?? [] as $placement) {
                $names[$placement->server->name] = $placement->server->name;
            }
            $zone->silenced ? $gaps[] = ['words' => "{$zone->title()} is silenced", 'link' => at('name.zone', $zone->id)] : null;
        }
        $leases = $scope === null
            ? []
            : array_values($scope->placements->map(fn ($p): string => $p->server->name)->unique()->sort()->all());
        if ($scope !== null && $leases === []) {
            $gaps[] = ['words' => 'its scope is on no server', 'link' => at('lease.scope', $scope->id)];
        }
        $switch = $prefix->vlan === null
            ? null
            : SwitchVlan::query()->where('domain_id', $prefix->vlan->domain_id)->where('number', $prefix->vlan->number)->first();
        foreach ($switch->relays ?? [] as $relay) {
            $address = Address::tryParse($relay);
            if ($address !== null && Server::query()->where('kind', ServerKind::Dhcp)->where('address', $address->bytes)->doesntExist()) {
                $gaps[] = ['words' => "its switch relays to $relay, which is no server we know", 'link' => at('ship')];
            }
        }
        ksort($names);

        return ['names' => array_values($names), 'leases' => $leases, 'gaps' => array_values(array_unique($gaps, SORT_REGULAR))];
    }
}
