<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Opaque;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;

/** A dynamic update (RFC 2136): which zone, what must hold first, what is to change. */
final readonly class UpdateRequest
{
    private const NONE = 254;

    private const ANY = 255;

    /**
     * @param  list<Record>  $prerequisites  class ANY: it is in use; NONE: it is not; IN: exactly this set
     * @param  list<Record>  $changes  class IN: add; NONE: remove this record; ANY: remove the set, or with type ANY everything at the name
     */
    public function __construct(public Name $zone, public array $prerequisites, public array $changes)
    {
    }

    public static function fromMessage(Message $message): self|Rcode
    {
        $zone = $message->questions[0] ?? null;

        return count($message->questions) !== 1 || $zone === null || $zone->type->number !== RecordType::SOA || $zone->class !== Record::IN
            ? Rcode::FormErr : new self($zone->name, $message->answers, $message->authority);
    }

    public function toMessage(int $id): Message
    {
        return new Message(
            $id,
            opcode: Opcode::Update,
            questions: [new Question($this->zone, RecordType::of(RecordType::SOA))],
            answers: $this->prerequisites,
            authority: $this->changes,
        );
    }

    /** @return Record "a name or a set is in use" as a prerequisite, or "remove it" as a change; type ANY for all of a name */
    public static function whole(Name $owner, RecordType $type): Record
    {
        return new Record($owner, 0, new Opaque($type, ''), self::ANY);
    }

    /** "A name or a set is not in use" as a prerequisite. */
    public static function none(Name $owner, RecordType $type): Record
    {
        return new Record($owner, 0, new Opaque($type, ''), self::NONE);
    }

    /** "Remove this one record" as a change. */
    public static function less(Record $record): Record
    {
        return new Record($record->owner, 0, $record->data, self::NONE);
    }

    /**
     * What the update does to a zone, in the order of RFC 2136 §3: prerequisites, a look at the whole request, then the changes.
     *
     * @param  \Closure(Name $owner): list<Record>  $node  all records at a name
     * @return Rcode|array{list<Record>, list<Record>} a refusal, or records that go and that come; both empty when nothing changes
     */
    public function against(Name $origin, \Closure $node): Rcode|array
    {
        if (! $this->zone->equals($origin)) {
            return Rcode::NotAuth;
        }
        foreach ([...$this->prerequisites, ...$this->changes] as $record) {
            if (! $record->owner->isIn($origin)) {
                return Rcode::NotZone;
            }
        }
        $refusal = $this->prerequisites($node) ?? $this->scan();
        if ($refusal !== null) {
            return $refusal;
        }
        /** @var array<string, array<string, Record>> $state name → identity → record */
        $state = $before = [];
        foreach ($this->changes as $change) {
            $key = $change->owner->sortKey();
            if (! isset($state[$key])) {
                $state[$key] = [];
                foreach ($node($change->owner) as $record) {
                    $state[$key][$record->identity()] = $record;
                }
                $before[$key] = $state[$key];
            }
            $state[$key] = $this->changed($state[$key], $change, $change->owner->equals($origin));
        }
        $removed = $added = [];
        foreach ($state as $key => $now) {
            foreach ($before[$key] as $identity => $record) {
                isset($now[$identity]) && $now[$identity]->ttl === $record->ttl ?: $removed[] = $record;
            }
            foreach ($now as $identity => $record) {
                isset($before[$key][$identity]) && $before[$key][$identity]->ttl === $record->ttl ?: $added[] = $record;
            }
        }

        return [$removed, $added];
    }

    /** @param  \Closure(Name): list<Record>  $node */
    private function prerequisites(\Closure $node): ?Rcode
    {
        $exact = [];
        foreach ($this->prerequisites as $record) {
            $type = $record->type()->number;
            $there = array_filter(
                $node($record->owner),
                static fn (Record $r): bool => $type === self::ANY || $r->type()->number === $type,
            );
            $bare = $record->data instanceof Opaque && $record->data->bytes === '';
            if ($record->ttl !== 0 || in_array($record->class, [self::ANY, self::NONE], true) && ! $bare) {
                return Rcode::FormErr;
            }
            $held = match ($record->class) {
                self::ANY => $there !== [] ? null : ($type === self::ANY ? Rcode::NxDomain : Rcode::NxRrset),
                self::NONE => $there === [] ? null : ($type === self::ANY ? Rcode::YxDomain : Rcode::YxRrset),
                Record::IN => null,
                default => Rcode::FormErr,
            };
            if ($held !== null) {
                return $held;
            }
            if ($record->class === Record::IN) {
                $exact[$record->owner->sortKey().':'.$type][] = $record;
            }
        }
        foreach ($exact as $wanted) {
            $there = array_filter($node($wanted[0]->owner), static fn (Record $r): bool => $r->type()->equals($wanted[0]->type()));
            if (self::identities($wanted) !== self::identities($there)) {
                return Rcode::NxRrset;
            }
        }

        return null;
    }

    /**
     * @param  array<Record>  $records
     * @return list<string> sorted
     */
    private static function identities(array $records): array
    {
        $identities = array_values(array_unique(array_map(static fn (Record $r): string => $r->identity(), $records)));
        sort($identities);

        return $identities;
    }

    /** RFC 2136 §3.4.1: a request that is not well formed changes nothing. */
    private function scan(): ?Rcode
    {
        foreach ($this->changes as $record) {
            $type = $record->type()->number;
            $bare = $record->data instanceof Opaque && $record->data->bytes === '';
            $question = in_array($type, [RecordType::AXFR, RecordType::IXFR, 253, 254], true) || $type === RecordType::OPT || $type === 250;
            $fits = match ($record->class) {
                Record::IN => ! $question && $type !== self::ANY && ! $bare,
                self::ANY => $record->ttl === 0 && $bare && ! $question,
                self::NONE => $record->ttl === 0 && ! $question && $type !== self::ANY,
                default => false,
            };
            if (! $fits) {
                return Rcode::FormErr;
            }
        }

        return null;
    }

    /**
     * RFC 2136 §3.4.2: what would break the zone (an alias beside data, the last NS, the SOA) is passed over in silence, as the standard
     * says.
     *
     * @param  array<string, Record>  $node
     * @return array<string, Record>
     */
    private function changed(array $node, Record $change, bool $top): array
    {
        $type = $change->type()->number;
        if ($change->class === Record::IN) {
            return $this->added($node, $change);
        }
        foreach ($node as $identity => $record) {
            $kept = $record->type()->number;
            $hit = $change->class === self::NONE ? $identity === $change->identity() : ($type === self::ANY || $kept === $type);
            $servers = array_filter($node, static fn (Record $r): bool => $r->type()->number === RecordType::NS);
            $holds = $top
                && ($kept === RecordType::SOA || $kept === RecordType::NS && ($change->class === self::ANY || count($servers) === 1));
            if ($hit && ! $holds) {
                unset($node[$identity]);
            }
        }

        return $node;
    }

    /**
     * @param  array<string, Record>  $node
     * @return array<string, Record>
     */
    private function added(array $node, Record $change): array
    {
        $alias = $change->data instanceof Cname;
        $others = array_filter($node, static fn (Record $r): bool => $alias !== ($r->data instanceof Cname));
        if ($change->data instanceof Soa) {
            foreach ($node as $identity => $record) {
                if ($record->data instanceof Soa && $record->data->serial->isBefore($change->data->serial)) {
                    unset($node[$identity]);
                    $node[$change->identity()] = $change;
                }
            }

            return $node;
        }
        if ($others !== []) {
            return $node;
        }
        $node = $alias ? [] : $node;
        $node[$change->identity()] = new Record($change->owner, $change->ttl, $change->data);
        foreach ($node as $identity => $record) {
            // One TTL for the whole set (RFC 2181 §5.2).
            if ($record->type()->equals($change->type()) && $record->ttl !== $change->ttl) {
                $node[$identity] = $record->withTtl($change->ttl);
            }
        }

        return $node;
    }
}
