<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $scope_id
 * @property Address $address
 * @property MacAddress $mac
 * @property string $name
 * @property ?string $address_id
 * @property-read Scope $scope
 */
final class Reservation extends Model
{
    protected $table = 'reservations';

    protected $casts = ['address' => AddressBytes::class, 'mac' => MacBytes::class];

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

    public function line(): string
    {
        return "$this->address for $this->mac";
    }
}
