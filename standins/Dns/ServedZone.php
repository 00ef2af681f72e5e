<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Bytes\Base32;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Zone\Lapse;

/** A zone as a server holds it: records by name and type, and the names that exist, empty non-terminals included. */
final class ServedZone
{
    /** @var array<string, array<int, array<string, Record>>> sort key → type → identity → record */
    private array $nodes = [];

    /** @var array<string, int> sort key → how many names with records are there or below */
    private array $exists = [];

    /** @var array<string, array<int, array<string, Record>>> first label of a hashed name → type → identity → record */
    private array $hashed = [];

    /** @var ?list<string> sort keys of names with NSEC, or hashed labels, in order; null when something changed */
    private ?array $chain = null;

    /** Steps that are kept for transfers by difference (RFC 1995 §5). */
    private const STEPS = 60;

    /** Records that a step may have to be kept. */
    private const STEP_SIZE = 20_000;

    /** @var list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}> oldest first */
    private array $steps = [];

    /** @var list<string> endpoints of secondaries that are told of a new serial */
    public array $notify = [];

    /** refused, key or address */
    public string $updateMode = 'refused';

    /** @var list<string> prefixes, or "key NAME" */
    public array $updateFrom = [];

    public ?Lapse $lapse = null;

    /** @var array<string, int> "owner type" → when a client last registered or renewed it, seconds since 1970 */
    public array $renewals = [];

    /** a secondary that has not heard from its primary for too long answers nothing (RFC 1034 §4.3.5) */
    public bool $expired = false;

    /** @param  list<string>  $transfer  prefixes, or "key NAME", that may take the zone as a whole */
    public function __construct(public readonly Name $origin, public array $transfer = [])
    {
    }

    /**
     * Keeps a change so that it can be handed on by itself.
     *
     * @param  list<Record>  $removed  without SOA
     * @param  list<Record>  $added
     */
    public function keepStep(?Record $from, array $removed, array $added): void
    {
        $to = $this->soa();
        if ($from === null || $to === null || count($removed) + count($added) > self::STEP_SIZE) {
            $this->steps = [];

            return;
        }
        $this->steps[] = ['from' => $from, 'to' => $to, 'removed' => $removed, 'added' => $added];
        $this->steps = array_slice($this->steps, -self::STEPS);
    }

    /**
     * @return list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}>|null the way from a serial to the present
     *     one; null when it is not kept
     */
    public function stepsFrom(Serial $serial): ?array
    {
        foreach ($this->steps as $i => $step) {
            if ($step['from']->data instanceof Soa && $step['from']->data->serial->equals($serial)) {
                return array_slice($this->steps, $i);
            }
        }

        return null;
    }

    /** The same zone with other contents keeps who may do what with it. */
    public function inheritFrom(self $other): void
    {
        [$this->transfer, $this->notify, $this->updateMode, $this->updateFrom, $this->lapse] = [
            $other->transfer, $other->notify, $other->updateMode, $other->updateFrom, $other->lapse,
        ];
        $this->renewals = $other->renewals;
    }

    /** @param  array<mixed>  $message  transfer, notify, update: {mode, from}, lapse: {after, quiet} or null */
    public function settle(array $message): void
    {
        $strings = static fn (mixed $list): array => array_values(array_filter(is_array($list) ? $list : [], is_string(...)));
        $this->transfer = isset($message['transfer']) ? $strings($message['transfer']) : $this->transfer;
        $this->notify = isset($message['notify']) ? $strings($message['notify']) : $this->notify;
        if (is_array($message['update'] ?? null)) {
            $this->updateMode = is_string($message['update']['mode'] ?? null) ? $message['update']['mode'] : 'refused';
            $this->updateFrom = $strings($message['update']['from'] ?? []);
        }
        if (array_key_exists('lapse', $message)) {
            $lapse = $message['lapse'];
            $this->lapse = is_array($lapse)
                && is_int($lapse['after'] ?? null)
                && is_int($lapse['quiet'] ?? null) ? Lapse::of($lapse['after'], $lapse['quiet']) : null;
        }
        foreach (is_array($message['renewals'] ?? null) ? $message['renewals'] : [] as $set => $at) {
            is_int($at) ? $this->renewals[(string) $set] = $at : null;
        }
    }

    /** @return array<string, mixed> what settle() takes */
    public function settings(): array
    {
        return [
            'transfer' => $this->transfer,
            'notify' => $this->notify,
            'update' => ['mode' => $this->updateMode, 'from' => $this->updateFrom],
            'lapse' => $this->lapse === null ? null : ['after' => $this->lapse->lifetime, 'quiet' => $this->lapse->quiet],
            'renewals' => $this->renewals,
        ];
    }

    public static function line(Record $record): string
    {
        return "{$record->owner->lower()} $record->ttl {$record->type()} {$record->data->text()}";
    }

    public function add(Record $record): void
    {
        if (self::isDenial($record)) {
            $this->chain = null;
        }
        if (self::isHashed($record)) {
            $this->hashed[strtolower($record->owner->labels()[0])][$record->type()->number][$record->identity()] = $record;

            return;
        }
        $key = $record->owner->sortKey();
        if (! isset($this->nodes[$key])) {
            $this->count($record->owner, 1);
        }
        $this->nodes[$key][$record->type()->number][$record->identity()] = $record;
    }

    public function remove(Record $record): void
    {
        if (self::isDenial($record)) {
            $this->chain = null;
        }
        if (self::isHashed($record)) {
            $label = strtolower($record->owner->labels()[0]);
            unset($this->hashed[$label][$record->type()->number][$record->identity()]);
            $this->hashed[$label] = array_filter($this->hashed[$label] ?? []);
            $this->hashed = $this->hashed[$label] === [] ? array_diff_key($this->hashed, [$label => true]) : $this->hashed;

            return;
        }
        $key = $record->owner->sortKey();
        $type = $record->type()->number;
        unset($this->nodes[$key][$type][$record->identity()]);
        if (($this->nodes[$key][$type] ?? []) === []) {
            unset($this->nodes[$key][$type]);
        }
        if (isset($this->nodes[$key]) && $this->nodes[$key] === []) {
            unset($this->nodes[$key]);
            $this->count($record->owner, -1);
        }
    }

    /** @return list<Record> */
    public function set(Name $name, int $type): array
    {
        return array_values($this->nodes[$name->sortKey()][$type] ?? []);
    }

    /** @return list<Record> all records at a name */
    public function node(Name $name): array
    {
        return array_merge(...array_map(array_values(...), array_values($this->nodes[$name->sortKey()] ?? [])), ...[[]]);
    }

    /** Is every "no" proved here? */
    public function isSigned(): bool
    {
        return $this->set($this->origin, RecordType::DNSKEY) !== [] && $this->set($this->origin, RecordType::RRSIG) !== [];
    }

    public function isHashing(): bool
    {
        return $this->hashed !== [];
    }

    /** @return list<Record> the signatures of a set */
    public function signatures(Name $name, int $type): array
    {
        return array_values(array_filter(
            $this->set($name, RecordType::RRSIG),
            static fn (Record $r): bool => $r->data instanceof Rrsig && $r->data->covered->number === $type,
        ));
    }

    /** @return list<Record> the denial at a name, with its signatures; nothing when it has none */
    public function denialAt(Name $name): array
    {
        if ($this->isHashing()) {
            return $this->hashedAt(Base32::Hex->encode(Denial::hash($name)));
        }
        $set = $this->set($name, RecordType::NSEC);

        return $set === [] ? [] : [...$set, ...$this->signatures($name, RecordType::NSEC)];
    }

    /** @return list<Record> the denial that spans a name which is not there */
    public function denialOver(Name $name): array
    {
        $chain = $this->chain ??= $this->chained();
        $at = $this->isHashing() ? Base32::Hex->encode(Denial::hash($name)) : $name->sortKey();
        for ($low = 0, $high = count($chain); $low < $high;) {
            $middle = intdiv($low + $high, 2);
            strcmp($chain[$middle], $at) <= 0 ? $low = $middle + 1 : $high = $middle;
        }
        $before = $chain[$low - 1] ?? $chain[count($chain) - 1] ?? null;
        if ($before === null) {
            return [];
        }
        $first = $this->isHashing() ? null : array_values($this->nodes[$before][RecordType::NSEC])[0] ?? null;

        return $this->isHashing() ? $this->hashedAt($before) : ($first === null ? [] : $this->denialAt($first->owner));
    }

    /** @return list<Record> */
    private function hashedAt(string $label): array
    {
        return array_merge(...array_map(array_values(...), array_values($this->hashed[$label] ?? [])), ...[[]]);
    }

    /** @return list<string> */
    private function chained(): array
    {
        $chain = $this->isHashing()
            ? array_keys($this->hashed)
            : array_keys(array_filter($this->nodes, static fn (array $types): bool => isset($types[RecordType::NSEC])));
        $chain = array_map(strval(...), $chain);
        sort($chain, SORT_STRING);

        return $chain;
    }

    private static function isDenial(Record $record): bool
    {
        return in_array($record->type()->number, [RecordType::NSEC, RecordType::NSEC3], true);
    }

    /** Names of hashes are no names that one can ask for (RFC 5155 §7.2.8). */
    private static function isHashed(Record $record): bool
    {
        return $record->type()->number === RecordType::NSEC3
            || $record->data instanceof Rrsig && $record->data->covered->number === RecordType::NSEC3;
    }

    /** Is there a record at the name or anywhere below it (RFC 4592 §2.2.2)? */
    public function exists(Name $name): bool
    {
        return isset($this->exists[$name->sortKey()]);
    }

    public function soa(): ?Record
    {
        return $this->set($this->origin, RecordType::SOA)[0] ?? null;
    }

    public function serial(): ?int
    {
        $soa = $this->soa()?->data;

        return $soa instanceof Soa ? $soa->serial->value : null;
    }

    public function size(): int
    {
        $size = 0;
        foreach ([...array_values($this->nodes), ...array_values($this->hashed)] as $types) {
            $size += array_sum(array_map(count(...), $types));
        }

        return $size;
    }

    /** @return \Generator<int, Record> every record but the SOA */
    public function records(): \Generator
    {
        foreach ([$this->nodes, $this->hashed] as $nodes) {
            foreach ($nodes as $types) {
                foreach ($types as $type => $records) {
                    foreach ($type === RecordType::SOA ? [] : $records as $record) {
                        yield $record;
                    }
                }
            }
        }
    }

    private function count(Name $owner, int $by): void
    {
        for ($up = $owner; $up !== null && $up->isIn($this->origin); $up = $up->parent()) {
            $key = $up->sortKey();
            $this->exists[$key] = ($this->exists[$key] ?? 0) + $by;
            if ($this->exists[$key] === 0) {
                unset($this->exists[$key]);
            }
        }
    }
}
