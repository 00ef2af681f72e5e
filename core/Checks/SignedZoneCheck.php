<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Fault;
use HarborPost\Core\Dns\Dnssec\Node;
use HarborPost\Core\Dns\Dnssec\SignableSets;
use HarborPost\Core\Dns\Dnssec\Signatures;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Nsec3;
use HarborPost\Core\Dns\Rdata\Nsec3param;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

/** Audits a zone that is signed: every set that should be signed is, by a key of the zone that holds now, and every gap is denied. */
final class SignedZoneCheck
{
    /** @var array<string, list<Rrsig>> key of the owner and type → signatures */
    private array $signatures = [];

    /** @var array<string, RecordSet> key of the owner and type → denial that is there */
    private array $denials = [];

    /** @var list<Dnskey> */
    private array $keys = [];

    private function __construct(private readonly Zone $zone, private readonly int $now)
    {
    }

    /** @return \Generator<int, Finding> */
    public static function of(Zone $zone, int $now): \Generator
    {
        yield from (new self($zone, $now))->check();
    }

    /** @return \Generator<int, Finding> */
    private function check(): \Generator
    {
        $nodes = $this->read();
        if ($this->keys === []) {
            yield $this->finding('no-keys', 'the zone has no DNSKEY', 'RFC 4035 §2.1', null);

            return;
        }
        $parameters = null;
        foreach ($this->zone->at($this->zone->origin) as $record) {
            $parameters = $record->data instanceof Nsec3param ? $record->data : $parameters;
        }
        if ($parameters !== null && ($parameters->salt !== '' || $parameters->iterations > 0)) {
            yield $this->finding(
                'nsec3-costly', 'names are hashed with salt or in further rounds: some resolvers take the zone as unsigned', 'RFC 9276 '
                    .'§3.1', null,
                Severity::Warning,
            );
        }
        try {
            foreach ((new SignableSets($this->zone->origin, $this->denial($parameters)))->of($nodes) as $set) {
                yield from $this->set($set, $parameters);
            }
        } catch (Malformed $e) {
            yield $this->finding('not-signable', $e->getMessage(), $e->standard, null);
        }
        foreach ($this->denials as $set) {
            yield $this->finding('denial-odd', 'denies what the zone does not leave open', 'RFC 4035 §2.3', $set);
        }
    }

    /** @return \Generator<int, Finding> */
    private function set(RecordSet $set, ?Nsec3param $parameters): \Generator
    {
        $type = $set->type()->number;
        if (in_array($type, [RecordType::NSEC, RecordType::NSEC3], true)) {
            if ($parameters !== null && ($parameters->salt !== '' || $parameters->iterations > 0)) {
                return;
            }
            $key = self::key($set);
            $there = $this->denials[$key] ?? null;
            unset($this->denials[$key]);
            if ($there === null || $there->records[0]->data->canonical() !== $set->records[0]->data->canonical()) {
                yield $this->finding($there === null ? 'denial-missing' : 'denial-wrong', $there === null
                    ? 'nothing denies what is beside it'
                    : "is meant to be {$set->records[0]->data->text()}", 'RFC 4035 §2.3', $set);

                return;
            }
            $set = $there;
        }
        $worst = Fault::NoSignature;
        foreach ($this->signatures[self::key($set)] ?? [] as $rrsig) {
            foreach ($this->keys as $key) {
                $fault = $key->tag() === $rrsig->keyTag ? Signatures::fault(
                    $rrsig,
                    $set,
                    $key,
                    $this->zone->origin,
                    $this->now,
                ) : Fault::NoKey;
                if ($fault === null) {
                    return;
                }
                $worst = $worst === Fault::NoSignature || $worst === Fault::NoKey ? $fault : $worst;
            }
        }
        yield $this->finding('signature', $worst->words(), 'RFC 4035 §2.2', $set);
    }

    /** @return list<Node> the zone's own records and its keys, in canonical order */
    private function read(): array
    {
        $own = $denials = [];
        foreach ($this->zone->owners() as $records) {
            foreach ($records as $record) {
                $data = $record->data;
                if ($data instanceof Rrsig) {
                    $this->signatures[$record->owner->key().pack('n', $data->covered->number)][] = $data;
                } elseif (in_array($record->type()->number, [RecordType::NSEC, RecordType::NSEC3], true)) {
                    $denials[$record->owner->key().pack('n', $record->type()->number)][] = $record;
                } elseif ($record->type()->number !== RecordType::NSEC3PARAM) {
                    $own[] = $record;
                }
                if ($data instanceof Dnskey && $record->owner->equals($this->zone->origin)) {
                    $this->keys[] = $data;
                }
            }
        }
        $this->denials = array_map(RecordSet::of(...), $denials);

        return Node::all($own);
    }

    private function denial(?Nsec3param $parameters): Denial
    {
        if ($parameters === null) {
            return Denial::Names;
        }
        foreach ($this->denials as $set) {
            if ($set->records[0]->data instanceof Nsec3 && $set->records[0]->data->optOut()) {
                return Denial::OptOut;
            }
        }

        return Denial::Hashes;
    }

    private function finding(
        string $code,
        string $message,
        string $standard,
        ?RecordSet $set,
        Severity $severity = Severity::Error,
    ): Finding {
        return new Finding($code, $severity, $message, $standard, $set?->owner(), $set?->type());
    }

    private static function key(RecordSet $set): string
    {
        return $set->owner()->key().pack('n', $set->type()->number);
    }
}
