<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/** What a signed zone adds to its answers for those who ask for it (RFC 4035 §3.1, RFC 5155 §7.2). */
final readonly class Proofs
{
    public function __construct(private ?ServedZone $zone, private bool $wanted)
    {
    }

    /** @return list<Record> the signatures of a set */
    public function of(Name $owner, int $type): array
    {
        return $this->isGiven() ? $this->zone?->signatures($owner, $type) ?? [] : [];
    }

    /**
     * @param  Name  $at  where the set stands, a wildcard perhaps
     * @return list<Record> the signatures of a set that was found, with the owner that was asked for
     */
    public function ofFound(Record $found, Name $at): array
    {
        return array_map(
            static fn (Record $r): Record => new Record($found->owner, $r->ttl, $r->data),
            $this->of($at, $found->type()->number),
        );
    }

    /** @return list<Record> with a referral: the DS, or the proof that there is none */
    public function delegation(Name $cut): array
    {
        $ds = $this->isGiven() ? $this->zone?->set($cut, RecordType::DS) ?? [] : [];

        return $ds === [] ? $this->unique($this->denying($cut)) : [...$ds, ...$this->of($cut, RecordType::DS)];
    }

    /** @return list<Record> that nothing stands closer than the wildcard that answered */
    public function wildcard(Name $name): array
    {
        return $this->isGiven() ? $this->unique($this->zone?->denialOver($this->closer($name)) ?? []) : [];
    }

    /**
     * @param  Name  $at  the name, or the wildcard that stands in for it
     * @return list<Record> that there is no such name, or no such type at it
     */
    public function absence(Name $name, Name $at): array
    {
        if (! $this->isGiven() || $this->zone === null) {
            return [];
        }
        if ($this->zone->exists($name)) {
            return $this->unique($this->denying($name));
        }
        $encloser = $this->encloser($name);
        $wildcard = $encloser->below('*');
        $records = [...$this->zone->denialOver($this->closer($name)), ...$this->hashing($encloser)];
        if ($wildcard !== null) {
            $records = [...$records, ...($at->equals($wildcard) ? $this->zone->denialAt($wildcard) : $this->zone->denialOver($wildcard))];
        }

        return $this->unique($records);
    }

    private function isGiven(): bool
    {
        return $this->wanted && $this->zone?->isSigned() === true;
    }

    /**
     * At the name itself; for one that is left out of the chain, the closest name above and what spans it (RFC 5155 §7.2.4, §7.2.7).
     *
     * @return list<Record>
     */
    private function denying(Name $name): array
    {
        if (! $this->isGiven() || $this->zone === null) {
            return [];
        }
        $at = $this->zone->denialAt($name);
        if ($at !== [] || ! $this->zone->isHashing()) {
            // A name without records of its own has no NSEC: the one before spans it.
            return $at === [] ? $this->zone->denialOver($name) : $at;
        }
        $below = $name;
        for ($up = $name->parent(); $up !== null && $up->isIn($this->zone->origin); $up = $up->parent()) {
            $encloser = $this->zone->denialAt($up);
            if ($encloser !== []) {
                return [...$encloser, ...$this->zone->denialOver($below)];
            }
            $below = $up;
        }

        return [];
    }

    /** @return list<Record> where names are hashed, the closest name above is proved by itself */
    private function hashing(Name $encloser): array
    {
        return $this->zone?->isHashing() === true ? $this->zone->denialAt($encloser) : [];
    }

    private function encloser(Name $name): Name
    {
        for ($up = $name->parent(); $up !== null && $this->zone !== null && $up->isIn($this->zone->origin); $up = $up->parent()) {
            if ($this->zone->exists($up)) {
                return $up;
            }
        }

        return $this->zone->origin ?? Name::root();
    }

    /** The name itself, or where names are hashed the one just below the closest that exists. */
    private function closer(Name $name): Name
    {
        if ($this->zone?->isHashing() !== true) {
            return $name;
        }
        $depth = count($name->labels()) - count($this->encloser($name)->labels()) - 1;

        return Name::ofLabels(array_slice($name->labels(), $depth));
    }

    /**
     * @param  list<Record>  $records
     * @return list<Record>
     */
    private function unique(array $records): array
    {
        $unique = [];
        foreach ($records as $record) {
            $unique[$record->owner->key().$record->identity()] ??= $record;
        }

        return array_values($unique);
    }
}
