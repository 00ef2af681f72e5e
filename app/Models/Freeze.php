<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * A time in which nothing is shipped to a server, to those at a site and below, or to any.
 *
 * @property string $why
 * @property CarbonImmutable $starts_at
 * @property CarbonImmutable $ends_at
 */
final class Freeze extends Model
{
    use ForServers;

    protected $table = 'freezes';

    /** @var array<string, string> */
    protected $casts = ['starts_at' => 'immutable_datetime', 'ends_at' => 'immutable_datetime'];

    public static function noun(): string
    {
        return 'freeze';
    }

    public function line(): string
    {
        return "$this->why, {$this->whose()}";
    }
}
