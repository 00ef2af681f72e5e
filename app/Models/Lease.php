<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dhcp\V6\Client as V6Client;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What a server said it handed out, when it was last read.
 *
 * @property string $server_id
 * @property ?string $scope_id
 * @property Address $address
 * @property ?MacAddress $mac  null: declined, so nobody's; or of IPv6, and its DUID does not tell one
 * @property ?string $client_id  of IPv6: the DUID
 * @property ?int $iaid
 * @property int $length  of a delegated prefix; 0: an address
 * @property ?CarbonImmutable $preferred_at
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
        'ends_at' => 'immutable_datetime', 'gone_at' => 'immutable_datetime', 'preferred_at' => 'immutable_datetime',
    ];

    /** What is leased, as people write it: an address, or a prefix with its length. */
    public function given(): string
    {
        return $this->length === 0 ? (string) $this->address : (string) $this->address->in($this->length);
    }

    /** Who has it, as people write it: by MAC address where one is known, else by DUID. */
    public function client(): string
    {
        return match (true) {
            $this->mac !== null => (string) $this->mac,
            $this->client_id !== null => (string) V6Client::of($this->client_id, -1),
            default => '',
        };
    }

    /** What its DUID says, and the number of the association; blank for IPv4. */
    public function clientWords(): string
    {
        $duid = $this->client_id === null ? null : Duid::tryFrom($this->client_id);

        return $duid === null ? '' : "{$duid->words()}, iaid $this->iaid";
    }

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
        return $this->given();
    }
}
