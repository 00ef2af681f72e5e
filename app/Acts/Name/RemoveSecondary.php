<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Ledger;
use App\Domain\Name\KeptByHand;
use App\Domain\Name\Records;
use App\Domain\Ship\HandingOut;
use App\Models\Part;

/** A secondary holds a zone no longer: its NS goes first, then the copy with the next shipment. */
final readonly class RemoveSecondary extends OnPlacement
{
    public function title(): string
    {
        $placement = $this->found();

        return $placement === null ? 'Remove a secondary' : "Take {$placement->zone->title()} off {$placement->server->name}";
    }

    public function apply(Ledger $ledger): void
    {
        $placement = $this->placement($ledger);
        if ($placement->part !== Part::Secondary) {
            $ledger->refuse('is-primary', "{$placement->server->name} is the primary", 'Every secondary copies from it.');
        }
        $zone = $placement->zone;
        $name = self::nameOf($placement);
        foreach (self::listed($placement)->where('target', (string) $name->lower())->get() as $ns) {
            Records::remove($ns);
        }
        if (self::listed($placement)->doesntExist()) {
            $ledger->refuse('last-ns', "{$zone->title()} would have no name server", 'List another one first.', 'RFC 1912 §2.8');
        }
        KeptByHand::sayStays($ledger, $zone, $placement->server_id);
        $placement->delete();
        HandingOut::listAnew($zone->view_id);
        $ledger->warn(
            'keeps-answering',
            "{$placement->server->name} keeps answering until the next shipment takes the zone off it",
            'Resolvers that still know its NS ask it for as long as the TTL of the NS.',
        );
    }
}
