<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Fault;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Nsec;
use HarborPost\Core\Dns\Rdata\Nsec3;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Wire\Message;
use Tests\Core\Dns\Dnssec\SignedWorld;

const SIGNED_ABOVE = '
    example. 3600 NS ns.example.
    ns.example. 3600 A 10.0.0.53
    www.example. 300 A 10.0.0.80
    alias.example. 300 CNAME www.example.
    away.example. 300 CNAME host.child.example.
    lost.example. 300 CNAME nothing.example.
    *.wild.example. 300 TXT "any"
    a.b.c.deep.example. 300 A 10.0.0.1
    plain.example. 3600 NS ns.plain.example.
    ns.plain.example. 3600 A 10.0.0.54
    child.example. 3600 NS ns.child.example.
    ns.child.example. 3600 A 10.0.0.55
    moved.example. 300 DNAME child.example.
    zz.example. 300 A 10.0.0.99';

const SIGNED_BELOW = '
    child.example. 3600 NS ns.child.example.
    ns.child.example. 300 A 10.0.0.55
    host.child.example. 300 A 10.0.0.2
    *.child.example. 300 A 10.0.0.3';

function signedWorld(Denial $denial, Algorithm $algorithm = Algorithm::EcdsaP256): SignedWorld
{
    $world = new SignedWorld;
    $world->serve(
        'child.example.',
        $world->signed('child.example.', SignedWorld::records('child.example.', SIGNED_BELOW), $denial, $algorithm),
    );
    $ds = 'child.example. 3600 DS '.$world->keys['child.example.']->ds(Name::parse('child.example.'))->text();
    $world->serve('example.', $world->signed('example.', SignedWorld::records('example.', SIGNED_ABOVE."\n$ds"), $denial, $algorithm));
    $world->serve(
        'plain.example.',
        SignedWorld::records('plain.example.', "plain.example. 60 NS ns.plain.example.\nwww.plain.example. 60 A 10.0.0.9"),
    );

    return $world;
}

dataset('denials', Denial::cases());

test('every answer of a signed zone is proved, whatever is asked', function (Denial $denial) {
    $world = signedWorld($denial);
    $anchors = [$world->anchor('example.')];
    $questions = [
        'example. SOA' => Trust::Secure, 'example. NS' => Trust::Secure, 'example. MX' => Trust::Secure, 'example. DNSKEY' => Trust::Secure,
        'www.example. A' => Trust::Secure, 'www.example. AAAA' => Trust::Secure, 'WWW.Example. A' => Trust::Secure,
        'alias.example. A' => Trust::Secure, 'alias.example. CNAME' => Trust::Secure, 'alias.example. MX' => Trust::Secure,
        'away.example. A' => Trust::Secure, 'lost.example. A' => Trust::Secure,
        'x.wild.example. TXT' => Trust::Secure, 'x.y.wild.example. TXT' => Trust::Secure, 'x.wild.example. A' => Trust::Secure,
        'wild.example. A' => Trust::Secure, '*.wild.example. TXT' => Trust::Secure,
        'deep.example. A' => Trust::Secure, 'c.deep.example. A' => Trust::Secure, 'b.c.deep.example. A' => Trust::Secure,
        'q.c.deep.example. A' => Trust::Secure, 'a.b.c.deep.example. TXT' => Trust::Secure,
        'nothing.example. A' => Trust::Secure, 'a.nothing.example. A' => Trust::Secure, '0.example. A' => Trust::Secure,
        'zzz.example. A' => Trust::Secure,
        'child.example. A' => Trust::Secure, 'host.child.example. A' => Trust::Secure, 'host.child.example. MX' => Trust::Secure,
        'free.child.example. A' => Trust::Secure, 'free.child.example. MX' => Trust::Secure, 'a.b.child.example. A' => Trust::Secure,
        'child.example. DS' => Trust::Secure,
        'host.moved.example. A' => Trust::Secure, 'moved.example. A' => Trust::Secure, 'any.moved.example. MX' => Trust::Secure,
        'www.plain.example. A' => Trust::Insecure, 'none.plain.example. A' => Trust::Insecure, 'plain.example. SOA' => Trust::Insecure,
        // Opt-out proves only that a delegation may be there without signatures.
        'plain.example. DS' => $denial === Denial::OptOut ? Trust::Insecure : Trust::Secure,
        'www.other.test. A' => Trust::Indeterminate,
    ];
    foreach ($questions as $question => $trust) {
        [$name, $type] = explode(' ', $question);
        $verdict = $world->judge($world->ask($name, $type), $anchors);
        expect("$question {$verdict->words()}")->toStartWith("$question {$trust->value}");
    }
})->with('denials');

test('every algorithm carries a chain', function (Algorithm $algorithm) {
    $world = signedWorld(Denial::Hashes, $algorithm);
    $verdict = $world->judge($world->ask('host.child.example.', 'A'), [$world->anchor('example.')]);
    expect($verdict->trust)->toBe(Trust::Secure)
        ->and(array_map(fn ($l) => (string) $l->zone, $verdict->links))->toBe(['example.', 'child.example.'])
        ->and($verdict->links[0]->anchor)->toBeTrue();
})->with(Algorithm::cases());

test('an answer from which anything is taken, or in which anything is changed, is not believed', function (Denial $denial) {
    $world = signedWorld($denial);
    $anchors = [$world->anchor('example.')];
    foreach (
        [
            'www.example. A',
            'nothing.example. A',
            'www.example. MX',
            'x.wild.example. TXT',
            'x.wild.example. A',
            'away.example. A',
        ] as $asked
    ) {
        $answer = $world->ask(...explode(' ', $asked));
        $essential = 0;
        foreach (['answers', 'authority'] as $section) {
            foreach ($answer->$section as $i => $record) {
                $less = array_values(array_diff_key($answer->$section, [$i => true]));
                $copy = static fn (array $records): Message => new Message(
                    1, true, questions: $answer->questions, rcode: $answer->rcode,
                    answers: $section === 'answers' ? $records : $answer->answers,
                    authority: $section === 'authority' ? $records : $answer->authority,
                );
                $verdict = $world->judge($copy($less), $anchors);
                if ($record->data instanceof Rrsig && ! in_array($record->data->covered->number, [6], true)) {
                    $essential += $verdict->trust === Trust::Bogus ? 1 : 0;
                }
                // Nothing that was taken away turns into a proof of something else than what was asked.
                if ($record->data instanceof Rrsig) {
                    $flipped = new Record($record->owner, $record->ttl, $record->data->withSignature(strrev($record->data->signature)));
                    $changed = $answer->$section;
                    $changed[$i] = $flipped;
                    $essential += $world->judge($copy($changed), $anchors)->trust === Trust::Bogus ? 1 : 0;
                }
            }
        }
        expect("$asked $essential")->not->toBe("$asked 0");
    }
})->with('denials');

test('a forged "no" is not believed', function (Denial $denial) {
    $world = signedWorld($denial);
    $anchors = [$world->anchor('example.')];
    // The proof of another name's absence does not fit a name that is there.
    $other = $world->ask('nothing.example.', 'A');
    $forged = $world->ask('www.example.', 'A')->reply($other->rcode, [], $other->authority);
    expect($world->judge($forged, $anchors)->fault)->toBe(Fault::NoDenial);
    // The parent's side of a delegation says nothing of what is below it.
    $cut = $world->ask('child.example.', 'DS');
    $below = $world->ask('plain.example.', 'DS');
    $lie = $world->ask('host.child.example.', 'A');
    $lie = new Message(1, true, questions: $lie->questions, authority: $below->authority);
    expect($world->judge($lie, $anchors)->trust)->toBe(Trust::Bogus)->and($cut->answers)->not->toBe([]);
    // A wildcard that is put in the place of a name that stands closer.
    $wild = $world->ask('free.child.example.', 'A');
    $moved = array_map(static fn (Record $r): Record => new Record(Name::parse('host.child.example.'), $r->ttl, $r->data), $wild->answers);
    $replayed = new Message(
        1,
        true,
        questions: $world->ask('host.child.example.', 'A')->questions,
        answers: $moved,
        authority: $wild->authority,
    );
    expect($world->judge($replayed, $anchors)->fault)->toBe(Fault::NoDenial);
})->with('denials');

test('what is wrong is said by its own reason', function () {
    $world = signedWorld(Denial::Names);
    $anchors = [$world->anchor('example.')];
    $answer = $world->ask('www.example.', 'A');
    $late = SignedWorld::NOW + 86400 * 15;
    expect($world->judge($answer, $anchors, $late)->fault)->toBe(Fault::Expired)
        ->and($world->judge($answer, $anchors, SignedWorld::NOW - 7200)->fault)->toBe(Fault::NotYetValid);
    $bare = new Message(1, true, questions: $answer->questions, answers: [$answer->answers[0]]);
    expect($world->judge($bare, $anchors)->words())->toBe('bogus: www.example. A, the signature is missing');
    $stranger = SigningKey::make(Algorithm::EcdsaP256, true, random_bytes(32));
    $wrong = new Record(Name::parse('example.'), 1, $stranger->ds(Name::parse('example.')));
    expect($world->judge($answer, [$wrong])->fault)->toBe(Fault::NoKey);
    $odd = new Record(Name::parse('example.'), 1, HarborPost\Core\Dns\Rdata\Ds::fromText(Fields::ofLine('1 200 2 '.str_repeat('00', 32))));
    expect($world->judge($answer, [$odd])->trust)->toBe(Trust::Insecure)->and($world->judge($answer, [$odd])->fault)
        ->toBe(Fault::UnknownAlgorithm);
    $sha1 = new Record(Name::parse('example.'), 1, HarborPost\Core\Dns\Rdata\Ds::fromText(Fields::ofLine('1 13 1 '.str_repeat('00', 20))));
    expect($world->judge($answer, [$sha1])->fault)->toBe(Fault::UnknownDigest);
});

test('hostile zones cost a bounded amount of work', function () {
    $world = signedWorld(Denial::Names);
    $answer = $world->ask('www.example.', 'A');
    $rrsig = $answer->answers[1];
    $many = array_map(
        static fn (int $i): Record => new Record($rrsig->owner, 300, $rrsig->data->withSignature(str_pad((string) $i, 64, 'x'))),
        range(1, 500),
    );
    $hostile = new Message(1, true, questions: $answer->questions, answers: [$answer->answers[0], ...$many]);
    $verdict = $world->judge($hostile, [$world->anchor('example.')]);
    expect($verdict->trust)->toBe(Trust::Bogus)->and($verdict->fault)->toBe(Fault::TooMuchWork);
});

test('names that are hashed too often make a zone insecure, not slow', function () {
    $world = signedWorld(Denial::Hashes);
    $key = $world->keys['example.'];
    $answer = $world->ask('nothing.example.', 'A');
    $authority = [];
    foreach ($answer->authority as $record) {
        if ($record->data instanceof Nsec3) {
            $many = new Record($record->owner, $record->ttl, new Nsec3(1, 0, 2500, '', $record->data->next, $record->data->types));
            $set = HarborPost\Core\Dns\RecordSet::of([$many]);
            $sig = HarborPost\Core\Dns\Dnssec\Signatures::make(
                $set,
                $key,
                Name::parse('example.'),
                SignedWorld::NOW - 9,
                SignedWorld::NOW + 9,
            );
            $authority = [...$authority, $many, $sig];
        }
    }
    $verdict = $world->judge(
        new Message(1, true, questions: $answer->questions, rcode: $answer->rcode, authority: $authority),
        [$world->anchor('example.')],
    );
    expect($verdict->trust)->toBe(Trust::Insecure)->and($verdict->fault)->toBe(Fault::TooManyIterations);
});

test('a revoked key and one that is no zone key sign nothing', function () {
    $world = signedWorld(Denial::Names);
    $public = $world->keys['example.']->public;
    $answer = $world->ask('www.example.', 'A');
    [$set, $rrsig] = [HarborPost\Core\Dns\RecordSet::of([$answer->answers[0]]), $answer->answers[1]->data];
    foreach ([[Dnskey::ZONE | Dnskey::SEP | Dnskey::REVOKED, Fault::RevokedKey], [Dnskey::SEP, Fault::NoZoneKey]] as [$flags, $fault]) {
        $key = Dnskey::fromText(Fields::ofLine("$flags 3 13 ".base64_encode($public->publicKey())));
        expect(HarborPost\Core\Dns\Dnssec\Signatures::fault($rrsig, $set, $key, Name::parse('example.'), SignedWorld::NOW))->toBe($fault);
    }
});

test('the chain of denial goes once around the zone and leaves nothing out', function (Denial $denial) {
    $world = signedWorld($denial);
    $zone = $world->authority->zone('all', Name::parse('example.'));
    $next = [];
    foreach ($zone->records() as $record) {
        if ($record->data instanceof Nsec) {
            $next[(string) $record->owner->lower()] = (string) $record->data->next;
        } elseif ($record->data instanceof Nsec3) {
            $next[$record->owner->labels()[0]] = HarborPost\Core\Bytes\Base32::Hex->encode($record->data->next);
        }
    }
    $at = $start = array_key_first($next);
    $seen = 0;
    do {
        $at = $next[$at];
        $seen++;
    } while ($at !== $start && $seen < 1000);
    // Glue and what is below a delegation is no part of it; unsigned delegations are left out where that is chosen; names in between count
    // where they are hashed.
    expect($seen)->toBe(count($next))->toBe(
        [Denial::Names->value => 12, Denial::Hashes->value => 16, Denial::OptOut->value => 15][$denial->value],
    );
})->with('denials');
