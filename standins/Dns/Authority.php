<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Mx;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Rdata\PointsAt;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Rdata\Srv;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** Answers with authority from the zones of the view that the client falls into (RFC 1034 §4.3.2). */
final class Authority
{
    /** How far a chain of aliases is followed. */
    private const CHAIN = 16;

    /** @var array<string, array<string, ServedZone>> view → lower-case origin → zone */
    private array $zones = [];

    /** @var list<array{name: string, clients: list<string>}> in order; the first that holds the client answers */
    private array $views = [];

    /** @param  list<array{name: string, clients: list<string>}>  $views */
    public function setViews(array $views): void
    {
        $this->views = $views;
    }

    /** @return list<array{name: string, clients: list<string>}> */
    public function views(): array
    {
        return $this->views;
    }

    public function put(string $view, ServedZone $zone): void
    {
        $this->zones[$view][(string) $zone->origin->lower()] = $zone;
    }

    public function drop(string $view, Name $origin): void
    {
        unset($this->zones[$view][(string) $origin->lower()]);
    }

    public function zone(string $view, Name $origin): ?ServedZone
    {
        return $this->zones[$view][(string) $origin->lower()] ?? null;
    }

    /** @return \Generator<string, ServedZone> view → zone */
    public function all(): \Generator
    {
        foreach ($this->zones as $view => $zones) {
            foreach ($zones as $zone) {
                yield $view => $zone;
            }
        }
    }

    public function viewOf(Address $client): string
    {
        foreach ($this->views as $view) {
            foreach ($view['clients'] as $prefix) {
                if (Prefix::tryParse($prefix)?->contains($client) === true) {
                    return $view['name'];
                }
            }
        }

        return $this->views[0]['name'] ?? (string) (array_key_first($this->zones) ?? '');
    }

    public function zoneFor(string $view, Name $name): ?ServedZone
    {
        for ($up = $name; $up !== null; $up = $up->parent()) {
            if (isset($this->zones[$view][(string) $up->lower()])) {
                return $this->zones[$view][(string) $up->lower()];
            }
        }

        return null;
    }

    public function answer(Message $query, Address $client): Message
    {
        if ($query->opcode !== Opcode::Query) {
            return $query->reply(Rcode::NotImp);
        }
        if ($query->edns !== null && $query->edns->version > 0) {
            return $query->reply(Rcode::BadVers);
        }
        $question = $query->questions[0] ?? null;
        if ($question === null || count($query->questions) > 1) {
            return $query->reply(Rcode::FormErr);
        }
        if ($question->class !== Record::IN) {
            return $query->reply(Rcode::Refused);
        }

        return $this->resolve($query, $question, $this->viewOf($client));
    }

    private function resolve(Message $query, Question $question, string $view): Message
    {
        $name = $question->name;
        $answers = $proved = [];
        $authoritative = true;
        for ($step = 0; $step < self::CHAIN; $step++) {
            $zone = $this->zoneAsked($view, $name, $question->type);
            $proofs = new Proofs($zone, $query->edns?->dnssecOk === true);
            if ($zone === null) {
                return $step === 0 ? $query->reply(Rcode::Refused) : $query->reply(Rcode::NoError, $answers, authoritative: $authoritative);
            }
            if ($zone->expired) {
                return $query->reply(Rcode::ServFail, $answers);
            }
            $cut = $this->cut($zone, $name, $question->type);
            if ($cut !== null) {
                $servers = $zone->set($cut, RecordType::NS);

                $authority = [...$servers, ...$proofs->delegation($cut)];

                return $query->reply(Rcode::NoError, $answers, $authority, $this->additional($zone, $servers), $step > 0);
            }
            $redirect = $this->redirect($zone, $name);
            if ($redirect !== null) {
                $to = self::substituted($name, $redirect);
                $answers = [...$answers, $redirect, ...$proofs->of($redirect->owner, RecordType::DNAME)];
                if ($to === null) {
                    return $query->reply(Rcode::YxDomain, $answers, authoritative: true);
                }
                // A resolver that knows no DNAME follows the alias made for this one name (RFC 6672 §3.1).
                $answers[] = new Record($name, $redirect->ttl, new Cname($to));
                $name = $to;

                continue;
            }
            [$rcode, $found, $at] = $this->lookUp($zone, $name, $question->type);
            $answers = [...$answers, ...$found];
            $alias = $found === [] ? null : $found[0]->data;
            if ($rcode !== Rcode::NoError || $found === []) {
                return $query->reply(
                    $rcode,
                    $answers,
                    [...$proved, ...$this->negative($zone, $proofs), ...$proofs->absence($name, $at)],
                    [],
                    true,
                );
            }
            $answers = [...$answers, ...($question->type->number === RecordType::ANY ? [] : $proofs->ofFound($found[0], $at))];
            $proved = [...$proved, ...($at->equals($name) ? [] : $proofs->wildcard($name))];
            if (! $alias instanceof Cname || in_array($question->type->number, [RecordType::CNAME, RecordType::ANY], true)) {
                return $query->reply(Rcode::NoError, $answers, $proved, $this->additional($zone, $found), true);
            }
            $name = $alias->target;
        }

        return $query->reply(Rcode::ServFail, $answers, authoritative: true);
    }

    /** A DS is the parent's (RFC 4035 §3.1.4.1): the zone itself answers for it only where the parent is not served. */
    private function zoneAsked(string $view, Name $name, RecordType $type): ?ServedZone
    {
        $zone = $this->zoneFor($view, $name);
        $parent = $type->number === RecordType::DS && $zone?->origin->equals($name) === true ? $name->parent() : null;

        return ($parent === null ? null : $this->zoneFor($view, $parent)) ?? $zone;
    }

    /** The highest delegation on the way down to a name. */
    private function cut(ServedZone $zone, Name $name, RecordType $type): ?Name
    {
        $cut = null;
        for ($at = $name; $at !== null && ! $at->equals($zone->origin); $at = $at->parent()) {
            if ($zone->set($at, RecordType::NS) !== [] && ! ($type->number === RecordType::DS && $at->equals($name))) {
                $cut = $at;
            }
        }

        return $cut;
    }

    /** The DNAME above a name, the highest one: it sends everything below itself elsewhere. */
    private function redirect(ServedZone $zone, Name $name): ?Record
    {
        $found = null;
        for ($at = $name->equals($zone->origin) ? null : $name->parent(); $at !== null && $at->isIn($zone->origin); $at = $at->parent()) {
            $found = $zone->set($at, RecordType::DNAME)[0] ?? $found;
        }

        return $found;
    }

    /** The name with the owner of the DNAME replaced by its target; null when that is too long. */
    private static function substituted(Name $name, Record $redirect): ?Name
    {
        $target = $redirect->data instanceof PointsAt ? $redirect->data->target() : null;
        $labels = array_slice($name->labels(), 0, count($name->labels()) - count($redirect->owner->labels()));
        for ($to = $target; $to !== null && $labels !== [];) {
            $to = $to->below((string) array_pop($labels));
        }

        return $to;
    }

    /** @return array{Rcode, list<Record>, Name} the name at which they stand, a wildcard perhaps */
    private function lookUp(ServedZone $zone, Name $name, RecordType $type): array
    {
        if ($zone->exists($name)) {
            return [Rcode::NoError, $this->matching($zone, $name, $name, $type), $name];
        }
        for ($encloser = $name->parent(); $encloser !== null && $encloser->isIn($zone->origin); $encloser = $encloser->parent()) {
            if ($zone->exists($encloser)) {
                $wildcard = $encloser->prepend('*');

                return $zone->exists($wildcard)
                    ? [Rcode::NoError, $this->matching($zone, $wildcard, $name, $type), $wildcard]
                    : [Rcode::NxDomain, [], $name];
            }
        }

        return [Rcode::NxDomain, [], $name];
    }

    /** @return list<Record> with the owner that was asked for */
    private function matching(ServedZone $zone, Name $at, Name $asked, RecordType $type): array
    {
        $records = $type->number === RecordType::ANY
            ? $zone->node($at)
            : ($zone->set($at, $type->number) ?: $zone->set($at, RecordType::CNAME));

        return array_map(static fn (Record $r): Record => new Record($asked, $r->ttl, $r->data), $records);
    }

    /** @return list<Record> the SOA with the time a "no" may be kept (RFC 2308 §5) */
    private function negative(ServedZone $zone, Proofs $proofs): array
    {
        $soa = $zone->soa();
        if ($soa === null || ! $soa->data instanceof Soa) {
            return [];
        }
        $ttl = min($soa->ttl, $soa->data->negativeTtl);

        return array_map(static fn (Record $r): Record => $r->withTtl($ttl), [$soa, ...$proofs->of($zone->origin, RecordType::SOA)]);
    }

    /**
     * @param  list<Record>  $records
     * @return list<Record> addresses of the hosts that they name
     */
    private function additional(ServedZone $zone, array $records): array
    {
        $more = [];
        foreach ($records as $record) {
            if (
                $record->data instanceof PointsAt
                    && ($record->data instanceof Ns || $record->data instanceof Mx || $record->data instanceof Srv)
            ) {
                $target = $record->data->target();
                $more = [...$more, ...$zone->set($target, RecordType::A), ...$zone->set($target, RecordType::AAAA)];
            }
        }

        return $more;
    }
}
