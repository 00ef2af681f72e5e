<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;
use App\Models\Layer2Domain;
use App\Models\Site;

/** Sites and layer-2 domains, as several acts make them: each has a name that no other has. */
final class Places
{
    public static function site(Ledger $ledger, string $id, string $name, ?string $parent = null): Site
    {
        $site = new Site(['id' => $id, 'name' => self::free($ledger, Site::class, $name), 'parent_id' => $parent]);
        $site->save();

        return $site;
    }

    public static function domain(Ledger $ledger, string $id, string $name, ?string $site = null): Layer2Domain
    {
        $domain = new Layer2Domain(['id' => $id, 'name' => self::free($ledger, Layer2Domain::class, $name), 'site_id' => $site]);
        $domain->save();

        return $domain;
    }

    /** @param  class-string<Site|Layer2Domain>  $class */
    private static function free(Ledger $ledger, string $class, string $name): string
    {
        $name = trim($name);
        if ($name === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = $class::query()->where('name', $name)->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }

        return $name;
    }
}
