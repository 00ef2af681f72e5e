<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Models\Record;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Family;

/** A secondary that was seen to answer with authority is listed: its NS, and the address record that the NS needs. */
final readonly class ListSecondary extends OnPlacement
{
    public function title(): string
    {
        $placement = $this->found();

        return $placement === null
            ? 'List a name server'
            : "List {$placement->server->name} as a name server of {$placement->zone->title()}";
    }

    public function apply(Ledger $ledger): void
    {
        $placement = $this->placement($ledger);
        if ($placement->verified_at === null) {
            $ledger->warn(
                'not-proved',
                "{$placement->server->name} was not yet seen to answer {$placement->zone->title()} with authority",
                'A name server that does not answer makes every look-up slower and some fail.',
                'RFC 1912 §2.8',
            );
        }
        $zone = $placement->zone;
        $name = self::nameOf($placement);
        $there = self::listed($placement)->where('target', (string) $name->lower())->exists();
        $there ?: Records::add($ledger, $zone, $zone->origin(), null, new Ns($name));
        $this->address($ledger, $placement, $name);
        $placement->planned = false;
        $placement->save();
    }

    private function address(Ledger $ledger, ZoneServer $placement, Name $name): void
    {
        $address = $placement->server->address;
        $home = \App\Queries\Zones::closest($name, $placement->zone->view_id);
        if ($home === null || $address === null) {
            $ledger->warn(
                'no-address-record',
                "No zone of ours holds $name",
                'Its address record has to stand where that zone is kept.',
                'RFC 1912 §2.4',
            );

            return;
        }
        $type = $address->family === Family::V4 ? RecordType::A : RecordType::AAAA;
        if (Record::query()->where('zone_id', $home->id)->where('owner_key', $name->sortKey())->where('type', $type)->doesntExist()) {
            Records::add($ledger, $home, $name, null, $address->family === Family::V4 ? A::of($address) : Aaaa::of($address));
        }
    }
}
