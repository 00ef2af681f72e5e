<?php

declare(strict_types=1);

namespace App\Models;

/**
 * A set of addresses in which a prefix is unique.
 *
 * @property string $name
 * @property ?string $route_distinguisher
 * @property string $description
 * @property int $structure
 */
final class Space extends Model
{
    protected $table = 'spaces';

    public static function noun(): string
    {
        return 'space';
    }

    public function line(): string
    {
        return $this->name;
    }
}
