<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ParentDs;
use App\Domain\Name\Records;
use App\Domain\Name\ServedTtls;
use App\Domain\Name\Signing;
use App\Models\KeyWish;
use App\Models\Zone;
use App\Models\ZoneKey;
use HarborPost\Core\Dns\Dnssec\KeyAct;
use Illuminate\Support\Facades\DB;

/** Takes every step in the life of a zone's keys whose time has come, and has signatures made anew before they end. */
final readonly class AdvanceKeys extends Act
{
    use OfZone;

    public function __construct(
        public string $zone,
        /** what the servers of the parent say, where they were asked: named or gone */
        public ?string $parent = null,
    ) {
    }

    public function title(): string
    {
        return 'Keys of '.(Zone::query()->find($this->zone)?->title() ?? 'a zone').' go on';
    }

    /** Nobody decides here: the times follow from the policy, which was agreed to. */
    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::signedZone($ledger, $this->zone);
        $now = $ledger->at->getTimestamp();
        if ($zone->unsign_asked !== null) {
            $this->unsign($zone, $now);

            return;
        }
        $entry = ParentDs::entry($zone);
        if ($this->parent === 'named' && $entry?->ds_asked !== null && $entry->ds_seen === null) {
            $entry->ds_seen = $now;
            $entry->save();
            ServedTtls::seen($zone, $now);
        } elseif ($this->parent === 'gone' && $entry?->ds_seen !== null) {
            // Somebody took it out of the parent: it is named no more, and what waits for that waits again.
            $entry->ds_seen = null;
            $entry->save();
        }
        $schedule = Signing::schedule($zone, $now);
        $keys = $zone->keys()->get();
        // A step is in force when every server has it; until then no further one is taken.
        $open = $keys->contains(static fn (ZoneKey $k): bool => $k->removed === null
            && ($k->published === null && ! $k->beside || $k->wants !== KeyWish::Nothing));
        if ($schedule !== null && ! $open) {
            $times = array_values($keys->map(static fn (ZoneKey $k) => $k->times($now))->all());
            foreach ($schedule->steps($times, true) as $step) {
                $key = $step->isDue($now) && ! self::isHeld($zone, $step->act) ? $keys->firstWhere('id', $step->key) : null;
                $key === null ?: $this->step($ledger, $zone, $key, $step->act, $now);
            }
        }
        self::renewDue($zone, $now);
    }

    private function step(Ledger $ledger, Zone $zone, ZoneKey $key, KeyAct $act, int $now): void
    {
        match ($act) {
            KeyAct::Publish => ZoneKey::draw($zone, $key->role, $key->algorithm, $now)->save(),
            KeyAct::Activate => $key->fill(['wants' => KeyWish::Active])->save(),
            KeyAct::Show => $key->fill(['wants' => KeyWish::Shown])->save(),
            KeyAct::Withdraw => $key->fill(['wants' => KeyWish::Withdrawn])->save(),
            KeyAct::Remove => $key->fill(['wants' => KeyWish::Removed])->save(),
            // A parent that is somebody else's is asked by a person.
            KeyAct::AskDs => Signing::parentOf($zone) === null || ! ParentDs::isDelegated($zone)
                ?: ParentDs::give($ledger, $zone, $key, $now),
            KeyAct::SeeDs => null,
        };
        if (! in_array($act, [KeyAct::AskDs, KeyAct::SeeDs], true)) {
            Records::mark($zone);
        }
    }

    /** A resolver that trusts the old entry alone would believe nothing any more. */
    private static function isHeld(Zone $zone, KeyAct $act): bool
    {
        return in_array($act, [KeyAct::Remove, KeyAct::Withdraw], true) && ParentDs::anchoredBefore($zone) !== [];
    }

    private function unsign(Zone $zone, int $now): void
    {
        if ($this->parent === 'gone' && $zone->unsign_seen === null) {
            $zone->unsign_seen = $now;
            $zone->save();
        }
        $schedule = Signing::schedule($zone, $now);
        if ($schedule !== null && $zone->unsign_seen !== null && $schedule->dsGone($zone->unsign_seen) <= $now) {
            Signing::strip($zone);
        }
    }

    private static function renewDue(Zone $zone, int $now): void
    {
        $due = DB::table('signed_records')->where('zone_id', $zone->id)->where(
            'expires',
            '<=',
            $now + ($zone->policy->refresh ?? 0),
        )->exists();
        $marked = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->exists();
        $due && ! $marked ? Records::mark($zone) : null;
    }
}
