<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ParentDs;
use App\Domain\Name\ServedTtls;
use App\Models\Zone;

/**
 * What a person did with the parent, or saw there: the DS was given, every server of the parent names the key, or none names one any more.
 * Where the parent is ours, the DS is written into it, and packets tell the rest.
 */
final readonly class TellParent extends Act
{
    use OfZone;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Choice, 'What', choices: ['given', 'named', 'gone'])]
        public string $what,
    ) {
    }

    public function title(): string
    {
        $zone = Zone::query()->find($this->zone)?->title() ?? 'a zone';

        return match ($this->what) {
            'given' => "Give the DS of $zone to its parent",
            'named' => "Note that the parent names the key of $zone",
            default => "Note that the parent names no key of $zone",
        };
    }

    public function landing(): string
    {
        return at('name.zone.signing', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::signedZone($ledger, $this->zone);
        if (! in_array($this->what, ['given', 'named', 'gone'], true)) {
            $ledger->refuse('what-missing', 'Say what was done, or seen, at the parent', field: 'what');
        }
        $now = $ledger->at->getTimestamp();
        $key = ParentDs::entry($zone);
        if ($this->what === 'gone') {
            $zone->unsign_asked !== null ?: $ledger->refuse('not-unsigning', "{$zone->title()} is not on its way out of signing");
            $zone->unsign_seen ??= $now;
            $zone->save();

            return;
        }
        if ($key === null || $zone->unsign_asked !== null) {
            $ledger->refuse('no-entry', 'There is no key that the parent could name');
        }
        if ($this->what === 'named') {
            $key->ds_asked !== null ?: $ledger->refuse('ds-not-given', 'The parent was not given the DS yet');
            $key->ds_seen ??= $now;
            $key->save();
            ServedTtls::seen($zone, $now);

            return;
        }
        ParentDs::give($ledger, $zone, $key, $now);
    }
}
