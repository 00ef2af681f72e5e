<?php

declare(strict_types=1);

namespace Tests\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Dnssec\KeyAct;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\KeySchedule;
use HarborPost\Core\Dns\Dnssec\KeyStep;
use HarborPost\Core\Dns\Dnssec\KeyTimes;

/**
 * A zone, its parent, servers that lag and caches of every age. What a resolver may hold together at one moment is every combination of a
 * DS,
 * a set of keys and a signature that was served within the time that its own TTL and the lag of the servers allow.
 */
final class RollWorld
{
    /** @var list<KeyTimes> */
    public array $keys = [];

    /** @var list<array{at: int, ds: list<string>}> the parent over time */
    private array $parents = [];

    /** @var list<array{at: int, keys: list<string>, entries: list<string>}> which keys stand there and which of them sign them */
    private array $keySets = [];

    /** @var list<array{at: int, by: list<string>}> which keys sign the zone; none while it is unsigned */
    private array $signers = [];

    private int $count = 0;

    private int $algorithm = 13;

    public function __construct(private readonly KeySchedule $schedule, private readonly bool $split)
    {
        $this->parents[] = ['at' => PHP_INT_MIN, 'ds' => []];
        $this->keySets[] = ['at' => PHP_INT_MIN, 'keys' => [], 'entries' => []];
        $this->signers[] = ['at' => PHP_INT_MIN, 'by' => []];
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
    public function steps(): array
    {
        return $this->schedule->steps($this->keys, true);
    }

    /** @param  int  $parentLag  the parent takes so long to do what it was asked for */
    public function carryOut(KeyStep $step, int $at, int $parentLag): void
    {
        $key = $this->keyOf($step->key);
        match ($step->act) {
            KeyAct::Publish => $this->publish($key->role, $at),
            KeyAct::Activate => $this->activate($key, $at),
            KeyAct::AskDs => $this->change($key, ['dsAsked' => $at]),
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
        $s = $this->schedule;
        $moments = [$from];
        // What can be held together changes only when something new is served and when the last copy of something old is gone.
        $kinds = [
            [$this->parents, $s->dsTtl + $s->parentPropagation], [$this->keySets, $s->keyTtl + $s->propagation],
            [$this->signers, $s->zoneTtl + $s->propagation],
        ];
        foreach ($kinds as [$versions, $kept]) {
            foreach ($versions as $version) {
                array_push($moments, $version['at'], $version['at'] + $kept - 1);
            }
        }
        usort($this->parents, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);
        foreach (array_unique($moments) as $now) {
            if ($now < $from || $now > $to) {
                continue;
            }
            foreach (self::within($this->parents, $now, $s->dsTtl + $s->parentPropagation) as $parent) {
                if ($parent['ds'] === []) {
                    continue;
                }
                foreach (self::within($this->keySets, $now, $s->keyTtl + $s->propagation) as $keys) {
                    if (array_intersect($parent['ds'], $keys['entries'], $keys['keys']) === []) {
                        return "at $now: DS ".implode(',', $parent['ds']).' with keys '.implode(',', $keys['keys']);
                    }
                    foreach (self::within($this->signers, $now, $s->zoneTtl + $s->propagation) as $signed) {
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

    private function seen(KeyTimes $key, int $at): void
    {
        $this->parents[] = ['at' => $at, 'ds' => [$key->id]];
        // The parent's servers lag as well: it is seen everywhere when the slowest has it.
        $this->change($key, ['dsSeen' => $at + $this->schedule->parentPropagation]);
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
            'at' => $at, 'keys' => $ids($shown), 'entries' => $ids(array_filter(
                $shown,
                static fn (KeyTimes $k): bool => $k->role->isEntry(),
            )),
        ];
        $signing = array_filter($there, static fn (KeyTimes $k): bool => $k->active !== null && $k->retired === null);
        $this->signers[] = ['at' => $at, 'by' => $ids($signing)];
    }

    /**
     * Versions that were served at some time within the last so many seconds.
     *
     * @template T of array{at: int}
     *
     * @param  list<T>  $versions  oldest first
     * @return list<T>
     */
    private static function within(array $versions, int $now, int $back): array
    {
        $found = [];
        foreach ($versions as $i => $version) {
            $until = $versions[$i + 1]['at'] ?? PHP_INT_MAX;
            if ($version['at'] <= $now && $until > $now - $back && $until > $version['at']) {
                $found[] = $version;
            }
        }

        return $found;
    }
}
