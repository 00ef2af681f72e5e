<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Person;
use App\Models\Record;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\RecordType;

/** A secondary holds a zone no longer: its NS goes first, then the copy with the next shipment. */
final readonly class RemoveSecondary extends Action
{
    public function __construct(public string $placement)
    {
    }

    public function title(): string
    {
        $placement = ZoneServer::query()->with(['server', 'zone'])->find($this->placement);

        return $placement === null ? 'Remove a secondary' : "Take {$placement->zone->title()} off {$placement->server->name}";
    }

    public function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return '/name/zone/'.(ZoneServer::query()->find($this->placement)->zone_id ?? '').'/service';
    }

    public function apply(Ledger $ledger): void
    {
        $placement = ZoneServer::query()->with(['server', 'zone.view'])->find($this->placement) ?? $ledger->refuse('gone', 'The server does not hold the zone any more');
        if ($placement->part !== 'secondary') {
            $ledger->refuse('is-primary', "{$placement->server->name} is the primary", 'Every secondary copies from it.');
        }
        $zone = $placement->zone;
        $name = MakeZone::nameOf($placement->server->name, $zone->origin());
        foreach (Record::query()->where('zone_id', $zone->id)->where('owner_key', $zone->origin()->sortKey())->where('type', RecordType::NS)->where('target', (string) $name->lower())->get() as $ns) {
            Records::remove($ns);
        }
        if (Record::query()->where('zone_id', $zone->id)->where('owner_key', $zone->origin()->sortKey())->where('type', RecordType::NS)->doesntExist()) {
            $ledger->refuse('last-ns', "{$zone->title()} would have no name server", 'List another one first.', 'RFC 1912 §2.8');
        }
        $placement->delete();
        $ledger->warn('keeps-answering', "{$placement->server->name} keeps answering until the next shipment takes the zone off it", 'Resolvers that still know its NS ask it for as long as the TTL of the NS.');
    }
}
