<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/**
 * When the steps of a key's life may be taken, so that no resolver holds records together that do not fit (RFC 7583 §3.2.1 for keys that
 * sign the zone: pre-publication; §3.3.1 for entries: both keys sign the keys while the DS is exchanged). All in seconds.
 */
final readonly class KeySchedule
{
    public function __construct(
        public int $keyTtl,
        /** the longest TTL of the zone, that of "no such name" included */
        public int $zoneTtl,
        /** until every server of the zone has what was shipped */
        public int $propagation,
        public int $dsTtl,
        /** until every server of the parent has what was given to it */
        public int $parentPropagation,
        /** life of an entry; 0 replaces it only on request */
        public int $entryLife,
        /** life of a key that signs the zone; 0 as above */
        public int $zoneKeyLife,
        /** the zone is signed since */
        public int $signedSince,
    ) {
    }

    /** A key is in every cache that has keys. */
    public function ready(KeyTimes $key): int
    {
        return $key->published + $this->propagation + $this->keyTtl;
    }

    /** The parent may name a key: the unsigned zone of before is in no cache any more either. */
    public function mayBeNamed(KeyTimes $key): int
    {
        return max($this->ready($key), $this->signedSince + $this->propagation + $this->zoneTtl);
    }

    /** Caches may hold signatures of a key so long after another one took its place. */
    public function signaturesGone(int $retired): int
    {
        return $retired + $this->propagation + $this->zoneTtl;
    }

    /** Caches may hold a set of keys so long after the servers had another. */
    public function keysGone(int $withdrawn): int
    {
        return $withdrawn + $this->propagation + $this->keyTtl;
    }

    /** Caches may hold a DS so long after the parent's servers had another. */
    public function dsGone(int $seen): int
    {
        return $seen + $this->parentPropagation + $this->dsTtl;
    }

    public function lifeOf(KeyRole $role): int
    {
        return $role->isEntry() ? $this->entryLife : $this->zoneKeyLife;
    }

    /** When a successor has to be in the zone so that it is ready at the end of the life. */
    public function successorDue(KeyTimes $key): ?int
    {
        $life = $this->lifeOf($key->role);
        $from = $key->role === KeyRole::Ksk ? $key->published : $key->active;

        return $life === 0 || $from === null ? null : $from + $life - $this->propagation - $this->keyTtl;
    }

    /** @param  list<KeyTimes>  $keys  of one zone */
    public function state(KeyTimes $key, array $keys, int $now): KeyState
    {
        if ($key->removed !== null) {
            return KeyState::Removed;
        }
        if ($key->withdrawn !== null) {
            return $this->keysGone($key->withdrawn) <= $now ? KeyState::Dead : KeyState::Retired;
        }
        $removable = $this->removable($key, $keys);

        return match (true) {
            $key->hidden => KeyState::Ahead,
            AlgorithmRoll::of($keys)?->isReplaced($key) === true => KeyState::Retired,
            $removable !== null && $removable <= $now => KeyState::Dead,
            $key->retired !== null, $key->role === KeyRole::Ksk && $this->successor($key, $keys)?->dsSeen !== null => KeyState::Retired,
            $key->role === KeyRole::Ksk ? $key->dsSeen !== null : $key->active !== null => KeyState::Active,
            $this->ready($key) <= $now => KeyState::Ready,
            default => KeyState::Published,
        };
    }

    /**
     * What comes next for each key of a zone.
     *
     * @param  list<KeyTimes>  $keys  in the order in which they were made
     * @param  bool  $parent  is there a parent that names keys?
     * @return list<KeyStep>
     */
    public function steps(array $keys, bool $parent): array
    {
        $roll = AlgorithmRoll::of($keys);
        if ($roll !== null) {
            return $roll->steps($this, $parent);
        }
        $steps = [];
        foreach (array_filter($keys, static fn (KeyTimes $k): bool => $k->isThere()) as $key) {
            $successor = $this->successor($key, $keys);
            $due = $this->successorDue($key);
            if ($successor === null && $key->retired === null && $due !== null) {
                $steps[] = new KeyStep($key->id, KeyAct::Publish, $due);
            }
            if ($key->role->signsZone() && $key->active === null) {
                $steps[] = new KeyStep($key->id, KeyAct::Activate, $this->ready($key));
            }
            if ($parent && $key->role->isEntry() && $key->retired === null && $key->dsSeen === null) {
                $steps[] = $key->dsAsked === null
                    ? new KeyStep($key->id, KeyAct::AskDs, $this->askable($key))
                    : new KeyStep($key->id, KeyAct::SeeDs, null);
            }
            if ($successor !== null) {
                $steps[] = new KeyStep($key->id, KeyAct::Remove, $this->removable($key, $keys));
            }
        }

        return $steps;
    }

    /** A single key is named when it also signs: otherwise its DS could lead to signatures of the one before alone. */
    private function askable(KeyTimes $key): ?int
    {
        if ($key->role === KeyRole::Csk) {
            return $key->active === null ? null : max($this->mayBeNamed($key), $key->active);
        }

        return $this->mayBeNamed($key);
    }

    /**
     * The earliest time at which nothing in a cache needs the key any more; null while that is not known.
     *
     * @param  list<KeyTimes>  $keys
     */
    public function removable(KeyTimes $key, array $keys): ?int
    {
        $successor = $this->successor($key, $keys);
        if ($successor === null) {
            return null;
        }
        $times = [];
        if ($key->role->signsZone() && $key->active !== null) {
            $times[] = $key->retired === null ? null : $this->signaturesGone($key->retired);
        }
        if ($key->role->isEntry() && $key->dsAsked !== null) {
            $times[] = $successor->dsSeen === null ? null : $this->dsGone($successor->dsSeen);
        }
        // A key that nobody needed yet goes when its successor is everywhere.
        $times[] = $this->ready($successor);

        return in_array(null, $times, true) ? null : max($times);
    }

    /** @param  list<KeyTimes>  $keys  in the order in which they were made */
    private function successor(KeyTimes $key, array $keys): ?KeyTimes
    {
        $passed = false;
        foreach ($keys as $other) {
            if ($passed && $other->role === $key->role && $other->algorithm === $key->algorithm && $other->isThere()) {
                return $other;
            }
            $passed = $passed || $other->id === $key->id;
        }

        return null;
    }
}
