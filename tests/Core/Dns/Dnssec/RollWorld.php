<?php

declare(strict_types=1);

namespace Tests\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Dnssec\CachedTtls;
use HarborPost\Core\Dns\Dnssec\KeyAct;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\KeySchedule;
use HarborPost\Core\Dns\Dnssec\KeyStep;
use HarborPost\Core\Dns\Dnssec\KeyTimes;

/**
 * A zone, its parent, servers that lag and caches of every age. What a resolver may hold together at one moment is every combination of a
 * DS, a set of keys and a signature that was served within the time that the TTL it was served with and the lag of the servers allow.
 */
final class RollWorld
{
    /** @var list<KeyTimes> */
    public array $keys = [];

    /** @var list<array{at: int, kept: int, ds: list<string>}> kept: seconds in caches; the parent over time */
    private array $parents = [];

    /** @var list<array{at: int, kept: int, keys: list<string>, entries: list<string>}> keys that stand there, and those that sign them */
    private array $keySets = [];

    /** @var list<array{at: int, kept: int, by: list<string>}> which keys sign the zone; none while it is unsigned */
    private array $signers = [];

    private int $count = 0;

    private int $algorithm = 13;

    private CachedTtls $ofZone;

    private CachedTtls $ofKeys;

    private CachedTtls $ofDs;

    /** @param  bool  $remembers  do steps wait for TTLs that were served before? */
    public function __construct(private KeySchedule $schedule, private readonly bool $split, private readonly bool $remembers = true)
    {
        $this->ofZone = CachedTtls::of([[$schedule->zoneTtl, null]]);
        $this->ofKeys = CachedTtls::of([[$schedule->keyTtl, null]]);
        $this->ofDs = CachedTtls::of([]);
        $this->parents[] = ['at' => PHP_INT_MIN, 'kept' => 0, 'ds' => []];
        $this->keySets[] = ['at' => PHP_INT_MIN, 'kept' => $this->keyCopies(), 'keys' => [], 'entries' => []];
        $this->signers[] = ['at' => PHP_INT_MIN, 'kept' => $this->zoneCopies(), 'by' => []];
    }

    /** Other TTLs are shipped, and the parent gets another with the next DS. */
    public function retune(int $keyTtl, int $zoneTtl, int $dsTtl, int $at): void
    {
        $s = $this->schedule;
        $this->schedule = new KeySchedule(
            $keyTtl, $zoneTtl, $s->propagation, $dsTtl, $s->parentPropagation, $s->entryLife, $s->zoneKeyLife, $s->signedSince,
        );
        $this->ofZone = $this->ofZone->trim($at, $s->propagation)->serve($zoneTtl)->settle($at);
        $this->ofKeys = $this->ofKeys->trim($at, $s->propagation)->serve($keyTtl)->settle($at);
        $this->record($at);
    }

    public function signFirst(int $at): void
    {
        foreach ($this->split ? [KeyRole::Ksk, KeyRole::Zsk] : [KeyRole::Csk] as $role) {
            $this->keys[] = new KeyTimes('k'.++$this->count, $role, $at, $role->signsZone() ? $at : null, algorithm: $this->algorithm);
        }
        $this->record($at);
    }

    /** Keys of another algorithm sign from now on, and stand among the keys later. */
    public function rollAlgorithm(bool $split, int $at): void
    {
        $this->algorithm = $this->algorithm === 13 ? 15 : 13;
        foreach ($split ? [KeyRole::Ksk, KeyRole::Zsk] : [KeyRole::Csk] as $role) {
            $this->keys[] = new KeyTimes(
                'k'.++$this->count, $role, $at, $role->signsZone() ? $at : null, algorithm: $this->algorithm, hidden: true,
            );
        }
        $this->record($at);
    }

    /** One key of each part, all of one algorithm: nothing is being replaced. */
    public function isAtRest(int $now): bool
    {
        $there = array_filter($this->keys, static fn (KeyTimes $k): bool => $k->isThere());
        $roles = array_map(static fn (KeyTimes $k): string => $k->role->value, $there);
        $waits = array_filter(
            $there,
            static fn (KeyTimes $k): bool => $k->role->signsZone() && $k->active === null
                || $k->role->isEntry() && ($k->dsSeen ?? PHP_INT_MAX) > $now,
        );

        return count($roles) === count(array_unique($roles)) && $waits === []
            && count(array_unique(array_map(static fn (KeyTimes $k): int => $k->algorithm, $there))) === 1;
    }

    public function publish(KeyRole $role, int $at): void
    {
        $this->keys[] = new KeyTimes('k'.++$this->count, $role, $at, algorithm: $this->algorithm);
        $this->record($at);
    }

    /** @return list<KeyStep> */
    public function steps(int $now): array
    {
        $s = $this->schedule;
        $held = fn (CachedTtls $ttls, int $lag): int => $this->remembers ? $ttls->longest($now, $lag) : 0;
        $waits = new KeySchedule(
            max($s->keyTtl, $held($this->ofKeys, $s->propagation)),
            max($s->zoneTtl, $held($this->ofZone, $s->propagation)),
            $s->propagation,
            max($s->dsTtl, $held($this->ofDs, $s->parentPropagation)),
            $s->parentPropagation, $s->entryLife, $s->zoneKeyLife, $s->signedSince,
        );

        return $waits->steps($this->keys, true);
    }

    /** @param  int  $parentLag  the parent takes so long to do what it was asked for */
    public function carryOut(KeyStep $step, int $at, int $parentLag): void
    {
        $key = $this->keyOf($step->key);
        match ($step->act) {
            KeyAct::Publish => $this->publish($key->role, $at),
            KeyAct::Activate => $this->activate($key, $at),
            KeyAct::AskDs => $this->asked($key, $at),
            KeyAct::SeeDs => $this->seen($key, $at + $parentLag),
            KeyAct::Show => $this->together($key, ['hidden' => false, 'published' => $at]),
            KeyAct::Withdraw => $this->together($key, ['hidden' => true, 'withdrawn' => $at]),
            KeyAct::Remove => $this->change($key, ['removed' => $at]),
        };
        $this->record($at);
    }

    /** @return ?string what a resolver could hold together that does not fit; null when nothing can */
    public function breaks(int $from, int $to): ?string
    {
        $moments = [$from];
        usort($this->parents, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);
        // What can be held together changes only when something new is served and when the last copy of something old is gone.
        foreach ([$this->parents, $this->keySets, $this->signers] as $versions) {
            foreach ($versions as $i => $version) {
                array_push($moments, $version['at'], $version['at'] + ($versions[$i - 1]['kept'] ?? 0) - 1);
            }
        }
        foreach (array_unique($moments) as $now) {
            if ($now < $from || $now > $to) {
                continue;
            }
            foreach (self::within($this->parents, $now) as $parent) {
                if ($parent['ds'] === []) {
                    continue;
                }
                foreach (self::within($this->keySets, $now) as $keys) {
                    if (array_intersect($parent['ds'], $keys['entries'], $keys['keys']) === []) {
                        return "at $now: DS ".implode(',', $parent['ds']).' with keys '.implode(',', $keys['keys']);
                    }
                    foreach (self::within($this->signers, $now) as $signed) {
                        // The strictest validator: each algorithm among the keys has signed (RFC 4035 §2.2).
                        foreach ($this->byAlgorithm($keys['keys']) as $ofOne) {
                            if (array_intersect($signed['by'], $ofOne) === []) {
                                return "at $now: signatures of ".implode(',', $signed['by']).' with keys '.implode(',', $keys['keys']);
                            }
                        }
                    }
                }
            }
        }

        return null;
    }

    private function activate(KeyTimes $key, int $at): void
    {
        foreach ($this->keys as $other) {
            $before = $other->role === $key->role && $other->algorithm === $key->algorithm && $other->id !== $key->id;
            if ($before && $other->active !== null && $other->retired === null) {
                $this->change($other, ['retired' => $at]);
            }
        }
        $this->change($this->keyOf($key->id), ['active' => $at]);
    }

    private function asked(KeyTimes $key, int $at): void
    {
        $this->ofDs = $this->ofDs->serve($this->schedule->dsTtl);
        $this->change($key, ['dsAsked' => $at]);
    }

    private function seen(KeyTimes $key, int $at): void
    {
        $rows = $this->ofDs->rows();
        $this->parents[] = ['at' => $at, 'kept' => $rows[count($rows) - 1][0] + $this->schedule->parentPropagation, 'ds' => [$key->id]];
        // The parent's servers lag as well: it is seen everywhere when the slowest has it.
        $everywhere = $at + $this->schedule->parentPropagation;
        $this->change($key, ['dsSeen' => $everywhere]);
        $this->ofDs = $this->ofDs->trim($at, $this->schedule->parentPropagation)->settle($everywhere);
    }

    private function keyCopies(): int
    {
        return $this->schedule->keyTtl + $this->schedule->propagation;
    }

    private function zoneCopies(): int
    {
        return $this->schedule->zoneTtl + $this->schedule->propagation;
    }

    /**
     * @param  list<string>  $ids
     * @return array<int, list<string>>
     */
    private function byAlgorithm(array $ids): array
    {
        $by = [];
        foreach ($ids as $id) {
            $by[$this->keyOf($id)->algorithm][] = $id;
        }

        return $by;
    }

    private function keyOf(string $id): KeyTimes
    {
        return array_values(array_filter($this->keys, static fn (KeyTimes $k): bool => $k->id === $id))[0];
    }

    /**
     * Keys of one algorithm come and go in one set.
     *
     * @param  array<string, int|bool>  $with
     */
    private function together(KeyTimes $key, array $with): void
    {
        foreach ($this->keys as $one) {
            $one->algorithm === $key->algorithm && $one->isThere() ? $this->change($one, $with) : null;
        }
    }

    /** @param  array<string, int|bool>  $with */
    private function change(KeyTimes $key, array $with): void
    {
        $new = new KeyTimes(...array_merge(get_object_vars($key), $with));
        $this->keys = array_map(static fn (KeyTimes $k): KeyTimes => $k->id === $key->id ? $new : $k, $this->keys);
    }

    private function record(int $at): void
    {
        $there = array_filter($this->keys, static fn (KeyTimes $k): bool => $k->isThere());
        $shown = array_filter($there, static fn (KeyTimes $k): bool => ! $k->hidden);
        $ids = static fn (array $keys): array => array_values(array_map(static fn (KeyTimes $k): string => $k->id, $keys));
        $this->keySets[] = [
            'at' => $at, 'kept' => $this->keyCopies(), 'keys' => $ids($shown), 'entries' => $ids(array_filter(
                $shown,
                static fn (KeyTimes $k): bool => $k->role->isEntry(),
            )),
        ];
        $signing = array_filter($there, static fn (KeyTimes $k): bool => $k->active !== null && $k->retired === null);
        $this->signers[] = ['at' => $at, 'kept' => $this->zoneCopies(), 'by' => $ids($signing)];
    }

    /**
     * Versions that were served so late that a cache may still hold them.
     *
     * @template T of array{at: int, kept: int}
     *
     * @param  list<T>  $versions  oldest first
     * @return list<T>
     */
    private static function within(array $versions, int $now): array
    {
        $found = [];
        foreach ($versions as $i => $version) {
            $until = $versions[$i + 1]['at'] ?? PHP_INT_MAX;
            if ($version['at'] <= $now && $until > $now - $version['kept'] && $until > $version['at']) {
                $found[] = $version;
            }
        }

        return $found;
    }
}
