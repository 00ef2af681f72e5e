<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use HarborPost\Core\Dhcp\V6\Client as V6Client;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\Prefix;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property string $scope_id
 * @property Address $address
 * @property ?MacAddress $mac  null: the client is known by its identifier
 * @property ?string $client_id  payload of option 61; in IPv6 a DUID
 * @property int $iaid  in IPv6 the number of the client's association; -1: any
 * @property int $length  of a delegated prefix; 0: an address
 * @property string $name
 * @property ?string $address_id
 * @property-read Scope $scope
 * @property-read Collection<int, OptionValue> $optionValues
 */
final class Reservation extends Model
{
    protected $table = 'reservations';

    protected $casts = ['address' => AddressBytes::class, 'mac' => MacBytes::class];

    protected static function booted(): void
    {
        parent::booted();
        // An option never stays without its place.
        self::deleting(static fn (self $r) => $r->optionValues()->get()->each->delete());
    }

    /** @return BelongsTo<Scope, $this> */
    public function scope(): BelongsTo
    {
        return $this->belongsTo(Scope::class);
    }

    public static function noun(): string
    {
        return 'reservation';
    }

    public static function withinColumn(): string
    {
        return 'scope_id';
    }

    /** @return HasMany<OptionValue, $this> */
    public function optionValues(): HasMany
    {
        $own = $this->hasMany(OptionValue::class, 'layer_id');
        $own->where('layer', 'reservation')->orderBy('code');

        return $own;
    }

    /** What is reserved: an address as a /128, or a prefix. */
    public function net(): Prefix
    {
        return $this->address->in($this->length ?: $this->address->family->bits());
    }

    /** What is reserved, as people write it. */
    public function given(): string
    {
        return $this->length === 0 ? (string) $this->address : (string) $this->net();
    }

    /** The client as people write it: its MAC address, its identifier in hexadecimal, or its DUID. */
    public function client(): string
    {
        if ($this->address->family === Family::V6) {
            return (string) V6Client::of((string) $this->client_id, $this->iaid);
        }

        return $this->mac !== null ? (string) $this->mac : '0x'.bin2hex((string) $this->client_id);
    }

    public function line(): string
    {
        return "{$this->given()} for {$this->client()}";
    }
}
