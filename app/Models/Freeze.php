<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A time in which nothing is shipped to a server, to those at a site and below, or to any.
 *
 * @property string $why
 * @property ?string $server_id
 * @property ?string $site_id
 * @property CarbonImmutable $starts_at
 * @property CarbonImmutable $ends_at
 * @property-read ?Server $server
 * @property-read ?Site $site
 */
final class Freeze extends Model
{
    protected $table = 'freezes';

    /** @var array<string, string> */
    protected $casts = ['starts_at' => 'immutable_datetime', 'ends_at' => 'immutable_datetime'];

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

    /** For which servers it is. */
    public function whose(): string
    {
        return $this->server->name ?? ($this->site === null ? 'every server' : "servers at {$this->site->name}");
    }

    public static function noun(): string
    {
        return 'freeze';
    }

    public function line(): string
    {
        return "$this->why, {$this->whose()}";
    }
}
