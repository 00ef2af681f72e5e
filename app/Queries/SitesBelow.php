<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Site;

/** A site and all that lie in it. */
final class SitesBelow
{
    /** @return list<string> ids, that of the site itself first */
    public static function of(string $site): array
    {
        $children = Site::query()->whereNotNull('parent_id')->get(['id', 'parent_id'])->groupBy('parent_id');
        $found = [$site];
        for ($i = 0; $i < count($found); $i++) {
            foreach ($children[$found[$i]] ?? [] as $child) {
                in_array($child->id, $found, true) ?: $found[] = $child->id;
            }
        }

        return $found;
    }
}
