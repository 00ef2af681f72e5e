<?php

declare(strict_types=1);

namespace App\Actions;

use App\Models;
use App\Models\Model;

/** The kinds of objects by the word that history and drafts use, and the page of each. */
final class Nouns
{
    /** @var list<class-string<Model>> */
    private const CLASSES = [
        Models\Space::class, Models\Site::class, Models\Tenant::class, Models\Device::class, Models\Layer2Domain::class, Models\Vlan::class,
        Models\Prefix::class, Models\Host::class, Models\View::class, Models\Zone::class, Models\Record::class, Models\Server::class,
        Models\Scope::class, Models\OptionValue::class, Models\Reservation::class, Models\Person::class,
        Models\OwnField::class, Models\HeldRun::class, Models\Setting::class, Models\ScanSchedule::class, Models\TransferKey::class,
        Models\NameGrant::class,
    ];

    /** @return class-string<Model>|null */
    public static function classOf(string $noun): ?string
    {
        foreach (self::CLASSES as $class) {
            if ($class::noun() === $noun) {
                return $class;
            }
        }

        return null;
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Model>|null */
    public static function query(string $noun): ?\Illuminate\Database\Eloquent\Builder
    {
        $class = self::classOf($noun);

        return $class === null ? null : $class::query();
    }

    /** The page of an object, null when it has none. */
    public static function page(Model $model): ?string
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
