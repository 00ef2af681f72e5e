<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\Intent\Intent;
use HarborPost\Core\Exchange\Intent\Rule;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Shipping\Window;

$rule = static fn (string $id, bool $allows, string $to, ?Window $when = null): Rule => new Rule(
    $id,
    array_map(Prefix::parse(...), explode(' ', $to)),
    $allows,
    $when,
);

it('opens what no rule speaks of, and lets the longest prefix decide', function () use ($rule): void {
    $intent = Intent::of(
        $rule('all', false, '10.0.0.0/8'),
        $rule('servers', true, '10.32.0.0/24 2001:db8::/64'),
        $rule('one', false, '10.32.0.9/32'),
    );
    $at = fn (string $a) => $intent->at(Address::parse($a));
    expect($at('192.0.2.1')->allows)->toBeTrue()->and($at('192.0.2.1')->because)->toBeNull()
        ->and($at('10.1.2.3')->allows)->toBeFalse()->and($at('10.1.2.3')->because?->id)->toBe('all')
        ->and($at('10.32.0.8')->allows)->toBeTrue()
        ->and($at('10.32.0.9')->allows)->toBeFalse()->and($at('2001:db8::1')->because?->id)->toBe('servers');
});

it('denies where two rules of one prefix say the opposite', function () use ($rule): void {
    foreach ([[true, false], [false, true]] as [$first, $second]) {
        $intent = Intent::of($rule('a', $first, '10.0.0.0/24'), $rule('b', $second, '10.0.0.0/24'));
        expect($intent->at(Address::parse('10.0.0.1'))->allows)->toBeFalse()
            ->and($intent->denials(PrefixSet::of())->contains(Address::parse('10.0.0.1')))->toBeTrue();
    }
});

it('keeps a rule to its time of the week, by the clock of its place', function () use ($rule): void {
    $hours = Window::of([1, 2, 3, 4, 5], '07:00', 12 * 60, 'Europe/London');
    $intent = Intent::of($rule('shut', false, '10.0.0.0/8'), $rule('work', true, '10.0.0.0/24', $hours));
    $to = Address::parse('10.0.0.1');
    $answer = $intent->at($to);
    expect($answer->allows)->toBeFalse()->and(array_column($answer->times, 'id'))->toBe(['work'])
        ->and($intent->opens($to, new DateTimeImmutable('2026-07-06 06:30 UTC')))->toBeTrue()  // Monday, 07:30 in summer time
        ->and($intent->opens($to, new DateTimeImmutable('2026-07-06 05:30 UTC')))->toBeFalse()
        ->and($intent->opens($to, new DateTimeImmutable('2026-07-05 12:00 UTC')))->toBeFalse() // Sunday
        ->and($intent->timed())->toHaveCount(1)
        // A filter without a clock holds what is denied at all other times.
        ->and($intent->denials(PrefixSet::of())->contains($to))->toBeTrue();
    // A time that says what holds anyway changes nothing.
    expect(Intent::of($rule('work', true, '10.0.0.0/24', $hours))->at($to)->times)->toBe([]);
});

it('leaves open what clients need', function () use ($rule): void {
    $intent = Intent::of($rule('shut', false, '10.0.0.0/30'));
    $needed = PrefixSet::of(Prefix::parse('10.0.0.1/32'));
    expect(array_map(strval(...), $intent->denials($needed)->prefixes()))->toBe(['10.0.0.0/32', '10.0.0.2/31']);
});

it('denies in a filter exactly what it answers as denied, for any rules', function (): void {
    mt_srand((int) (getenv('HPOST_SEED') ?: 11));
    for ($case = 0; $case < 300; $case++) {
        $rules = [];
        for ($i = mt_rand(0, 6); $i > 0; $i--) {
            $to = [];
            for ($n = mt_rand(1, 3); $n > 0; $n--) {
                $length = mt_rand(24, 32);
                $to[] = Address::parse('10.0.0.'.mt_rand(0, 255))->in($length);
            }
            $rules[] = new Rule("r$i", $to, mt_rand(0, 1) === 1);
        }
        $intent = Intent::of(...$rules);
        $denied = $intent->denials(PrefixSet::of());
        for ($host = 0; $host < 256; $host += mt_rand(1, 9)) {
            $address = Address::parse("10.0.0.$host");
            expect($denied->contains($address))->toBe(! $intent->at($address)->allows);
        }
    }
});
