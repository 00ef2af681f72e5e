<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Zone;
use HarborPost\Core\Dns\Name;

/** Zones by the names they hold. */
final class Zones
{
    /** The zone that a name belongs to: the longest one above it, in one view or in any. RFC 2317 children count for addresses inside them. */
    public static function closest(Name $name, ?string $view): ?Zone
    {
        $names = [];
        for ($up = $name; $up !== null; $up = $up->parent()) {
            $names[] = (string) $up->lower();
        }

        return Zone::query()->whereIn('zones.name', $names)->when($view, fn ($q) => $q->where('view_id', $view))
            ->join('views', 'views.id', '=', 'zones.view_id')->orderByRaw('CHAR_LENGTH(zones.name) DESC')->orderBy('views.position')->select('zones.*')->first();
    }
}
