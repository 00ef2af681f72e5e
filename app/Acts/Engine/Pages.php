<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models;
use App\Models\Model;

/** Where an object is seen. */
final class Pages
{
    /** The page of an object, null when it has none. */
    public static function of(Model $model): ?string
    {
        return match (true) {
            $model instanceof Models\Space => "/plan/$model->id",
            $model instanceof Models\Prefix => "/plan/prefix/$model->id",
            $model instanceof Models\Host => "/plan/prefix/$model->prefix_id?address=$model->address",
            $model instanceof Models\Zone => "/name/zone/$model->id",
            $model instanceof Models\Record => "/name/zone/$model->zone_id?filter=".urlencode(rtrim($model->owner, '.')),
            $model instanceof Models\Site => "/directory/site/$model->id",
            $model instanceof Models\HeldRun => "/plan/prefix/$model->prefix_id",
            $model instanceof Models\Scope => "/lease/scope/$model->id",
            $model instanceof Models\Reservation => "/lease/scope/$model->scope_id",
            $model instanceof Models\Server => "/ship/server/$model->id",
            $model instanceof Models\Vlan => "/directory/vlan/$model->id",
            default => null,
        };
    }
}
