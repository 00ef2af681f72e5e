<?php

declare(strict_types=1);

namespace App\Live;

use App\Domain\Name\ParentDs;
use App\Domain\Name\ServedTtls;
use App\Domain\Name\Signing;
use App\Models\KeyWish;
use App\Models\Record;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Dnssec\KeyAct;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\KeySchedule;
use HarborPost\Core\Dns\Dnssec\KeyState;
use HarborPost\Core\Dns\Dnssec\KeyStep;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** How a zone is signed: its keys and what comes next for each, what signing added, and what the next act waits for. */
final readonly class ZoneSigned
{
    /**
     * @param  Collection<int, ZoneKey>  $keys
     * @param  list<KeyStep>  $steps
     */
    private function __construct(
        public Zone $zone,
        public Collection $keys,
        public ?KeySchedule $schedule,
        private array $steps,
        private int $now,
    ) {
    }

    public static function of(Zone $zone): self
    {
        $now = now()->getTimestamp();
        $schedule = Signing::schedule($zone, $now);
        $keys = $zone->keys->sortBy(static fn (ZoneKey $k): int => $k->role->isEntry() ? 0 : 1)->values();
        $keys->each(static fn (ZoneKey $k) => $k->setRelation('zone', $zone));
        // In the order in which they were made, which tells what follows what.
        $times = array_values($zone->keys->map(static fn (ZoneKey $k) => $k->times($now))->all());

        return new self($zone, $keys, $schedule, $schedule === null ? [] : $schedule->steps($times, true), $now);
    }

    public function state(ZoneKey $key): ?KeyState
    {
        $times = array_values($this->zone->keys->map(fn (ZoneKey $k) => $k->times($this->now))->all());

        return $this->schedule?->state($key->times($this->now), $times, $this->now);
    }

    /** @return list<string> where steps wait longer than the TTLs of now ask for, in words */
    public function earlierTtls(): array
    {
        $policy = $this->zone->policy;
        $said = [];
        foreach ($policy === null ? [] : [
            [ServedTtls::ZONE, 'Records were served', Signing::longestTtl($this->zone), $policy->propagation],
            [ServedTtls::KEYS, 'Keys were served', $policy->key_ttl, $policy->propagation],
            [ServedTtls::DS, 'The DS was given', $policy->ds_ttl, $policy->parent_propagation],
        ] as [$kind, $what, $current, $lag]) {
            $ttls = ServedTtls::of($this->zone, $kind);
            $longest = $ttls->longest($this->now, $lag);
            $until = $ttls->until($current, $this->now, $lag);
            if ($longest > $current) {
                $said[] = "$what with ".Ttl::of($longest)->spoken().' (now '.Ttl::of($current)->spoken().'): '
                    .($until === null ? 'servers still have the former' : 'that is over on '.gmdate('j M, H:i', $until).' UTC');
            }
        }

        return $said;
    }

    /** What comes next for a key, in words; null when nothing does. */
    public function next(ZoneKey $key): ?string
    {
        if ($key->removed !== null) {
            return null;
        }
        if ($key->published === null && ! $key->beside || $key->wants !== KeyWish::Nothing) {
            $wish = $key->published === null && ! $key->beside ? KeyWish::Nothing : $key->wants;

            return "{$wish->words()} when every server has what is shipped";
        }
        foreach ($this->steps as $step) {
            if ($step->key === $key->id) {
                return $this->words($step);
            }
        }

        return null;
    }

    /** @return array{string, ?int, string}|null the step of the zone that comes first, in words, when it may be taken, and when it is */
    public function first(): ?array
    {
        $best = null;
        foreach ($this->steps as $step) {
            if ($step->earliest !== null && ($best === null || $step->earliest < $best->earliest)) {
                $best = $step;
            }
        }
        $key = $best === null ? null : $this->keys->firstWhere('id', $best->key);

        if ($best === null || $key === null) {
            return null;
        }
        $words = $best->act === KeyAct::AskDs && $key->ds_asked === null && $this->keys->where('role', $key->role)->count() === 1
            ? 'give its DS to the parent'
            : $best->act->words();

        $waits = $best->act === KeyAct::AskDs && $this->parent() === null ? 'waits for a person' : 'with the next run';
        $when = $best->isDue($this->now) ? $waits : gmdate('j M, H:i', (int) $best->earliest).' UTC';

        return [strtoupper($key->role->value)." $key->tag: $words", $best->earliest, $when];
    }

    private function words(KeyStep $step): string
    {
        $when = fn (?int $at): string => $at === null
            ? 'when the steps before it are done'
            : ($at <= $this->now ? 'with the next run' : 'from '.gmdate('j M, H:i', $at).' UTC');

        return match ($step->act) {
            KeyAct::Publish => "its successor is published {$when($step->earliest)}",
            KeyAct::Activate => "signs {$when($step->earliest)}",
            KeyAct::AskDs => $this->asking($step, $when($step->earliest)),
            KeyAct::SeeDs => 'waits until every server of the parent names it',
            KeyAct::Show => "stands among the keys {$when($step->earliest)}",
            KeyAct::Withdraw => $this->leaving($step, $when($step->earliest), 'leaves the keys'),
            KeyAct::Remove => $this->leaving($step, $when($step->earliest), 'leaves'),
        };
    }

    private function asking(KeyStep $step, string $when): string
    {
        return match (true) {
            $this->parent() === null => 'its DS can be given to the parent '.($step->isDue($this->now) ? 'now' : $when),
            ParentDs::isDelegated($this->zone) => "its DS goes into the parent $when",
            default => 'the parent does not delegate the zone: add its NS records there',
        };
    }

    private function leaving(KeyStep $step, string $when, string $does): string
    {
        $held = $this->held();

        return match (true) {
            $step->earliest === null => "$does when its successor took over everywhere",
            $held !== '' => "$does when $held hold the newest anchor",
            default => "$does $when",
        };
    }

    /** Resolvers that still trust an old entry alone. */
    private function held(): string
    {
        return implode(', ', array_map(static fn (Server $s): string => $s->name, ParentDs::anchoredBefore($this->zone)));
    }

    /** @return array{signatures: int, sets: int, denials: int, owners: int, first: ?int, odd: list<string>} */
    public function census(): array
    {
        $rows = DB::table('signed_records')->where('zone_id', $this->zone->id);
        $own = Record::query()->where('zone_id', $this->zone->id);
        $tags = (clone $rows)->whereNotNull('tag')->distinct()->pluck('tag')->all();
        $there = $this->keys->filter(static fn (ZoneKey $k): bool => $k->isIn())->pluck('tag')->all();
        $first = (clone $rows)->min('expires');
        $odd = array_map(
            static fn (int $t): string => "signatures of $t, which is no key of the zone",
            array_values(array_diff($tags, $there)),
        );
        if ($first !== null && (int) $first < $this->now) {
            $odd[] = 'signatures that have expired';
        }

        return [
            'signatures' => (clone $rows)->whereNotNull('covers')->count(),
            'sets' => (int) DB::query()->fromSub((clone $own)->select('owner_key', 'type')->distinct()->toBase(), 's')->count() + 1,
            'denials' => (clone $rows)->whereIn('type', [RecordType::NSEC, RecordType::NSEC3])->count(),
            'owners' => (int) (clone $own)->distinct()->count('owner_key'),
            'first' => $first === null ? null : (int) $first, 'odd' => $odd,
        ];
    }

    /** @return list<array{server: string, part: string, words: string, done: bool}> how far each server is */
    public function servers(): array
    {
        $rows = [];
        foreach (ZoneServer::query()->with('server')->where('zone_id', $this->zone->id)->orderBy('part')->get() as $p) {
            $done = $p->verified_at !== null && $p->shipped_serial === $this->zone->serial;
            $rows[] = [
                'server' => $p->server->name, 'part' => $p->part->value, 'done' => $done,
                'words' => $done
                    ? "has serial $p->shipped_serial, proved {$p->verified_at?->diffForHumans()}"
                    : ($p->shipped_serial === null ? 'does not have the zone yet' : "is not proved to have serial {$this->zone->serial}"),
            ];
        }

        return $rows;
    }

    /** The key whose DS the parent names or is to name. */
    public function entry(): ?ZoneKey
    {
        return $this->keys->last(static fn (ZoneKey $k): bool => $k->isEntry());
    }

    /** The zone of ours that delegates this one. */
    public function parent(): ?Zone
    {
        return Signing::parentOf($this->zone);
    }

    public function isParentAsked(): bool
    {
        return $this->entry()?->ds_asked !== null && $this->entry()->ds_seen === null;
    }

    /** @return array<string, string> what a person may do or note about the parent by now: input of the act → words */
    public function told(): array
    {
        $key = $this->entry();
        $gives = $key !== null && $key->ds_asked === null && $key->published !== null && $this->zone->signed_since !== null
            && $this->schedule !== null && $this->schedule->mayBeNamed($key->times($this->now)) <= $this->now;

        return ($gives ? ['given' => 'Give the DS'] : [])
            + ($this->isParentAsked() && $this->parent() === null ? ['named' => 'The parent names it'] : []);
    }

    /** All keys are of one algorithm, one for each part, and every server has them: nothing is being replaced. */
    public function mayChangeAlgorithm(): bool
    {
        $there = $this->keys->filter(static fn (ZoneKey $k): bool => $k->removed === null);

        return $there->isNotEmpty() && $there->every(fn (ZoneKey $k): bool => $this->mayRoll($k) && $k->wants === KeyWish::Nothing);
    }

    public function mayRoll(ZoneKey $key): bool
    {
        return $this->zone->unsign_asked === null && $key->removed === null && $key->published !== null && ! $key->beside
            && $this->keys->filter(static fn (ZoneKey $k): bool => $k->removed === null)->unique('algorithm')->count() === 1
            && $this->keys->filter(static fn (ZoneKey $k): bool => $k->role === $key->role && $k->removed === null)->count() === 1;
    }

    /** When it is in the zone, when it signs, when it leaves: what happened, and what is foreseen. */
    public function life(ZoneKey $key): KeyLife
    {
        $steps = [];
        foreach ($this->steps as $step) {
            if ($step->key === $key->id) {
                $steps[$step->act->value] = $step->earliest;
            }
        }
        $starts = $key->role === KeyRole::Ksk ? $key->ds_seen : $key->active;
        // What signs is replaced when its successor takes over, and caches keep its signatures for a while.
        $next = $this->keys->first(
            fn (ZoneKey $k): bool => $k->role === $key->role && $k->algorithm === $key->algorithm && $k->role->signsZone()
                && $k->active === null && $k->id !== $key->id,
        );
        $over = $next === null || $key->active === null || $this->schedule === null
            ? null : $this->schedule->ready($next->times($this->now));
        if ($over !== null && $key->retired === null) {
            return new KeyLife($key->published, $starts, true, $over, $this->schedule?->signaturesGone($over), false, null);
        }

        $foreseen = $steps[KeyAct::Activate->value] ?? $steps[KeyAct::AskDs->value] ?? null;

        return new KeyLife(
            $key->published, $starts ?? $this->foreseen($foreseen), $starts !== null,
            $key->retired ?? $key->withdrawn, $key->removed ?? $steps[KeyAct::Remove->value] ?? $steps[KeyAct::Withdraw->value] ?? null,
            $key->removed !== null,
            $steps[KeyAct::Publish->value] ?? null,
        );
    }

    /** What may be done by now was not done yet. */
    private function foreseen(?int $at): ?int
    {
        return $at === null ? null : max($at, $this->now);
    }
}
