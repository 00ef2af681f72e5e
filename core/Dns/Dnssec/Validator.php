<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Dname;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Ds;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;

/**
 * Judges an answer from an anchor down (RFC 4035 §5, RFC 5155 §8, RFC 6840). It asks nobody: what it needs to know it yields as a question
 * and is sent the answer, or null when none came, so that one that waits and one that does not can use it alike.
 *
 * @phpstan-type Asking \Generator<int, Question, ?Message, mixed>
 */
final class Validator
{
    /** Questions that one verdict may cost. */
    private const QUESTIONS = 60;

    /** Signatures that are verified for one verdict: hostile zones have many of one key tag. */
    private const VERIFICATIONS = 80;

    private int $questions = 0;

    private int $verifications = 0;

    /** @var array<string, ChainLink> key of the zone → what is known of it */
    private array $links = [];

    /**
     * @param  list<Record>  $anchors  DS or DNSKEY records that are trusted as they are
     * @param  int  $now  seconds since 1970
     * @param  list<Name>  $negative  names below which nothing is validated (RFC 7646)
     */
    public function __construct(private readonly array $anchors, private readonly int $now, private readonly array $negative = [])
    {
    }

    /** @return \Generator<int, Question, ?Message, Verdict> */
    public function judge(Question $question, Message $answer): \Generator
    {
        [$this->questions, $this->verifications] = [0, 0];
        $verdict = new Verdict(Trust::Secure);
        $name = $question->name;
        $sets = self::sets($answer->answers);
        foreach ($sets as $set) {
            $verdict = $verdict->and(yield from $this->positive($set, $sets, $answer));
            if ($verdict->trust === Trust::Bogus) {
                return $verdict->with(array_values($this->links));
            }
        }
        for ($step = 0; $step < 20 && ($alias = self::aliasOf($sets, $name, $question->type)) !== null; $step++) {
            $name = $alias;
        }
        if (self::find($sets, $name, $question->type->number) === null && $question->type->number !== RecordType::ANY) {
            $verdict = $verdict->and(yield from $this->negative($name, $question->type, $answer));
        }

        return $verdict->with(array_values($this->links));
    }

    /**
     * @param  list<RecordSet>  $sets
     * @return \Generator<int, Question, ?Message, Verdict>
     */
    private function positive(RecordSet $set, array $sets, Message $answer): \Generator
    {
        $about = "{$set->owner()} {$set->type()}";
        foreach ($sets as $other) {
            $dname = $other->records[0]->data;
            // The alias that a DNAME makes for one name is not signed; the DNAME is (RFC 6672 §5.3.1).
            if ($dname instanceof Dname && $set->records[0]->data instanceof Cname && $set->owner()->isIn($other->owner())) {
                return new Verdict(Trust::Secure);
            }
        }
        $rrsigs = self::signatures($answer->answers, $set);
        $zone = yield from $this->walk(self::targetOf($set, $rrsigs));
        if ($zone->trust !== Trust::Secure) {
            return new Verdict($zone->trust, $zone->fault, $zone->fault === null ? '' : "$zone->zone DNSKEY");
        }
        [$fault, $by] = $this->verify($set, $rrsigs, $zone);
        if ($fault === null && $by !== null && Signatures::isExpanded($by, $set->owner())) {
            $proof = new DenialProof($zone->zone, $this->denials($answer, $zone));
            $fault = $proof->noCloser($set->owner(), $by->labels) ? null : Fault::NoDenial;
        }

        return $fault === null ? new Verdict(Trust::Secure) : new Verdict(Trust::Bogus, $fault, $about);
    }

    /** @return \Generator<int, Question, ?Message, Verdict> */
    private function negative(Name $name, RecordType $type, Message $answer): \Generator
    {
        $target = $type->number === RecordType::DS ? $name->parent() ?? $name : $name;
        foreach ($answer->authority as $record) {
            if ($record->data instanceof Rrsig && $target->isIn($record->data->signer)) {
                $target = $record->data->signer;
            }
        }
        $zone = yield from $this->walk($target);
        if ($zone->trust !== Trust::Secure) {
            return new Verdict($zone->trust, $zone->fault, $zone->fault === null ? '' : "$zone->zone DNSKEY");
        }
        if (! in_array($answer->rcode, [Rcode::NoError, Rcode::NxDomain], true)) {
            return new Verdict(Trust::Indeterminate, Fault::Indeterminate, "$name $type");
        }
        $proof = new DenialProof($zone->zone, $this->denials($answer, $zone));
        if ($proof->tooManyRounds()) {
            return new Verdict(Trust::Insecure, Fault::TooManyIterations, "$name $type");
        }
        $proved = $answer->rcode === Rcode::NxDomain ? $proof->noName($name) : $proof->noData($name, $type->number);
        if (! $proved && $answer->rcode === Rcode::NoError && $type->number === RecordType::DS && $proof->noDs($name) !== null) {
            return new Verdict(Trust::Insecure);
        }

        return $proved ? new Verdict(Trust::Secure) : new Verdict(Trust::Bogus, Fault::NoDenial, "$name $type");
    }

    /**
     * From the closest anchor down to the zone that a name is in.
     *
     * @return \Generator<int, Question, ?Message, ChainLink>
     */
    private function walk(Name $target): \Generator
    {
        $anchored = $this->anchorFor($target);
        if ($anchored === null) {
            return new ChainLink(Name::root(), Trust::Indeterminate, false);
        }
        foreach ($this->negative as $name) {
            if ($target->isIn($name)) {
                return new ChainLink($name, Trust::Insecure, false);
            }
        }
        [$zone, $ds] = $anchored;
        $link = $this->links[$zone->key()] ??= yield from $this->keysOf($zone, $ds, true);
        $labels = $target->labels();
        for ($depth = count($labels) - count($zone->labels()) - 1; $depth >= 0 && $link->trust === Trust::Secure; $depth--) {
            $child = Name::ofLabels(array_slice($labels, $depth));
            $known = $this->links[$child->key()] ?? null;
            $link = $known ?? yield from $this->step($child, $link);
        }

        return $link;
    }

    /**
     * One label down: the same zone, one that the parent vouches for, or one that is proved to be unsigned.
     *
     * @return \Generator<int, Question, ?Message, ChainLink>
     */
    private function step(Name $child, ChainLink $parent): \Generator
    {
        $answer = yield from $this->ask($child, RecordType::DS);
        if ($answer === null || ! in_array($answer->rcode, [Rcode::NoError, Rcode::NxDomain], true)) {
            return $this->broken($child, Fault::Indeterminate);
        }
        $sets = self::sets($answer->answers);
        $set = self::find($sets, $child, RecordType::DS);
        if ($set !== null) {
            [$fault] = $this->verify($set, self::signatures($answer->answers, $set), $parent);
            $ds = array_values(array_filter(array_map(static fn (Record $r) => $r->data, $set->records), fn ($d) => $d instanceof Ds));

            return $this->links[$child->key()] = $fault === null
                ? yield from $this->keysOf($child, $ds, false)
                : $this->broken($child, $fault);
        }
        $alias = self::find($sets, $child, RecordType::CNAME);
        if ($alias !== null) {
            [$fault] = $this->verify($alias, self::signatures($answer->answers, $alias), $parent);

            return $fault === null ? $parent : $this->broken($child, $fault);
        }
        $proof = new DenialProof($parent->zone, $this->denials($answer, $parent));
        if ($proof->tooManyRounds()) {
            return $this->links[$child->key()] = new ChainLink($child, Trust::Insecure, false, fault: Fault::TooManyIterations);
        }

        return match ($proof->noDs($child)) {
            Delegation::None => $parent,
            Delegation::Unsigned => $this->links[$child->key()] = new ChainLink($child, Trust::Insecure, false),
            null => $this->broken($child, Fault::NoDenial),
        };
    }

    /**
     * The keys of a zone, of which one is named by a DS and signs them all.
     *
     * @param  list<Ds>  $ds
     * @return \Generator<int, Question, ?Message, ChainLink>
     */
    private function keysOf(Name $zone, array $ds, bool $anchor): \Generator
    {
        $known = array_filter($ds, static fn (Ds $d): bool => Algorithm::tryFrom($d->algorithm()) !== null);
        $usable = array_filter($known, static fn (Ds $d): bool => isset(SigningKey::DIGESTS[$d->digestType()]));
        if ($usable === []) {
            $fault = $known === [] ? Fault::UnknownAlgorithm : Fault::UnknownDigest;

            return new ChainLink($zone, Trust::Insecure, $anchor, $ds, [], $fault);
        }
        $answer = yield from $this->ask($zone, RecordType::DNSKEY);
        $set = $answer === null ? null : self::find(self::sets($answer->answers), $zone, RecordType::DNSKEY);
        if ($answer === null || $set === null) {
            return new ChainLink($zone, Trust::Bogus, $anchor, $ds, [], $answer === null ? Fault::Indeterminate : Fault::NoKey);
        }
        $keys = array_values(
            array_filter(array_map(static fn (Record $r) => $r->data, $set->records), static fn ($d): bool => $d instanceof Dnskey),
        );
        $entries = array_values(array_filter($keys, fn (Dnskey $k): bool => self::isNamed($zone, $k, $usable)));
        $fault = Fault::NoKey;
        if ($entries !== []) {
            $trusted = new ChainLink($zone, Trust::Secure, $anchor, $ds, $entries);
            [$fault] = $this->verify($set, self::signatures($answer->answers, $set), $trusted);
            $revoked = array_filter($entries, static fn (Dnskey $k): bool => ($k->flags() & Dnskey::REVOKED) === 0) === [];
            $fault = $fault === null && $revoked ? Fault::RevokedKey : $fault;
        }

        return $fault === null
            ? new ChainLink($zone, Trust::Secure, $anchor, $ds, $keys)
            : new ChainLink($zone, Trust::Bogus, $anchor, $ds, $keys, $fault);
    }

    /** @param  array<Ds>  $all */
    private static function isNamed(Name $zone, Dnskey $key, array $all): bool
    {
        foreach ($all as $ds) {
            $same = $ds->keyTag() === $key->tag() && $ds->algorithm() === $key->algorithm();
            if ($same && SigningKey::dsOf($zone, $key, $ds->digestType())->digest() === $ds->digest()) {
                return true;
            }
        }

        return false;
    }

    private function broken(Name $zone, Fault $fault): ChainLink
    {
        return $this->links[$zone->key()] = new ChainLink($zone, Trust::Bogus, false, fault: $fault);
    }

    /** @return \Generator<int, Question, ?Message, ?Message> */
    private function ask(Name $name, int $type): \Generator
    {
        if (++$this->questions > self::QUESTIONS) {
            return null;
        }

        return yield new Question($name, RecordType::of($type));
    }

    /**
     * @param  list<Rrsig>  $rrsigs
     * @return array{?Fault, ?Rrsig} the signature that holds, or what is wrong with the one that came closest
     */
    private function verify(RecordSet $set, array $rrsigs, ChainLink $zone): array
    {
        $worst = Fault::NoSignature;
        foreach ($rrsigs as $rrsig) {
            $worst = $worst === Fault::NoSignature ? Fault::NoKey : $worst;
            foreach ($zone->keys as $key) {
                if ($key->tag() !== $rrsig->keyTag || $key->algorithm() !== $rrsig->algorithm) {
                    continue;
                }
                if (++$this->verifications > self::VERIFICATIONS) {
                    return [Fault::TooMuchWork, null];
                }
                $fault = Signatures::fault($rrsig, $set, $key, $zone->zone, $this->now);
                if ($fault === null) {
                    return [null, $rrsig];
                }
                $worst = $fault;
            }
        }

        return [$worst, null];
    }

    /** @return list<Record> records of denial whose signatures hold */
    private function denials(Message $answer, ChainLink $zone): array
    {
        $good = [];
        foreach (self::sets($answer->authority) as $set) {
            if (
                in_array($set->type()->number, [RecordType::NSEC, RecordType::NSEC3], true)
                    && $this->verify($set, self::signatures($answer->authority, $set), $zone)[0] === null
            ) {
                $good = [...$good, ...$set->records];
            }
        }

        return $good;
    }

    /** @return array{Name, list<Ds>}|null the closest anchor above a name, as DS */
    private function anchorFor(Name $target): ?array
    {
        $best = null;
        foreach ($this->anchors as $anchor) {
            $closer = $best === null || count($anchor->owner->labels()) > count($best->labels());
            $best = $target->isIn($anchor->owner) && $closer ? $anchor->owner : $best;
        }
        if ($best === null) {
            return null;
        }
        $ds = [];
        foreach ($this->anchors as $anchor) {
            if ($anchor->owner->equals($best)) {
                $ds[] = $anchor->data instanceof Dnskey ? SigningKey::dsOf($anchor->owner, $anchor->data) : $anchor->data;
            }
        }

        return [$best, array_values(array_filter($ds, static fn ($d): bool => $d instanceof Ds))];
    }

    /** @param  list<Rrsig>  $rrsigs */
    private static function targetOf(RecordSet $set, array $rrsigs): Name
    {
        foreach ($rrsigs as $rrsig) {
            if ($set->owner()->isIn($rrsig->signer)) {
                return $rrsig->signer;
            }
        }

        return $set->type()->number === RecordType::DS ? $set->owner()->parent() ?? $set->owner() : $set->owner();
    }

    /**
     * @param  list<Record>  $records
     * @return list<RecordSet> without signatures
     */
    private static function sets(array $records): array
    {
        $sets = [];
        foreach ($records as $record) {
            if (! $record->data instanceof Rrsig) {
                $sets[$record->owner->key().pack('n', $record->type()->number)][] = $record;
            }
        }

        return array_values(array_map(RecordSet::of(...), $sets));
    }

    /**
     * @param  list<Record>  $records
     * @return list<Rrsig>
     */
    private static function signatures(array $records, RecordSet $set): array
    {
        $rrsigs = [];
        foreach ($records as $record) {
            if ($record->data instanceof Rrsig && $record->owner->equals($set->owner()) && $record->data->covered->equals($set->type())) {
                $rrsigs[] = $record->data;
            }
        }

        return $rrsigs;
    }

    /** @param  list<RecordSet>  $sets */
    private static function find(array $sets, Name $name, int $type): ?RecordSet
    {
        foreach ($sets as $set) {
            if ($set->type()->number === $type && $set->owner()->equals($name)) {
                return $set;
            }
        }

        return null;
    }

    /** @param  list<RecordSet>  $sets */
    private static function aliasOf(array $sets, Name $name, RecordType $asked): ?Name
    {
        $alias = self::find($sets, $name, RecordType::CNAME)?->records[0]->data;

        return $alias instanceof Cname && ! in_array($asked->number, [RecordType::CNAME, RecordType::ANY], true) ? $alias->target : null;
    }
}
