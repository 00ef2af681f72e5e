<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cdnskey;
use HarborPost\Core\Dns\Rdata\Cds;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;

/**
 * Signs a zone, or what changed in one: a signature that still covers what the set holds, by a key that still signs, and that does not end
 * soon is kept. All that comes out are records; nothing is known of where they are stored.
 */
final readonly class ZoneSigner
{
    /**
     * @param  list<Dnskey>  $published  every key that stands in the zone, those that do not sign among them
     * @param  list<SigningKey>  $keySigners  sign the keys
     * @param  list<SigningKey>  $zoneSigners  sign everything else
     * @param  list<Dnskey>  $entries  keys that the parent is asked to name, by CDS and CDNSKEY (RFC 7344)
     */
    public function __construct(
        public Name $zone,
        private Denial $denial,
        private Validity $validity,
        private array $published,
        private array $keySigners,
        private array $zoneSigners,
        private int $keyTtl,
        private array $entries = [],
    ) {
    }

    /**
     * @param  iterable<Node>  $nodes  the zone's own records in canonical order, the apex with its SOA first
     * @param  array<string, KeptSignature>  $kept  by KeptSignature::key()
     * @return \Generator<int, SignedSet>
     */
    public function sign(iterable $nodes, array $kept, int $now): \Generator
    {
        foreach ((new SignableSets($this->zone, $this->denial))->of($this->withKeys($nodes)) as $set) {
            $digest = self::digest($set);
            $stay = $fresh = [];
            foreach ($this->signersOf($set->type()->number) as $key) {
                $had = $kept[KeptSignature::key($set->owner(), $set->type()->number, $key->tag(), $key->algorithm->value)] ?? null;
                if ($had !== null && $had->digest === $digest && ! $this->validity->isDue($had->expires, $now)) {
                    $stay[] = $had;

                    continue;
                }
                [$from, $to] = $this->validity->times($set->owner(), $set->type()->number, $now);
                $fresh[] = Signatures::make($set, $key, $this->zone, $from, $to);
            }
            yield new SignedSet($set, $digest, self::isMade($set->type()->number), $stay, $fresh);
        }
    }

    /** Is the set one that signing puts into the zone, rather than somebody's own records? */
    public static function isMade(int $type): bool
    {
        return RecordType::of($type)->isMadeBySigning()
            || in_array($type, [RecordType::DNSKEY, RecordType::CDS, RecordType::CDNSKEY], true);
    }

    /** Tells whether a set is still the one that was signed: the TTL counts, which the signature covers. */
    public static function digest(RecordSet $set): string
    {
        $hash = hash_init('sha256');
        hash_update($hash, pack('nN', $set->type()->number, $set->ttl()));
        foreach ($set->records as $record) {
            $data = $record->data->canonical();
            hash_update($hash, pack('n', strlen($data)).$data);
        }

        return substr(hash_final($hash, true), 0, 20);
    }

    /** @return list<SigningKey> */
    private function signersOf(int $type): array
    {
        return in_array($type, [RecordType::DNSKEY, RecordType::CDS, RecordType::CDNSKEY], true) ? $this->keySigners : $this->zoneSigners;
    }

    /**
     * @param  iterable<Node>  $nodes
     * @return \Generator<int, Node>
     */
    private function withKeys(iterable $nodes): \Generator
    {
        $first = true;
        foreach ($nodes as $node) {
            $sets = array_filter($node->sets, static fn (int $type): bool => ! self::isMade($type), ARRAY_FILTER_USE_KEY);
            if ($first) {
                $sets += $this->keySets();
            }
            $first = false;
            if ($sets !== []) {
                ksort($sets);
                yield new Node($node->name, $sets);
            }
        }
    }

    /** @return array<int, RecordSet> */
    private function keySets(): array
    {
        $record = fn (Dnskey|Cds|Cdnskey $data): Record => new Record($this->zone, $this->keyTtl, $data);
        $keys = array_map($record, $this->published);
        $sets = $keys === [] ? [] : [RecordType::DNSKEY => RecordSet::of($keys)];
        if ($this->entries !== []) {
            $cds = array_map(fn (Dnskey $k): Record => $record(
                Cds::fromText(Fields::ofLine(SigningKey::dsOf($this->zone, $k)->text())),
            ), $this->entries);
            $cdnskey = array_map(static fn (Dnskey $k): Record => $record(Cdnskey::fromText(Fields::ofLine($k->text()))), $this->entries);
            $sets += [RecordType::CDS => RecordSet::of($cds), RecordType::CDNSKEY => RecordSet::of($cdnskey)];
        }

        return $sets;
    }
}
