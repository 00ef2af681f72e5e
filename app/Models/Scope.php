<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dhcp\V6\Advertisement;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Family;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property string $prefix_id
 * @property string $name
 * @property Stage $stage
 * @property int $lease_time
 * @property string $description
 * @property ?string $pair_id  the two servers that lease it and tell each other
 * @property ?LeaseNames $name_who  who writes the names of leases; null: nobody
 * @property ?string $name_zone_id
 * @property ?string $name_key_id
 * @property ?int $name_ttl
 * @property bool $name_by_pattern  else as the client says, and by the pattern when it says nothing
 * @property string $name_pattern
 * @property ?int $preferred_time  of IPv6: seconds for which new connections may begin; the lease time is the valid life
 * @property bool $rapid_commit  of IPv6: answers in one step to who asks for it
 * @property bool $autonomous  of IPv6: clients make addresses of their own too
 * @property-read ?Zone $nameZone
 * @property-read ?TransferKey $nameKey
 * @property-read Prefix $prefix
 * @property-read ?Pair $pair
 * @property-read Collection<int, ScopeRange> $ranges
 * @property-read Collection<int, ScopeExclusion> $exclusions
 * @property-read Collection<int, ScopeDelegation> $delegations
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
    protected $casts = [
        'stage' => Stage::class, 'name_who' => LeaseNames::class,
        'name_by_pattern' => 'boolean', 'rapid_commit' => 'boolean', 'autonomous' => 'boolean',
    ];

    public function family(): Family
    {
        return $this->prefix->prefix()->family();
    }

    /** How long new connections may begin with a lease (RFC 8415 §21.6): at most as long as it is valid. */
    public function preferred(): int
    {
        return min($this->preferred_time ?? $this->lease_time, $this->lease_time);
    }

    /** Addresses of its ranges, at most as many as are counted. */
    public function size(): int
    {
        return Shares::size(array_values($this->ranges->map(fn (ScopeRange $r): AddressRange => $r->range())->all()), []);
    }

    /** What it leases that has no range of addresses. */
    public function leasesWords(): string
    {
        return match (true) {
            $this->delegations->isNotEmpty() => 'prefixes only',
            $this->prefix->family === 6 && $this->reservations->isEmpty() => 'options only',
            default => 'reservations only',
        };
    }

    /** What is lost with one server of a scope that has no range. */
    public function withoutOneWords(): string
    {
        $divided = $this->delegations->contains(static fn (ScopeDelegation $d): bool => $d->server_id !== null);

        return match (true) {
            $divided => 'its own pools delegate nothing new',
            $this->placements->count() < 2 => 'nobody answers',
            default => 'any server answers all of them',
        };
    }

    /** What the router of the link has to advertise, so that clients ask as this scope answers. */
    public function advertisement(): Advertisement
    {
        return Advertisement::of($this->ranges->isNotEmpty() || $this->reservations->isNotEmpty(), $this->autonomous);
    }

    /** The lease time as people say it. */
    public function leaseWords(): string
    {
        return $this->lease_time === self::INFINITE ? 'without an end' : Ttl::of($this->lease_time)->spoken();
    }

    /** As it is typed and read again. */
    public function leaseTyped(): string
    {
        return $this->lease_time === self::INFINITE ? 'infinite' : Ttl::of($this->lease_time)->short();
    }

    /** What a new client gets first: in a pair a lease runs no further ahead of the partner than agreed. */
    public function firstWords(): string
    {
        return $this->pair !== null && $this->pair->lead < $this->lease_time ? ", at first {$this->pair->leadWords()}" : '';
    }

    /** When clients renew: half of the lease time, of its preferred part in IPv6. */
    public function renewalWords(): string
    {
        $time = $this->preferred();

        return $time === self::INFINITE ? 'never' : 'after '.Ttl::of(intdiv($time, 2))->spoken();
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

    /** @return HasMany<ScopeDelegation, $this> */
    public function delegations(): HasMany
    {
        return $this->hasMany(ScopeDelegation::class)->orderBy('first');
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
