<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What a server said it handed out, when it was last read.
 *
 * @property string $server_id
 * @property ?string $scope_id
 * @property Address $address
 * @property ?MacAddress $mac  null: declined, so nobody's
 * @property string $host_name
 * @property string $state
 * @property CarbonImmutable $starts_at
 * @property CarbonImmutable $ends_at
 * @property ?CarbonImmutable $gone_at  when the server was first found not to have it any more
 * @property-read Server $server
 */
final class Lease extends Model
{
    protected $table = 'leases';

    public $incrementing = true;

    protected $casts = [
        'address' => AddressBytes::class, 'mac' => MacBytes::class, 'starts_at' => 'immutable_datetime',
        'ends_at' => 'immutable_datetime', 'gone_at' => 'immutable_datetime',
    ];

    /** Its state now, as far as it is known: what a server said, and what time has done since. */
    public function stateWords(): string
    {
        return match (true) {
            $this->gone_at !== null => 'gone from the server',
            $this->state === 'active' && $this->ends_at->isPast() => 'ran out',
            $this->state === 'active' => 'active',
            $this->state === 'released' => 'given back',
            default => $this->state,
        };
    }

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    public static function noun(): string
    {
        return 'lease';
    }

    public function line(): string
    {
        return "$this->address";
    }
}
