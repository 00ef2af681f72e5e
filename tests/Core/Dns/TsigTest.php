<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Signature;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigAlgorithm;
use HarborPost\Core\Dns\Wire\TsigKey;

/** @return array<string, array{string, string, int, string, string}> */
function signedMessages(): array
{
    $rows = [];
    foreach (file(__DIR__.'/../../fixtures/tsig.tsv', FILE_IGNORE_NEW_LINES) ?: [] as $line) {
        [$what, $secret, $time, $before, $wire] = explode("\t", $line);
        $rows[$what] = [$what, $secret, (int) $time, (string) hex2bin($before), (string) hex2bin($wire)];
    }

    return $rows;
}

function quayKey(
    string $secret = 'AAECAwQFBgcICQoLDA0ODxAREhMUFRYXGBkaGxwdHh8=',
    TsigAlgorithm $algorithm = TsigAlgorithm::Sha256,
): TsigKey {
    return TsigKey::of(Name::parse('Quay-Key.kittiwake.example.'), $secret, $algorithm);
}

it('finds signatures of independent make good, and makes the same', function (
    string $what,
    string $secret,
    int $time,
    string $before,
    string $wire,
): void {
    $further = in_array($what, ['transfer 1', 'transfer 2'], true);
    $key = quayKey($secret, TsigAlgorithm::tryFrom(substr($what, strlen('question '))) ?? TsigAlgorithm::Sha256);
    [$signature, $bare] = Tsig::check($wire, [$key], $time + 200, $before === '' ? null : $before, $further);
    expect($signature->state)->toBe(Signature::GOOD)->and($signature->keyName)->toBe('quay-key.kittiwake.example.');
    [$signed, $mac] = Tsig::sign($bare, $key, $time, $before === '' ? null : $before, $further);
    expect(bin2hex($mac))->toBe(bin2hex($signature->mac));
    [$again, $inside] = Tsig::check($signed, [$key], $time, $before === '' ? null : $before, $further);
    expect($again->isGood())->toBeTrue()->and($inside)->toBe($bare);
})->with(signedMessages());

it('sees a changed byte anywhere, a foreign key, a late clock', function (): void {
    [, $secret, $time, , $wire] = signedMessages()['question'];
    $states = [];
    for ($i = 0; $i < strlen($wire); $i++) {
        $changed = $wire;
        $changed[$i] = chr(ord($changed[$i]) ^ 0x01);
        try {
            $state = Tsig::check($changed, [quayKey()], $time)[0]->state;
        } catch (MalformedBytes) {
            $state = 'malformed';
        }
        $states[$state] = ($states[$state] ?? 0) + 1;
    }
    // The id outside is not covered, the one inside the TSIG counts (RFC 8945 §4.3.2): its two bytes stay good.
    expect($states[Signature::GOOD])->toBe(2)->and($states)->toHaveKeys([Signature::BAD_SIGNATURE, Signature::BAD_KEY, 'malformed'])
        ->and(Tsig::check($wire, [quayKey(base64_encode(str_repeat('x', 32)))], $time)[0]->state)->toBe(Signature::BAD_SIGNATURE)
        ->and(Tsig::check($wire, [], $time)[0]->code())->toBe(17)
        ->and(Tsig::check($wire, [quayKey()], $time + 301)[0]->state)->toBe(Signature::BAD_TIME)
        ->and(Tsig::check($wire, [quayKey($secret)], $time - 300)[0]->isGood())->toBeTrue();
});

it('takes a key for what it signs with alone, and no MAC that is cut too short', function (TsigAlgorithm $algorithm): void {
    $message = Message::query(7, new Question(Name::parse('a.example.'), RecordType::of(1)))->wire();
    $key = quayKey(algorithm: $algorithm);
    [$signed, $mac] = Tsig::sign($message, $key, 1000);
    expect(strlen($mac))->toBe($algorithm->length())->and(Tsig::check($signed, [$key], 1000)[0]->state)->toBe(Signature::GOOD);
    foreach (TsigAlgorithm::cases() as $other) {
        $state = Tsig::check($signed, [quayKey(algorithm: $other)], 1000)[0]->state;
        expect($state)->toBe($other === $algorithm ? Signature::GOOD : Signature::BAD_KEY);
    }
    // Its length stands before the MAC, its data's length before the name of the algorithm.
    $cut = function (int $to) use ($signed, $mac, $algorithm): string {
        $at = strrpos($signed, pack('n', strlen($mac)).$mac);
        $data = strrpos($signed, $algorithm->wire()) - 2;
        $length = unpack('n', $signed, $data)[1] - strlen($mac) + $to;

        return substr($signed, 0, $data).pack('n', $length).substr($signed, $data + 2, $at - $data - 2)
            .pack('n', $to).substr($mac, 0, $to).substr($signed, $at + 2 + strlen($mac));
    };
    $half = intdiv($algorithm->length(), 2);
    expect(Tsig::check($cut($half), [$key], 1000)[0]->state)->toBe(Signature::GOOD)
        ->and(Tsig::check($cut($half - 1), [$key], 1000)[0]->state)->toBe(Signature::BAD_SIGNATURE);
})->with(TsigAlgorithm::cases());

it('refuses so that the asker learns why', function (): void {
    [, , $time, , $wire] = signedMessages()['question'];
    $late = $time + 9999;
    [$signature, $bare] = Tsig::check($wire, [quayKey()], $late);
    $answer = Tsig::refuse(Message::fromWire($bare)->reply(Rcode::NoError)->wire(), $signature, $late);
    expect(Message::fromWire($answer)->rcode)->toBe(Rcode::NotAuth);
    [$back] = Tsig::check($answer, [quayKey()], $time, $signature->mac);
    expect($back->isGood())->toBeTrue()->and($back->error)->toBe(18);
    [$unknown] = Tsig::check($wire, [], $time);
    [$told] = Tsig::check(Tsig::refuse(Message::fromWire($bare)->reply(Rcode::NoError)->wire(), $unknown, $time), [], $time);
    expect($told->error)->toBe(17)->and($unknown->explained())->toContain('not known here');
});

it('takes only secrets that are long enough', function (string $secret): void {
    quayKey($secret);
})->with(['', 'short', 'not base 64 !!', base64_encode(str_repeat('x', 15))])->throws(Malformed::class);

it('leaves unsigned messages as they are', function (): void {
    $wire = Message::query(7, new Question(Name::parse('a.example.'), RecordType::of(1)))->wire();
    [$signature, $bare] = Tsig::check($wire, [quayKey()], 0);
    expect($signature->state)->toBe(Signature::NONE)->and($bare)->toBe($wire);
});
