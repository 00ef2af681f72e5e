<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * An address given to a host, with its name and hardware.
 *
 * @property string $space_id
 * @property int $family
 * @property Address $address
 * @property string $prefix_id
 * @property string $name
 * @property string $role
 * @property ?MacAddress $mac
 * @property ?string $device_id
 * @property string $owner
 * @property string $description
 * @property string $interface
 * @property-read Prefix $prefix
 * @property-read ?Device $device
 */
final class Host extends Model
{
    public const ROLES = ['host', 'gateway', 'virtual', 'service'];

    protected $table = 'addresses';

    protected $casts = ['address' => AddressBytes::class, 'mac' => MacBytes::class];

    /** @return BelongsTo<Prefix, $this> */
    public function prefix(): BelongsTo
    {
        return $this->belongsTo(Prefix::class);
    }

    /** @return BelongsTo<Device, $this> */
    public function device(): BelongsTo
    {
        return $this->belongsTo(Device::class);
    }

    public static function noun(): string
    {
        return 'address';
    }

    public static function withinColumn(): string
    {
        return 'prefix_id';
    }

    public function line(): string
    {
        return trim("$this->address $this->name");
    }
}
