<?php

declare(strict_types=1);

namespace App\Live;

use App\Models\Host;
use App\Models\Lease;
use App\Models\Reservation;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;

/**
 * Clients of our own for exchanges: a locally administered MAC (IEEE 802 §8.2) that nobody else has, since an exchange takes and ends the
 * client's lease.
 */
final class ExchangeClient
{
    public static function fresh(): string
    {
        return (string) MacAddress::fromBytes("\x02\x00\x5e\x00".random_bytes(2));
    }

    /** A DUID of our own, made of a locally administered address. */
    public static function freshDuid(): Duid
    {
        return Duid::ofMac(MacAddress::parse(self::fresh()));
    }

    /** @throws \DomainException when the DUID is somebody's */
    public static function checkDuid(Duid $duid): void
    {
        $whose = match (true) {
            Lease::query()->where('client_id', $duid->bytes)->whereNot('state', 'released')->exists() => 'has a lease',
            Reservation::query()->where('client_id', $duid->bytes)->exists() => 'has a reservation',
            default => null,
        };
        if ($whose !== null) {
            throw new \DomainException(
                "$duid $whose: an exchange would end the lease of a real client. Take a DUID of your own, such as ".self::freshDuid().'.',
            );
        }
    }

    /** @throws \DomainException when the MAC is somebody's */
    public static function check(MacAddress $mac): void
    {
        $whose = match (true) {
            Lease::query()->where('mac', $mac->bytes)->whereNot('state', 'released')->exists() => 'has a lease',
            Reservation::query()->where('mac', $mac->bytes)->exists() => 'has a reservation',
            Host::query()->where('mac', $mac->bytes)->exists() => 'is planned',
            DB::table('sightings')->where('mac', $mac->bytes)->exists() => 'was seen in the network',
            default => null,
        };
        if ($whose !== null) {
            throw new \DomainException(
                "$mac $whose: an exchange would end the lease of a real client. Take a MAC of your own, such as ".self::fresh().'.',
            );
        }
        if ((ord($mac->bytes[0]) & 2) === 0) {
            throw new \DomainException(
                "$mac is the address of a maker's device. Take a locally administered one, such as ".self::fresh().'.',
            );
        }
    }
}
