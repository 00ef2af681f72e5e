<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Bytes\Base32;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Nsec;
use HarborPost\Core\Dns\Rdata\Nsec3;
use HarborPost\Core\Dns\Rdata\Nsec3param;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Rdata\TypeBitmap;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;

/**
 * The record sets of a zone that are signed, with the chain that denies everything else: what is below a delegation or a DNAME is not the
 * zone's own and is left out, of a delegation only DS and denial are signed (RFC 4035 §2.2, §2.3; RFC 5155 §7.1).
 */
final class SignableSets
{
    private ?Name $cut = null;

    private ?Node $before = null;

    private int $ttl = 0;

    /** @var array<string, list<int>> hash → types */
    private array $hashes = [];

    public function __construct(private readonly Name $zone, private readonly Denial $denial)
    {
    }

    /**
     * @param  iterable<Node>  $nodes  in canonical order, the apex first with its SOA and DNSKEY
     * @return \Generator<int, RecordSet> in canonical order of the names, hashed denial after all of them
     *
     * @throws Malformed when there is no apex, or two names have one hash
     */
    public function of(iterable $nodes): \Generator
    {
        foreach ($nodes as $node) {
            if ($this->cut !== null && $node->name->isIn($this->cut)) {
                continue;
            }
            $this->cut = $this->cutAt($node);
            if ($this->before === null) {
                $node = $this->apex($node);
                $first = $node->name;
            } elseif (! $this->denial->hashes()) {
                yield $this->nsec($this->before, $node->name);
            }
            $this->denial->hashes() ? $this->hash($node) : null;
            yield from $this->own($node);
            $this->before = $node;
        }
        if ($this->before === null || ! isset($first)) {
            throw Malformed::because('a zone starts with its apex', 'RFC 4035 §2');
        }
        if ($this->denial->hashes()) {
            yield from $this->chain();
        } else {
            yield $this->nsec($this->before, $first);
        }
    }

    private function cutAt(Node $node): ?Name
    {
        $delegates = $node->has(RecordType::NS) && ! $node->name->equals($this->zone);

        return $delegates || $node->has(RecordType::DNAME) && ! $node->name->equals($this->zone) ? $node->name : null;
    }

    private function apex(Node $node): Node
    {
        $soa = $node->sets[RecordType::SOA]->records[0] ?? null;
        if (! $node->name->equals($this->zone) || ! $soa?->data instanceof Soa) {
            throw Malformed::because('a zone starts with its apex and SOA', 'RFC 4035 §2');
        }
        // Denials are kept as long as "no such name" itself may be (RFC 9077 §3).
        $this->ttl = min($soa->ttl, $soa->data->negativeTtl);
        if (! $this->denial->hashes()) {
            return $node;
        }
        $parameters = new Record($node->name, 0, new Nsec3param(Denial::SHA1, 0, 0, ''));

        return new Node($node->name, $node->sets + [RecordType::NSEC3PARAM => RecordSet::of([$parameters])]);
    }

    private function isDelegation(Node $node): bool
    {
        return $node->has(RecordType::NS) && ! $node->name->equals($this->zone);
    }

    /** @return \Generator<int, RecordSet> */
    private function own(Node $node): \Generator
    {
        foreach ($node->sets as $type => $set) {
            if (! $this->isDelegation($node) || $type === RecordType::DS) {
                yield $set;
            }
        }
    }

    /** @return list<int> what the bitmap of a name says: of a delegation no addresses, which are not the zone's */
    private function types(Node $node): array
    {
        $types = array_keys($node->sets);

        return $this->isDelegation($node) ? array_values(array_intersect($types, [RecordType::NS, RecordType::DS])) : $types;
    }

    private function nsec(Node $node, Name $next): RecordSet
    {
        $types = TypeBitmap::of([...$this->types($node), RecordType::RRSIG, RecordType::NSEC]);

        return RecordSet::of([new Record($node->name, $this->ttl, new Nsec($next->lower(), $types))]);
    }

    /** A name and those between it and the last one that exist only because it does (RFC 5155 §7.1). */
    private function hash(Node $node): void
    {
        $unsigned = $this->isDelegation($node) && ! $node->has(RecordType::DS);
        if ($unsigned && $this->denial === Denial::OptOut) {
            return;
        }
        $types = $this->types($node);
        $this->hashes[$this->hashed($node->name)] = $unsigned ? $types : [...$types, RecordType::RRSIG];
        for ($up = $node->name->parent(); $up !== null && $up->isIn($this->zone) && ! $up->equals($this->zone); $up = $up->parent()) {
            $hash = Denial::hash($up);
            if (isset($this->hashes[$hash])) {
                break;
            }
            $this->hashes[$hash] = [];
        }
    }

    private function hashed(Name $name): string
    {
        $hash = Denial::hash($name);
        if (($this->hashes[$hash] ?? []) !== []) {
            throw Malformed::because("$name and another name have the same hash", 'RFC 5155 §7.1');
        }

        return $hash;
    }

    /** @return \Generator<int, RecordSet> */
    private function chain(): \Generator
    {
        ksort($this->hashes, SORT_STRING);
        $hashes = array_map(strval(...), array_keys($this->hashes));
        $flags = $this->denial === Denial::OptOut ? Nsec3::OPT_OUT : 0;
        foreach ($hashes as $i => $hash) {
            $owner = $this->zone->lower()->below(Base32::Hex->encode($hash))
                ?? throw Malformed::because("the names of $this->zone are too long to be hashed", 'RFC 5155 §3');
            $next = $hashes[$i + 1] ?? $hashes[0];
            yield RecordSet::of([
                new Record($owner, $this->ttl, new Nsec3(Denial::SHA1, $flags, 0, '', $next, TypeBitmap::of($this->hashes[$hash]))),
            ]);
        }
    }
}
