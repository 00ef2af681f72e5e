<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Name\Signing;
use App\Models\ZoneKey;
use HarborPost\Core\Dns\Ttl;

/** A key gets its successor now, not at the end of its life: the new one goes into the zone, and takes over when every cache has it. */
final readonly class RollKey extends Act
{
    use OfZone;

    public function __construct(
        #[Field(Kind::Id, 'Key', of: ZoneKey::class)]
        public string $key,
    ) {
    }

    public function title(): string
    {
        return 'Replace the '.(ZoneKey::query()->find($this->key)?->line() ?? 'key');
    }

    public function landing(): string
    {
        return at('name.zone.signing', ZoneKey::query()->whereKey($this->key)->value('zone_id'));
    }

    public function apply(Ledger $ledger): void
    {
        $key = ZoneKey::query()->find($this->key) ?? $ledger->refuse('gone', 'The key is not there any more');
        $zone = self::signedZone($ledger, $key->zone_id);
        if ($zone->unsign_asked !== null) {
            $ledger->refuse('unsigning', "{$zone->title()} is on its way out of signing: its keys are not replaced any more");
        }
        $others = $zone->keys()->whereKeyNot($key->id)->where('role', $key->role->value)->whereNull('removed')->get();
        if ($key->removed !== null || $others->isNotEmpty() || $zone->keys()->whereNull('removed')->distinct()->count('algorithm') > 1) {
            $ledger->refuse(
                'roll-under-way',
                $key->removed !== null ? 'This key is gone from the zone already' : 'A replacement is under way already',
                'One key at a time: the next one starts when the old one is out.',
                'RFC 6781 §4.1',
            );
        }
        if ($key->published === null) {
            $ledger->refuse('key-not-out', 'This key is on no server yet', 'Ship the zone first.', link: at('ship')."?zone=$zone->id");
        }
        ZoneKey::draw($zone, $key->role, $key->algorithm, $ledger->at->getTimestamp())->save();
        Records::mark($zone);
        $schedule = Signing::schedule($zone, $ledger->at->getTimestamp());
        $wait = $schedule === null ? 0 : $schedule->propagation + $schedule->keyTtl;
        $ledger->later('It takes over at the earliest '.Ttl::of($wait)->spoken().' after every server has it');
        if ($key->role->isEntry()) {
            $ledger->later('The parent then has to name it in place of this one; until then both stay');
        }
    }
}
