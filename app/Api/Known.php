<?php

declare(strict_types=1);

namespace App\Api;

use App\Models\Lease;
use App\Models\Model;
use App\Queries\Picks;
use App\Queries\Reach;

/** One object of a list, by its id or by what people know of it. */
final class Known
{
    /**
     * @return ?Model null where there is none, or none to be seen
     *
     * @throws Problem where several may be meant
     */
    public static function row(string $collection, string $known, Reach $reach): ?Model
    {
        $class = Collections::OF[$collection] ?? null;
        $query = Collections::query($collection, $reach);
        if ($class === null || $query === null || $known === '') {
            return null;
        }
        if ($class !== Lease::class && preg_match('/\A[0-9A-HJKMNP-TV-Z]{26}\z/i', $known) !== 1) {
            $meant = (new Picks($reach))->meant($class, $known);
            if (count($meant) > 1) {
                throw Problem::ambiguous($known, array_map(static fn (array $m): string => "$m[label] ($m[id])", $meant));
            }
            $known = $meant[0]['id'] ?? $known;
        }
        $row = $query->with(Collections::with($collection))->find($known);

        return $row instanceof Model ? $row : null;
    }
}
