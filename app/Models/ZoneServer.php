<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $zone_id
 * @property string $server_id
 * @property Part $part
 * @property bool $planned  no NS yet: it is listed when it answers with authority
 * @property ?int $shipped_serial
 * @property ?CarbonImmutable $shipped_at
 * @property ?CarbonImmutable $verified_at
 * @property-read Zone $zone
 * @property-read Server $server
 */
final class ZoneServer extends Model
{
    protected $table = 'zone_servers';

    protected $casts = [
        'part' => Part::class, 'planned' => 'boolean', 'shipped_at' => 'immutable_datetime', 'verified_at' => 'immutable_datetime',
    ];

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Zone, $this> */
    public function zone(): BelongsTo
    {
        return $this->belongsTo(Zone::class);
    }

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    public static function noun(): string
    {
        return 'zone on a server';
    }

    public static function withinColumn(): string
    {
        return 'zone_id';
    }

    public function line(): string
    {
        return "{$this->zone->title()} on {$this->server->name}";
    }
}
