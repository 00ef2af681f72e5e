<?php

declare(strict_types=1);

namespace App\Pages;

use App\Models;
use App\Models\FactKind;
use App\Models\Model;
use Illuminate\Support\Facades\Route;
use InvalidArgumentException;

/** Where pages and objects are seen. */
final class Pages
{
    /** @var array<string, list<string>> what stands between the parameters of a page's address, by the name of the page */
    private static array $between = [];

    /**
     * The address of a page by its name in routes/. The framework's own route() does the same in five times the time, which a table of
     * a hundred rows feels.
     *
     * @param  array<string|int>  $parameters  in the order of the address
     *
     * @throws InvalidArgumentException there is no such page, or it has another number of parameters
     */
    public static function address(string $page, array $parameters = []): string
    {
        $between = self::$between[$page] ??= self::between($page);
        if (count($parameters) !== count($between) - 1) {
            throw new InvalidArgumentException("$page has ".(count($between) - 1).' parameters, '.count($parameters).' were given');
        }
        $address = $between[0];
        foreach (array_values($parameters) as $n => $parameter) {
            $address .= rawurlencode((string) $parameter).$between[$n + 1];
        }

        return $address;
    }

    /** The page of an object, null when it has none. */
    public static function of(Model $model): ?string
    {
        return match (true) {
            $model instanceof Models\Space => at('plan.space', $model->id),
            $model instanceof Models\Prefix => at('plan.prefix', $model->id),
            $model instanceof Models\Host => at('plan.prefix', $model->prefix_id)."?address=$model->address",
            $model instanceof Models\Zone => at('name.zone', $model->id),
            $model instanceof Models\Record => at('name.zone', $model->zone_id).'?filter='.urlencode(rtrim($model->owner, '.')),
            $model instanceof Models\Site => at('directory.site', $model->id),
            $model instanceof Models\HeldRun => at('plan.prefix', $model->prefix_id),
            $model instanceof Models\Scope => at('lease.scope', $model->id),
            $model instanceof Models\Reservation => at('lease.scope', $model->scope_id),
            $model instanceof Models\Server => at('ship.server', $model->id),
            $model instanceof Models\Vlan => at('directory.vlan', $model->id),
            default => null,
        };
    }

    /** The page of what reports list and rules judge, null when it has none. */
    public static function ofFact(FactKind $kind, string $id): ?string
    {
        return match ($kind) {
            FactKind::Subnet => at('plan.prefix', $id),
            FactKind::Zone => at('name.zone', $id),
            FactKind::Scope => at('lease.scope', $id),
            FactKind::Vlan => at('directory.vlan', $id),
            FactKind::Server => at('ship.server', $id),
            FactKind::Change => at('watch')."?act=$id",
            default => null,
        };
    }

    /** @return list<string> */
    private static function between(string $page): array
    {
        $route = Route::getRoutes()->getByName($page) ?? throw new InvalidArgumentException("There is no page $page");

        return preg_split('/\{[^}]+\}/', '/'.ltrim($route->uri(), '/')) ?: [];
    }
}
