<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * For one server, for those at a site and below, or for every one.
 *
 * @property ?string $server_id
 * @property ?string $site_id
 * @property-read ?Server $server
 * @property-read ?Site $site
 */
trait ForServers
{
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
}
