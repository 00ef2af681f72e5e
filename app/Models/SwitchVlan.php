<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;

/**
 * @property string $domain_id
 * @property int $number
 * @property string $name
 * @property ?Address $gateway
 * @property list<string> $relays
 * @property ?int $ports  that carry it; null when the switch did not say
 * @property ?list<string> $denies  prefixes that its clients are kept from
 * @property ?array{managed: bool, other: bool, autonomous: bool} $advertises  what its router tells clients of IPv6; null: not said
 * @property CarbonImmutable $read_at
 */
final class SwitchVlan extends Model
{
    protected $table = 'switch_vlans';

    protected $casts = [
        'gateway' => AddressBytes::class, 'relays' => 'array', 'denies' => 'array', 'advertises' => 'array',
        'read_at' => 'immutable_datetime',
    ];

    public static function noun(): string
    {
        return 'VLAN on a switch';
    }

    public function line(): string
    {
        return "$this->number $this->name";
    }
}
