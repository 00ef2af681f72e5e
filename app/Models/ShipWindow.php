<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Shipping\Window;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A time of the week in which servers are shipped to: one server, those at a site and below, or every one.
 *
 * @property string $name
 * @property ?string $server_id
 * @property ?string $site_id
 * @property string $days  apart by blanks, 1 for Monday
 * @property string $starts  22:00
 * @property int $minutes
 * @property string $zone
 * @property-read ?Server $server
 * @property-read ?Site $site
 */
final class ShipWindow extends Model
{
    protected $table = 'windows';

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    public function window(): Window
    {
        return Window::of(array_map(intval(...), explode(' ', $this->days)), $this->starts, $this->minutes, $this->zone);
    }

    /** For which servers it is. */
    public function whose(): string
    {
        return $this->server->name ?? ($this->site === null ? 'every server' : "servers at {$this->site->name}");
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
