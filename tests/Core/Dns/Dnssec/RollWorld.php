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

    public function __construct(private readonly KeySchedule $schedule, private readonly bool $split)
    {
        $this->parents[] = ['at' => PHP_INT_MIN, 'ds' => []];
        $this->keySets[] = ['at' => PHP_INT_MIN, 'keys' => [], 'entries' => []];
        $this->signers[] = ['at' => PHP_INT_MIN, 'by' => []];
    }

    public function signFirst(int $at): void
    {
        foreach ($this->split ? [KeyRole::Ksk, KeyRole::Zsk] : [KeyRole::Csk] as $role) {
            $this->keys[] = new KeyTimes('k'.++$this->count, $role, $at, $role->signsZone() ? $at : null);
        }
        $this->record($at);
    }

    public function publish(KeyRole $role, int $at): void
    {
        $this->keys[] = new KeyTimes('k'.++$this->count, $role, $at);
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
                        if (array_intersect($signed['by'], $keys['keys']) === []) {
                            return "at $now: signatures of ".implode(',', $signed['by']).' with keys '.implode(',', $keys['keys']);
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
            if ($other->role === $key->role && $other->id !== $key->id && $other->active !== null && $other->retired === null) {
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

    private function keyOf(string $id): KeyTimes
    {
        return array_values(array_filter($this->keys, static fn (KeyTimes $k): bool => $k->id === $id))[0];
    }

    /** @param  array<string, int>  $with */
    private function change(KeyTimes $key, array $with): void
    {
        $new = new KeyTimes(...array_merge(get_object_vars($key), $with));
        $this->keys = array_map(static fn (KeyTimes $k): KeyTimes => $k->id === $key->id ? $new : $k, $this->keys);
    }

    private function record(int $at): void
    {
        $there = array_filter($this->keys, static fn (KeyTimes $k): bool => $k->isThere());
        $ids = static fn (array $keys): array => array_values(array_map(static fn (KeyTimes $k): string => $k->id, $keys));
        $this->keySets[] = [
            'at' => $at, 'keys' => $ids($there), 'entries' => $ids(array_filter(
                $there,
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
