<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Models\ApprovalRule;
use App\Models\Audit;
use App\Models\Device;
use App\Models\Freeze;
use App\Models\Grant;
use App\Models\Hook;
use App\Models\Host;
use App\Models\Layer2Domain;
use App\Models\Model;
use App\Models\OptionValue;
use App\Models\Outside;
use App\Models\Pair;
use App\Models\Person;
use App\Models\PortProfile;
use App\Models\Prefix;
use App\Models\Report;
use App\Models\ScanSchedule;
use App\Models\ScopeDelegation;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Setting;
use App\Models\ShipWindow;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\View;
use App\Models\Vlan;
use App\Models\Zone;
use App\Models\ZoneServer;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Str;

/** What hangs on an object of the directory, and stands in the way of its removal. A test holds the list to the keys of the database. */
final class Hanging
{
    /** class → [what names it, column, words, further columns that must have these values] */
    public const ON = [
        Site::class => [
            [Prefix::class, 'site_id', 'prefixes'], [Site::class, 'parent_id', 'inner sites'],
            [Layer2Domain::class, 'site_id', 'layer-2 domains'],
            [Device::class, 'site_id', 'devices'], [Server::class, 'site_id', 'servers'], [ShipWindow::class, 'site_id', 'windows'],
            [Freeze::class, 'site_id', 'freezes'], [Hook::class, 'site_id', 'hooks'], [Report::class, 'site_id', 'reports'],
            [Audit::class, 'site_id', 'audits'], [Setting::class, 'layer_id', 'settings', ['layer' => 'site']],
            [OptionValue::class, 'layer_id', 'options', ['layer' => 'site']], [Grant::class, 'place_id', 'grants', ['place' => 'site']],
            [ApprovalRule::class, 'value', 'agreement rules'],
        ],
        Tenant::class => [
            [Prefix::class, 'tenant_id', 'prefixes'], [Zone::class, 'tenant_id', 'zones'], [Person::class, 'tenant_id', 'people'],
            [Site::class, 'tenant_id', 'sites'], [Vlan::class, 'tenant_id', 'VLANs'], [Device::class, 'tenant_id', 'devices'],
            [Server::class, 'tenant_id', 'servers'], [Grant::class, 'place_id', 'grants', ['place' => 'tenant']],
        ],
        Device::class => [[Host::class, 'device_id', 'addresses']],
        Space::class => [
            [Prefix::class, 'space_id', 'prefixes'], [Host::class, 'space_id', 'addresses'],
            [Outside::class, 'space_id', 'systems outside'],
            [ScanSchedule::class, 'space_id', 'scans'], [Grant::class, 'place_id', 'grants', ['place' => 'space']],
        ],
        View::class => [[Zone::class, 'view_id', 'zones']],
        Layer2Domain::class => [[Vlan::class, 'domain_id', 'VLANs'], [PortProfile::class, 'domain_id', 'port profiles']],
        Server::class => [
            [ZoneServer::class, 'server_id', 'zones'], [ScopeServer::class, 'server_id', 'scopes'],
            [ScopeRange::class, 'server_id', 'ranges'],
            [ScopeDelegation::class, 'server_id', 'delegations'], [Pair::class, 'first_id', 'pairs'], [Pair::class, 'second_id', 'pairs'],
            [ShipWindow::class, 'server_id', 'windows'], [Freeze::class, 'server_id', 'freezes'],
            [OptionValue::class, 'layer_id', 'options', ['layer' => 'server']],
        ],
    ];

    private const LISTED = 4;

    /** @return list<string> each kind that hangs on it, counted, with the first by name */
    public static function on(Model $row): array
    {
        $found = [];
        foreach (self::ON[$row::class] ?? [] as $reference) {
            [$class, $column, $words] = $reference;
            $query = $class::query()->where($column, $row->getKey());
            foreach ($reference[3] ?? [] as $further => $value) {
                $query->where($further, $value);
            }
            $found[] = self::counted($query, $words);
        }

        return array_values(array_filter($found));
    }

    /**
     * @param  Builder<covariant Model>  $query
     * @param  string  $words  what they are called when there are several
     */
    public static function counted(Builder $query, string $words): ?string
    {
        $count = (clone $query)->count();
        $some = $count === 0 ? '' : $query->limit(self::LISTED)->get()->map(static fn (Model $m): string => $m->line())->implode(', ');

        return match ($count) {
            0 => null,
            1 => '1 '.Str::singular($words)." ($some)",
            default => number_format($count)." $words ($some".($count > self::LISTED ? ' …' : '').')',
        };
    }
}
