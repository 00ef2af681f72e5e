<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Bytes\Base32;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Nsec;
use HarborPost\Core\Dns\Rdata\Nsec3;
use HarborPost\Core\Dns\Rdata\TypeBitmap;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/**
 * What denial records, whose signatures hold, prove of a name (RFC 4035 §5.4, RFC 5155 §8, RFC 6840 §4). Records of a delegation or of a
 * DNAME prove nothing of what is below.
 */
final class DenialProof
{
    /** Rounds of hashing that are followed; beyond, the zone counts as unsigned (RFC 9276 §3.2). */
    private const ROUNDS = 50;

    /** @var list<array{Name, Nsec}> */
    private array $names = [];

    /** @var array<string, Nsec3> bytes of the hash → record */
    private array $hashes = [];

    private bool $tooManyRounds = false;

    /** @param  list<Record>  $records */
    public function __construct(private readonly Name $zone, array $records)
    {
        $first = null;
        foreach ($records as $record) {
            if ($record->data instanceof Nsec) {
                $this->names[] = [$record->owner, $record->data];
            } elseif ($record->data instanceof Nsec3 && $record->data->algorithm === Denial::SHA1 && $record->data->flags <= 1) {
                $first ??= $record->data;
                $hash = Base32::Hex->decode($record->owner->labels()[0] ?? '');
                $parent = $record->owner->parent();
                $this->tooManyRounds = $this->tooManyRounds || $record->data->iterations > self::ROUNDS;
                // One answer is proved by one set of parameters (RFC 5155 §8.2).
                if (
                    $hash !== null && $parent !== null && $parent->equals($zone)
                        && $record->data->salt === $first->salt && $record->data->iterations === $first->iterations
                ) {
                    $this->hashes[$hash] = $record->data;
                }
            }
        }
    }

    public function tooManyRounds(): bool
    {
        return $this->tooManyRounds;
    }

    /** The name does not exist, and no wildcard stands in for it. */
    public function noName(Name $name): bool
    {
        $covering = $this->covering($name);
        if ($covering !== null) {
            $wildcard = $this->encloser($name, $covering)->below('*');

            return $wildcard !== null && $this->covering($wildcard) !== null;
        }
        $encloser = $this->hashedEncloser($name);
        $wildcard = $encloser?->below('*');

        return $wildcard !== null && $this->hashCovering($wildcard) !== null;
    }

    /** The name exists, itself or by a wildcard, without that type. */
    public function noData(Name $name, int $type): bool
    {
        $types = $this->typesOf($name);
        if ($types !== null) {
            return $this->lacks($types, $type);
        }
        $covering = $this->covering($name);
        if ($covering !== null) {
            // A name without records of its own, above the next one.
            if ($covering[1]->next->isIn($name)) {
                return true;
            }
            $wildcard = $this->encloser($name, $covering)->below('*');
        } else {
            $wildcard = $this->hashedEncloser($name)?->below('*');
        }
        $types = $wildcard === null ? null : $this->typesOf($wildcard);

        return $types !== null && $this->lacks($types, $type);
    }

    /** Nothing stands at the name itself, so that the wildcard with so many labels below it was right to answer. */
    public function noCloser(Name $name, int $labels): bool
    {
        if ($this->covering($name) !== null) {
            return true;
        }
        $all = $name->labels();
        $closer = Name::ofLabels(array_slice($all, max(0, count($all) - $labels - 1)));

        return $this->hashCovering($closer) !== null;
    }

    /** @return ?Delegation what is proved of a name that has no DS; null when nothing is */
    public function noDs(Name $name): ?Delegation
    {
        $types = $this->typesOf($name);
        if ($types !== null) {
            return match (true) {
                $types->has(RecordType::DS), $types->has(RecordType::SOA) && ! $name->isRoot() => null,
                $types->has(RecordType::NS) => Delegation::Unsigned,
                default => Delegation::None,
            };
        }
        if ($this->covering($name) !== null) {
            return Delegation::None;
        }
        $encloser = $this->hashedEncloser($name);
        if ($encloser === null) {
            return null;
        }

        return $this->hashCovering($this->nextCloser($name, $encloser))?->optOut() === true ? Delegation::Unsigned : Delegation::None;
    }

    private function lacks(TypeBitmap $types, int $type): bool
    {
        // The parent's side of a delegation speaks for DS alone, the child's for everything else (RFC 6840 §4.1).
        $parental = $types->has(RecordType::NS) && ! $types->has(RecordType::SOA);
        if ($type === RecordType::DS ? $types->has(RecordType::SOA) && ! $this->zone->isRoot() : $parental) {
            return false;
        }

        return ! $types->has($type) && ! $types->has(RecordType::CNAME);
    }

    private function typesOf(Name $name): ?TypeBitmap
    {
        foreach ($this->names as [$owner, $nsec]) {
            if ($owner->equals($name)) {
                return $nsec->types;
            }
        }
        $hash = $this->hash($name);

        return $hash === null ? null : ($this->hashes[$hash] ?? null)?->types;
    }

    /** @return array{Name, Nsec}|null the record between whose names this one would stand */
    private function covering(Name $name): ?array
    {
        foreach ($this->names as [$owner, $nsec]) {
            $last = $nsec->next->compare($owner) <= 0;
            $between = $owner->compare($name) < 0 && ($last || $name->compare($nsec->next) < 0);
            if ($between && $name->isIn($this->zone) && ! $this->handsOn($owner, $nsec->types, $name)) {
                return [$owner, $nsec];
            }
        }

        return null;
    }

    /** Is the name below a delegation or a DNAME at that owner? */
    private function handsOn(Name $owner, TypeBitmap $types, Name $name): bool
    {
        return $name->isIn($owner) && ! $name->equals($owner)
            && ($types->has(RecordType::NS) && ! $types->has(RecordType::SOA) || $types->has(RecordType::DNAME));
    }

    /**
     * The closest name above that exists: the longest that the name shares with either end.
     *
     * @param  array{Name, Nsec}  $covering
     */
    private function encloser(Name $name, array $covering): Name
    {
        for ($up = $name->parent(); $up !== null && ! $up->equals($this->zone); $up = $up->parent()) {
            if ($covering[0]->isIn($up) || $covering[1]->next->isIn($up)) {
                return $up;
            }
        }

        return $this->zone;
    }

    /** The closest name above whose hash is there, when the name below it towards this one is denied (RFC 5155 §8.3). */
    private function hashedEncloser(Name $name): ?Name
    {
        $below = $name;
        for ($up = $name->parent(); $up !== null && $up->isIn($this->zone); [$below, $up] = [$up, $up->parent()]) {
            $hash = $this->hash($up);
            $record = $hash === null ? null : $this->hashes[$hash] ?? null;
            if ($record !== null) {
                return $this->handsOn($up, $record->types, $below) || $this->hashCovering($below) === null ? null : $up;
            }
        }

        return null;
    }

    private function nextCloser(Name $name, Name $encloser): Name
    {
        return Name::ofLabels(array_slice($name->labels(), count($name->labels()) - count($encloser->labels()) - 1));
    }

    private function hashCovering(Name $name): ?Nsec3
    {
        $hash = $this->hash($name);
        if ($hash === null) {
            return null;
        }
        foreach ($this->hashes as $owner => $nsec3) {
            $owner = (string) $owner;
            $last = strcmp($nsec3->next, $owner) <= 0;
            $inside = $last
                ? strcmp($hash, $owner) > 0 || strcmp($hash, $nsec3->next) < 0
                : strcmp($hash, $owner) > 0 && strcmp($hash, $nsec3->next) < 0;
            if ($inside) {
                return $nsec3;
            }
        }

        return null;
    }

    private function hash(Name $name): ?string
    {
        foreach ($this->hashes as $first) {
            return $this->tooManyRounds ? null : Denial::hash($name, $first->salt, $first->iterations);
        }

        return null;
    }
}
