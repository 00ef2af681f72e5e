<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Shipping\Window;

/**
 * A time of the week in which servers are shipped to: one server, those at a site and below, or every one.
 *
 * @property string $name
 * @property string $days  apart by blanks, 1 for Monday
 * @property string $starts  22:00
 * @property int $minutes
 * @property string $zone
 */
final class ShipWindow extends Model
{
    use ForServers;

    protected $table = 'windows';

    public function window(): Window
    {
        return Window::of(array_map(intval(...), explode(' ', $this->days)), $this->starts, $this->minutes, $this->zone);
    }

    public static function noun(): string
    {
        return 'shipping window';
    }

    public function line(): string
    {
        return "$this->name: {$this->window()->words()}, {$this->whose()}";
    }
}
