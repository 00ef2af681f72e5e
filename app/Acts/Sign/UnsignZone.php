<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ParentDs;
use App\Domain\Name\Records;
use App\Domain\Name\Signing;
use App\Models\Zone;
use HarborPost\Core\Dns\Ttl;

/**
 * A zone is on its way out of signing: first the parent names no key any more, and when no cache holds a DS either, keys and signatures go.
 * A zone that the parent never named loses them at once.
 */
final readonly class UnsignZone extends Act
{
    use OfZone;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
    ) {
    }

    public function title(): string
    {
        return 'Stop signing '.(Zone::query()->find($this->zone)?->title() ?? 'a zone');
    }

    public function landing(): string
    {
        return at('name.zone.signing', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::signedZone($ledger, $this->zone);
        if ($zone->unsign_asked !== null) {
            $ledger->refuse('unsigning-already', "{$zone->title()} is on its way out of signing already", link: $this->landing());
        }
        $named = $zone->keys()->whereNotNull('ds_asked')->exists();
        foreach (ParentDs::anchoredAt($zone) as $server) {
            $ledger->warn(
                'anchor-held',
                "$server->name holds an anchor of this zone",
                'It would believe nothing of the zone any more: take the anchor away there first, and ship that.',
                'RFC 4035 §4.3',
                link: at('name.signing'),
            );
        }
        if (! $named) {
            Signing::strip($zone);
            $ledger->later('Keys and signatures leave the servers with the next shipment');

            return;
        }
        $zone->unsign_asked = $ledger->at->getTimestamp();
        $zone->save();
        Records::mark($zone);
        $parent = ParentDs::write($ledger, $zone, []);
        $ledger->later(
            $parent === null ? 'Ask the parent to take the DS out, and note here when it is gone'
                : "The DS leaves {$parent->line()} with its next shipment",
        );
        $policy = $zone->policy;
        $ledger->later(
            ($policy === null ? '' : Ttl::of($policy->parent_propagation + $policy->ds_ttl)->spoken())
                .' after the parent names no key any more, keys and signatures go',
        );
    }
}
