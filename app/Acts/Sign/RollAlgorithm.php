<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Name\Signing;
use App\Models\KeyWish;
use App\Models\SigningPolicy;
use App\Models\Zone;
use App\Models\ZoneKey;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Ttl;

/**
 * A signed zone goes over to a policy of another algorithm, and stays signed: both sign it for a while, and the keys of the old one leave
 * when the parent and every cache have the new one.
 */
final readonly class RollAlgorithm extends Act
{
    use OfZone;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Id, 'Policy', 'One of another algorithm', of: SigningPolicy::class)]
        public string $policy,
    ) {
    }

    public function title(): string
    {
        return 'Change the algorithm of '.(Zone::query()->find($this->zone)?->title() ?? 'a zone');
    }

    public function landing(): string
    {
        return at('name.zone.signing', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::signedZone($ledger, $this->zone);
        $policy = SigningPolicy::query()->find($this->policy)
            ?? $ledger->refuse('gone', 'The policy is not there any more', field: 'policy');
        $this->check($ledger, $zone, $policy);
        SignZone::preflight($ledger, $zone, $policy);
        $now = $ledger->at->getTimestamp();
        foreach ($policy->split ? [KeyRole::Ksk, KeyRole::Zsk] : [KeyRole::Csk] as $role) {
            $key = ZoneKey::draw($zone, $role, $policy->algorithm, $now);
            $key->fill(['beside' => true, 'wants' => $role->signsZone() ? KeyWish::Active : KeyWish::Nothing])->save();
        }
        $zone->fill(['policy_id' => $policy->id])->save();
        Records::mark($zone);
        $this->foretell($ledger, $zone, $policy);
    }

    private function check(Ledger $ledger, Zone $zone, SigningPolicy $policy): void
    {
        if ($zone->unsign_asked !== null) {
            $ledger->refuse('unsigning', "{$zone->title()} is on its way out of signing: its keys are not replaced any more");
        }
        $there = $zone->keys()->whereNull('removed')->get();
        if ($there->contains(static fn (ZoneKey $k): bool => $k->published === null)) {
            $ledger->refuse('key-not-out', 'A key of the zone is on no server yet', 'Ship the zone first.',
                link: at('ship')."?zone=$zone->id");
        }
        $rolls = $there->count() !== $there->unique('role')->count() || $there->unique('algorithm')->count() > 1;
        if ($rolls || $there->contains(static fn (ZoneKey $k): bool => $k->wants !== KeyWish::Nothing)) {
            $ledger->refuse(
                'roll-under-way', 'A replacement is under way already', 'One at a time: the next one starts when the old key is out.',
                'RFC 6781 §4.1',
            );
        }
        if ($there->contains('algorithm', $policy->algorithm)) {
            $ledger->refuse(
                'same-algorithm', "The zone is signed by {$policy->algorithm->mnemonic()} already",
                'Choose a policy of another algorithm; a key is replaced by one of its own algorithm in the table of keys.',
                'RFC 6781 §4.1.4', 'policy',
            );
        }
    }

    private function foretell(Ledger $ledger, Zone $zone, SigningPolicy $policy): void
    {
        $schedule = Signing::schedule($zone, $ledger->at->getTimestamp());
        $wait = static fn (int $seconds): string => Ttl::of($seconds)->spoken();
        $ledger->passed(
            'signed-throughout',
            'The zone stays signed: each answer carries signatures of both algorithms until the old one is gone',
            'RFC 6781 §4.1.4',
        );
        $grows = $policy->algorithm->signatureSize() + 46;
        $ledger->later("Until then each answer is about $grows bytes a set longer");
        if ($schedule !== null) {
            $ledger->later("{$wait($schedule->propagation + $schedule->zoneTtl)} after every server has its signatures, the new keys come");
            $ledger->later("{$wait($schedule->propagation + $schedule->keyTtl)} after that the parent is to name the new one");
            $gone = $wait($schedule->parentPropagation + $schedule->dsTtl);
            $ledger->later("$gone after the parent does, the old keys leave, and their signatures after them");
        }
    }
}
