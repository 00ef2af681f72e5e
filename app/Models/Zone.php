<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property string $view_id
 * @property string $name
 * @property string $primary_server
 * @property string $mailbox
 * @property int $serial
 * @property int $refresh
 * @property int $retry
 * @property int $expire
 * @property int $negative_ttl
 * @property int $default_ttl
 * @property bool $silenced
 * @property ?string $tenant_id
 * @property ?list<string> $transfer  prefixes and "key NAME" that may copy the zone; null: its name servers
 * @property string $update_mode  refused, key, address
 * @property ?list<string> $update_from  prefixes or "key NAME"
 * @property ?int $lapse_after  seconds since the last renewal; null: names do not lapse
 * @property int $lapse_quiet  seconds in which a renewal is acknowledged and not written
 * @property string $description
 * @property ?string $policy_id  by which it is signed
 * @property ?int $signed_since  every server has signatures since, seconds since 1970
 * @property ?int $unsign_asked  the parent was asked to name no key any more
 * @property ?int $unsign_seen  no server of the parent names one since
 * @property ?array<string, list<array{int, ?int}>> $cached_ttls  what caches may hold, by kind
 * @property-read ?SigningPolicy $policy
 * @property-read Collection<int, ZoneKey> $keys
 * @property-read View $view
 * @property-read Collection<int, ZoneServer> $placements
 */
final class Zone extends Model
{
    protected $table = 'zones';

    protected $casts = ['silenced' => 'boolean', 'transfer' => 'array', 'update_from' => 'array', 'cached_ttls' => 'array'];

    public function title(): string
    {
        return rtrim($this->name, '.') ?: '.';
    }

    public function origin(): Name
    {
        return Name::parse($this->name);
    }

    public function isReverse(): bool
    {
        return str_ends_with($this->name, '.arpa.');
    }

    public function soa(?Serial $serial = null): Soa
    {
        return new Soa(
            Name::parse($this->primary_server),
            Name::parse($this->mailbox),
            $serial ?? Serial::of($this->serial),
            $this->refresh,
            $this->retry,
            $this->expire,
            $this->negative_ttl,
        );
    }

    public function primaryPlacement(): ?ZoneServer
    {
        return $this->placements->firstWhere('part', Part::Primary);
    }

    /** @return list<string> prefixes and "key NAME" that may copy the zone: as written, or else the addresses of its secondaries */
    public function transferList(): array
    {
        $own = $this->placements
            ->filter(fn (ZoneServer $p): bool => $p->part === Part::Secondary && $p->server->address !== null)
            ->map(fn (ZoneServer $p): string => (string) $p->server->address?->in($p->server->address->family->bits()));

        return $this->transfer ?? array_values($own->sort()->all());
    }

    /** A client that falls into the zone's view. */
    public function clientInView(): ?Address
    {
        $prefix = $this->view->clients[0] ?? null;

        return $prefix === null ? null : Prefix::parse($prefix)->usable()->first;
    }

    /** @return BelongsTo<View, $this> */
    public function view(): BelongsTo
    {
        return $this->belongsTo(View::class);
    }

    /** @return HasMany<ZoneServer, $this> */
    public function placements(): HasMany
    {
        return $this->hasMany(ZoneServer::class);
    }

    /** @return BelongsTo<SigningPolicy, $this> */
    public function policy(): BelongsTo
    {
        return $this->belongsTo(SigningPolicy::class);
    }

    /** @return HasMany<ZoneKey, $this> */
    public function keys(): HasMany
    {
        return $this->hasMany(ZoneKey::class)->orderBy('made')->orderBy('id');
    }

    public static function noun(): string
    {
        return 'zone';
    }

    public function line(): string
    {
        return "{$this->title()}, {$this->view->name}";
    }
}
