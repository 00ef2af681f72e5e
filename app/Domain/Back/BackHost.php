<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Plan\Counter;
use App\Domain\Plan\HostAddress;
use App\Domain\Plan\NewHost;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;

/** Hosts go back to their addresses by the rules of placing; their names and reservations are rows of their own. */
final class BackHost
{
    public static function take(Ledger $ledger, PastRow $row): void
    {
        $subnets = array_unique(array_filter([$row->before['prefix_id'] ?? null, $row->after['prefix_id'] ?? null], is_string(...)));
        Guard::share('subnet:'.($subnets[0] ?? Host::query()->whereKey($row->id)->value('prefix_id') ?? ''));
        $host = Host::query()->with('prefix')->find($row->id);
        if ($row->after === null) {
            $host === null ?: WayBack::refuseChanged($ledger, $row, 'It is there again.');
            self::placeAgain($ledger, $row);

            return;
        }
        $host ?? WayBack::refuseChanged($ledger, $row, 'It is gone.');
        $changed = WayBack::same($row, $host->readable($host->getAttributes()));
        if ($changed !== null) {
            WayBack::refuseChanged($ledger, $row, 'Its '.str_replace('_', ' ', $changed).' is another now; undo the later change first.');
        }
        $row->before === null ? self::releaseAgain($ledger, $row, $host) : self::changeBack($ledger, $row, $host);
    }

    private static function placeAgain(Ledger $ledger, PastRow $row): void
    {
        $subnet = Prefix::query()->find($row->was('prefix_id') ?? '');
        if ($subnet === null || ! $subnet->isSubnet()) {
            WayBack::refuseChanged($ledger, $row, 'Its subnet is gone, or is none any more.');
        }
        $host = new Host;
        $host->setRawAttributes(Raw::of($host, $row->before ?? []) + ['id' => $row->id, 'version' => $row->nextVersion()]);
        HostAddress::check($ledger, $subnet, $host->address, $host->role);
        $reserved = Reservation::query()->where('address', $host->address->bytes)->where('address_id', $host->id)->exists();
        NewHost::checkUse($ledger, $subnet, $host->address, $host->mac, $reserved, $host->id);
        $host->save();
        Counter::add($subnet->id, 1);
    }

    private static function releaseAgain(Ledger $ledger, PastRow $row, Host $host): void
    {
        if (
            Record::query()->where('address_id', $host->id)->exists()
                || Reservation::query()->where('address_id', $host->id)->exists()
        ) {
            WayBack::refuseChanged($ledger, $row, 'It got names or a reservation since.');
        }
        $host->delete();
        Counter::add($host->prefix_id, -1);
    }

    private static function changeBack(Ledger $ledger, PastRow $row, Host $host): void
    {
        $was = $host->prefix_id;
        $host->setRawAttributes(Raw::of($host, $row->before ?? []) + $host->getAttributes());
        $host->unsetRelation('prefix');
        $subnet = Prefix::query()->find($host->prefix_id);
        if ($subnet === null || ! $subnet->isSubnet()) {
            WayBack::refuseChanged($ledger, $row, 'Its subnet is gone, or is none any more.');
        }
        HostAddress::check($ledger, $subnet, $host->address, $host->role, $host->id);
        $host->save();
        if ($was !== $host->prefix_id) {
            Counter::add($was, -1);
            Counter::add($host->prefix_id, 1);
        }
    }
}
