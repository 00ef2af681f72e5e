<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dns\Ttl;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property string $prefix_id
 * @property string $name
 * @property string $stage
 * @property int $lease_time
 * @property string $description
 * @property ?string $pair_id  the two servers that lease it and tell each other
 * @property ?LeaseNames $name_who  who writes the names of leases; null: nobody
 * @property ?string $name_zone_id
 * @property ?string $name_key_id
 * @property ?int $name_ttl
 * @property bool $name_by_pattern  else as the client says, and by the pattern when it says nothing
 * @property string $name_pattern
 * @property-read ?Zone $nameZone
 * @property-read ?TransferKey $nameKey
 * @property-read Prefix $prefix
 * @property-read ?Pair $pair
 * @property-read Collection<int, ScopeRange> $ranges
 * @property-read Collection<int, ScopeExclusion> $exclusions
 * @property-read Collection<int, ScopeServer> $placements
 * @property-read Collection<int, Reservation> $reservations
 * @property-read Collection<int, OptionValue> $optionValues
 */
final class Scope extends Model
{
    /** A lease without an end (RFC 2131 §3.3). */
    public const INFINITE = 0xFFFFFFFF;

    protected $table = 'scopes';

    /** @var array<string, string> */
    protected $casts = ['name_who' => LeaseNames::class, 'name_by_pattern' => 'boolean'];

    /** The lease time as people say it. */
    public function leaseWords(): string
    {
        return $this->lease_time === self::INFINITE ? 'without an end' : Ttl::of($this->lease_time)->spoken();
    }

    /** What a new client gets first: in a pair a lease runs no further ahead of the partner than agreed. */
    public function firstWords(): string
    {
        return $this->pair !== null && $this->pair->lead < $this->lease_time ? ", at first {$this->pair->leadWords()}" : '';
    }

    /** When clients renew: half of the lease time. */
    public function renewalWords(): string
    {
        return $this->lease_time === self::INFINITE ? 'never' : 'after '.Ttl::of(intdiv($this->lease_time, 2))->spoken();
    }

    /** @return BelongsTo<Prefix, $this> */
    public function prefix(): BelongsTo
    {
        return $this->belongsTo(Prefix::class);
    }

    /** @return BelongsTo<Zone, $this> */
    public function nameZone(): BelongsTo
    {
        return $this->belongsTo(Zone::class, 'name_zone_id');
    }

    /** @return BelongsTo<TransferKey, $this> */
    public function nameKey(): BelongsTo
    {
        return $this->belongsTo(TransferKey::class, 'name_key_id');
    }

    /** @return BelongsTo<Pair, $this> */
    public function pair(): BelongsTo
    {
        return $this->belongsTo(Pair::class);
    }

    /** @return HasMany<ScopeRange, $this> */
    public function ranges(): HasMany
    {
        return $this->hasMany(ScopeRange::class)->orderBy('first');
    }

    /** @return HasMany<ScopeExclusion, $this> */
    public function exclusions(): HasMany
    {
        return $this->hasMany(ScopeExclusion::class)->orderBy('first');
    }

    /** @return HasMany<ScopeServer, $this> */
    public function placements(): HasMany
    {
        return $this->hasMany(ScopeServer::class);
    }

    /** @return HasMany<Reservation, $this> */
    public function reservations(): HasMany
    {
        return $this->hasMany(Reservation::class)->orderBy('address');
    }

    /** @return HasMany<OptionValue, $this> those of the scope's own layer */
    public function optionValues(): HasMany
    {
        $own = $this->hasMany(OptionValue::class, 'layer_id');
        $own->where('layer', 'scope')->orderBy('code');

        return $own;
    }

    public static function noun(): string
    {
        return 'scope';
    }

    public function line(): string
    {
        return "$this->name, {$this->prefix->prefix()}";
    }
}
