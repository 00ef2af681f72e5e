<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\Pair\Binding;
use HarborPost\Core\Exchange\Pair\NotNow;
use HarborPost\Core\Exchange\Pair\PairMember;
use HarborPost\Core\Exchange\Pair\PairState;
use HarborPost\Core\Exchange\Pair\PairTerms;
use HarborPost\Core\Exchange\Pair\Side;
use HarborPost\Core\Net\Address;

/*
 * Single rules of a pair, step by step: what random histories meet too seldom.
 */

beforeEach(function (): void {
    $this->terms = PairTerms::standby(1, 20, 5, 10);
    $this->a = new PairMember(Side::First, $this->terms, 1000);
    $this->b = new PairMember(Side::Second, $this->terms, 1000);
    /** Everything that waits is delivered, to and fro, until nothing is left; or only what goes to one of them. */
    $this->deliver = function (int $now, string $only = ''): void {
        do {
            $toB = $this->a->sendings();
            $toA = $this->b->sendings();
            foreach ($only === 'a' ? [] : $toB as $message) {
                $this->b->receive((array) json_decode((string) json_encode($message), true), $now);
            }
            foreach ($only === 'b' ? [] : $toA as $message) {
                $this->a->receive((array) json_decode((string) json_encode($message), true), $now);
            }
        } while ($toA !== [] || $toB !== []);
    };
    $this->connect = function (int $now): void {
        $this->a->connected($now);
        $this->b->connected($now);
        ($this->deliver)($now);
    };
    $this->lose = function (int $now): void {
        $this->a->lost($now);
        $this->b->lost($now);
    };
    $this->address = Address::parse('10.0.0.1');
    ($this->connect)(1000);
});

it('is normal when both begin, and gives a first lease no longer than the lead', function (): void {
    expect($this->a->state())->toBe(PairState::Normal)->and($this->b->state())->toBe(PairState::Normal)
        ->and($this->terms->owner($this->address))->toBe(Side::First)
        ->and($this->a->give($this->address, 'X', 60, 1000))->toBe(20)
        ->and($this->b->mayGive($this->address, 'Y', 1000))->toBeFalse();
    ($this->deliver)(1000);
    // The other one knows it until 1070: the renewal is given whole.
    expect($this->a->binding('10.0.0.1')->acked)->toBe(1070);
    expect($this->a->give($this->address, 'X', 60, 1010))->toBe(60)->and($this->b->holds($this->address, 'X', 1019))->toBeTrue();
});

it('goes by what the partner acknowledged last, and not by what is still on its way', function (): void {
    $this->a->give($this->address, 'X', 60, 1000);
    $first = $this->a->sendings();
    $this->a->give($this->address, 'X', 60, 1040);
    foreach ($first as $message) {
        $this->b->receive((array) json_decode((string) json_encode($message), true), 1041);
    }
    ($this->deliver)(1041, 'a');
    // It was told of the lease until 1070; what was asked for at 1040 it may never hear.
    expect($this->a->binding('10.0.0.1')->acked)->toBeLessThanOrEqual(1070)
        ->and($this->a->most($this->address, 'X', 600, 1041))->toBeLessThanOrEqual(1070 + 20 - 1041);
});

it('takes for leased what it may have leased itself and forgotten', function (): void {
    $this->a->give($this->address, 'X', 60, 1000);
    ($this->deliver)(1000);
    ($this->lose)(1001);
    // Renewed until 1070, which the other one never hears; then the disk is lost.
    expect($this->a->give($this->address, 'X', 60, 1010))->toBe(60);
    $this->a = new PairMember(Side::First, $this->terms, 1012);
    ($this->connect)(1013);
    expect($this->a->state())->toBe(PairState::RecoverWait)->and($this->b->state())->toBe(PairState::PartnerDown);
    foreach ([1030, 1043, 1044, 1050, 1060, 1069] as $now) {
        $this->a->tick($now);
        $this->b->tick($now);
        ($this->deliver)($now);
        expect($this->a->mayGive($this->address, 'Y', $now))->toBeFalse("first at $now")
            ->and($this->b->mayGive($this->address, 'Y', $now))->toBeFalse("second at $now");
    }
    expect($this->a->state())->toBe(PairState::Normal)->and($this->b->state())->toBe(PairState::Normal);
    foreach (range(1071, 1130) as $now) {
        $this->a->tick($now);
        $this->b->tick($now);
        ($this->deliver)($now);
    }
    expect($this->a->mayGive($this->address, 'Y', 1130))->toBeTrue();
});

it('takes over only when the longest lease of the partner is over that it may not know of', function (): void {
    $this->a->give($this->address, 'X', 60, 1000);
    ($this->deliver)(1000);
    ($this->lose)(1001);
    $this->a->give($this->address, 'X', 60, 1015);
    // The first one is off; X has its address until 1075.
    $this->b->partnerDown(1020);
    for ($now = 1021; $now <= 1075; $now++) {
        $this->b->tick($now);
        expect($this->b->mayGive($this->address, 'Y', $now))->toBeFalse("at $now");
    }
    for ($now = 1076; $now < 1200 && ! $this->b->mayGive($this->address, 'Y', $now); $now++) {
        $this->b->tick($now);
    }
    // Told until 1070 and a lead ahead of that, and twice what the clocks may differ.
    expect($now)->toBeLessThanOrEqual(1070 + 20 + 10 + 2);
    // An address that nobody had is its own after the lead.
    expect($this->b->mayGive(Address::parse('10.0.0.2'), 'Y', 1050))->toBeFalse()
        ->and($this->b->mayGive(Address::parse('10.0.0.2'), 'Y', 1051))->toBeTrue();
});

it('refuses what a person asks for at the wrong time, with the reason', function (): void {
    expect(fn () => $this->a->partnerDown(1000))->toThrow(NotNow::class, 'it is not off');
    ($this->lose)(1001);
    $this->a->partnerDown(1002);
    expect(fn () => $this->a->partnerDown(1003))->toThrow(NotNow::class, 'told already');
    $new = new PairMember(Side::First, $this->terms, 1000);
    expect(fn () => $new->partnerDown(1001))->toThrow(NotNow::class, 'does not know yet');
});

it('does not meet under other terms or with a wrong clock, and says which', function (PairTerms $terms, int $clock, string $words): void {
    ($this->lose)(1001);
    $other = new PairMember(Side::Second, $terms, 1000);
    $other->connected(1002 + $clock);
    $this->a->connected(1002);
    foreach ($other->sendings() as $message) {
        $this->a->receive((array) json_decode((string) json_encode($message), true), 1002);
    }
    expect($this->a->hears())->toBeFalse()->and($this->a->status()['refusal'])->toContain($words)
        ->and($this->a->state())->toBe(PairState::Interrupted);
})->with([
    [PairTerms::standby(2, 20, 5, 10), 0, 'different terms'], [PairTerms::standby(1, 20, 5, 10), 9, 'differ by 9 seconds'],
]);

it('remembers over a restart where it stopped, and waits a moment for its partner', function (): void {
    $this->a->give($this->address, 'X', 60, 1000);
    $kept = array_map(static fn (Binding $b): Binding => Binding::fromArray($b->toArray()) ?? $b, array_values($this->a->bindings()));
    $again = new PairMember(Side::First, $this->terms, 1005, $this->a->memory(), $kept);
    expect($again->state())->toBe(PairState::Startup)->and($again->mayGive($this->address, 'X', 1006))->toBeFalse();
    $again->tick(1015);
    expect($again->state())->toBe(PairState::Interrupted)->and($again->mayGive($this->address, 'X', 1016))->toBeTrue()
        ->and($again->mayGive($this->address, 'Y', 1016))->toBeFalse();
});
