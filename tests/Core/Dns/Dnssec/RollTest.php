<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Dnssec\KeyAct;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\KeySchedule;
use HarborPost\Core\Dns\Dnssec\KeyState;
use HarborPost\Core\Dns\Dnssec\KeyStep;
use HarborPost\Core\Dns\Dnssec\KeyTimes;
use Tests\Core\Dns\Dnssec\RollWorld;

function someSchedule(int $entryLife, int $zoneKeyLife): KeySchedule
{
    $of = static fn (int ...$choices): int => $choices[mt_rand(0, count($choices) - 1)];

    return new KeySchedule(
        $of(60, 3600, 7200, 86400), $of(300, 3600, 86400, 172800), $of(0, 30, 900, 43200), $of(60, 3600, 86400), $of(0, 60, 7200, 86400),
        $entryLife, $zoneKeyLife, 0,
    );
}

/** @return array{int, int, int} of keys, zone and DS */
function otherTtls(): array
{
    $of = static fn (int ...$choices): int => $choices[mt_rand(0, count($choices) - 1)];

    return [$of(60, 3600, 86400, 172800), $of(300, 3600, 86400, 604800), $of(60, 3600, 86400, 604800)];
}

/**
 * Lives through many steps, each taken at its earliest time or later by chance.
 *
 * @param  \Closure(KeyStep): int  $early  seconds by which a step is taken too soon
 */
function live(RollWorld $world, int $end, Closure $early, bool $algorithms = false, bool $retunes = false): void
{
    $world->signFirst(0);
    for ($now = 0, $taken = 0; $now < $end && $taken < 60; $taken++) {
        $open = array_filter($world->steps($now), static fn (KeyStep $s): bool => $s->earliest !== null || $s->act === KeyAct::SeeDs);
        if ($open === []) {
            return;
        }
        usort($open, static fn (KeyStep $a, KeyStep $b): int => ($a->earliest ?? 0) <=> ($b->earliest ?? 0));
        $step = $open[0];
        if ($retunes && mt_rand(0, 2) === 0) {
            // Between two steps, as often as not so near to one that copies of before are still about.
            $now = max($now + 1, ($step->earliest ?? $now) - mt_rand(0, 300_000));
            $world->retune(...[...otherTtls(), $now]);

            continue;
        }
        $now = max($now, ($step->earliest ?? $now) - $early($step)) + (mt_rand(0, 2) === 0 ? mt_rand(0, 5000) : 0);
        $world->carryOut($step, $now, mt_rand(0, 1) * mt_rand(0, 400000));
        if ($algorithms && $world->isAtRest($now) && mt_rand(0, 2) === 0) {
            $world->rollAlgorithm(mt_rand(0, 1) === 0, $now += mt_rand(1, 200_000));
        }
    }
}

test('through any roll no resolver ever holds records together that do not fit', function (bool $split) {
    mt_srand($split ? 11 : 12);
    for ($i = 0; $i < 500; $i++) {
        $schedule = someSchedule(86400 * mt_rand(20, 90), 86400 * mt_rand(20, 60));
        $world = new RollWorld($schedule, $split);
        live($world, 86400 * 400, static fn (): int => 0);
        expect(count($world->keys))->toBeGreaterThan($split ? 4 : 2);
        expect($world->breaks(0, 86400 * 450))->toBeNull();
    }
})->with(['two keys' => true, 'one key' => false]);

test('through any change of the algorithm, and of one key into two, the strictest resolver finds what it wants', function () {
    mt_srand(13);
    $rolls = 0;
    for ($i = 0; $i < 500; $i++) {
        $schedule = someSchedule(86400 * mt_rand(20, 90), 86400 * mt_rand(20, 60));
        $world = new RollWorld($schedule, $i % 2 === 0);
        live($world, 86400 * 400, static fn (): int => 0, true);
        $rolls += count(array_unique(array_map(static fn (KeyTimes $k): int => $k->algorithm, $world->keys))) - 1;
        expect($world->breaks(0, 86400 * 450))->toBeNull();
    }
    expect($rolls)->toBeGreaterThan(300);
});

test('however TTLs change between the steps, what caches still hold of before is waited for', function (bool $split) {
    mt_srand($split ? 21 : 22);
    for ($i = 0; $i < 200; $i++) {
        $world = new RollWorld(someSchedule(86400 * mt_rand(20, 90), 86400 * mt_rand(20, 60)), $split);
        live($world, 86400 * 400, static fn (): int => 0, true, true);
        expect($world->breaks(0, 86400 * 450))->toBeNull();
    }
    mt_srand($split ? 21 : 22);
    // Going by the TTLs of now alone is what breaks them.
    for ($i = 0, $broken = 0; $i < 60; $i++) {
        $world = new RollWorld(someSchedule(86400 * mt_rand(20, 90), 86400 * mt_rand(20, 60)), $split, false);
        live($world, 86400 * 400, static fn (): int => 0, true, true);
        $broken += $world->breaks(0, 86400 * 450) === null ? 0 : 1;
    }
    expect($broken)->toBeGreaterThan(5);
})->with(['two keys' => true, 'one key' => false]);

test('each short cut in a change of the algorithm breaks a zone', function (KeyAct $act) {
    mt_srand(7);
    $broken = 0;
    for ($i = 0; $i < 60; $i++) {
        $schedule = new KeySchedule(3600, 7200, 900, 3600, 900, 0, 86400 * 20, 0);
        $world = new RollWorld($schedule, $i % 2 === 0);
        live($world, 86400 * 200, static fn (KeyStep $s): int => $s->act === $act ? mt_rand(3000, 8000) : 0, true);
        $broken += $world->breaks(0, 86400 * 220) === null ? 0 : 1;
    }
    expect($broken)->toBeGreaterThan(0);
})->with([
    'its keys before its signatures' => [KeyAct::Show], 'the parent before its keys' => [KeyAct::AskDs],
    'the old keys before the parent' => [KeyAct::Withdraw], 'the old signatures before the old keys' => [KeyAct::Remove],
]);

test('each short cut breaks a zone, so that the proof could fail', function (KeyAct $act, bool $split) {
    mt_srand(5);
    $broken = 0;
    for ($i = 0; $i < 40; $i++) {
        $schedule = new KeySchedule(3600, 7200, 900, 3600, 900, 86400 * 30, 86400 * 20, 0);
        $world = new RollWorld($schedule, $split);
        live($world, 86400 * 200, static fn (KeyStep $s): int => $s->act === $act ? mt_rand(10_000, 20_000) : 0);
        $broken += $world->breaks(0, 86400 * 220) === null ? 0 : 1;
    }
    expect($broken)->toBeGreaterThan(0);
})->with([
    'signing with a key that caches lack' => [KeyAct::Activate, true], 'naming a key that caches lack' => [KeyAct::AskDs, true],
    'removing a key that caches need' => [KeyAct::Remove, true], 'one key: signing too soon' => [KeyAct::Activate, false],
    'one key: removing too soon' => [KeyAct::Remove, false],
]);

test('the times of a roll are those of RFC 7583', function () {
    $schedule = new KeySchedule(3600, 86400, 600, 7200, 1200, 0, 86400 * 30, 1000);
    $ksk = new KeyTimes('ksk', KeyRole::Ksk, 1000);
    $zsk = new KeyTimes('zsk', KeyRole::Zsk, 1000, 1000);
    $steps = static fn (array $keys): array => array_map(
        static fn (KeyStep $s): string => "$s->key {$s->act->value} ".($s->earliest ?? 'waits'),
        $schedule->steps($keys, true),
    );
    // The parent may name the key when the unsigned zone is in no cache any more: 1000 + Dprp 600 + the longest TTL 86400.
    expect($steps([$ksk, $zsk]))->toBe(['ksk ask-ds 88000', 'zsk publish '.(1000 + 86400 * 30 - 600 - 3600)]);
    $asked = new KeyTimes('ksk', KeyRole::Ksk, 1000, dsAsked: 88000);
    expect($steps([$asked]))->toBe(['ksk see-ds waits']);
    $next = new KeyTimes('zsk2', KeyRole::Zsk, 2_000_000);
    // Tpub + Dprp + TTLkey.
    expect($steps([$zsk, $next]))->toBe(['zsk remove waits', 'zsk2 activate 2004200']);
    $retired = new KeyTimes('zsk', KeyRole::Zsk, 1000, 1000, 2_004_200);
    $active = new KeyTimes('zsk2', KeyRole::Zsk, 2_000_000, 2_004_200);
    // Tret + Dprp + TTLsig.
    expect($steps([$retired, $active])[0])->toBe('zsk remove '.(2_004_200 + 600 + 86400))
        ->and($schedule->state($retired, [$retired, $active], 2_004_300))->toBe(KeyState::Retired)
        ->and($schedule->state($retired, [$retired, $active], 2_100_000))->toBe(KeyState::Dead)
        ->and($schedule->state($active, [$retired, $active], 2_004_300))->toBe(KeyState::Active)
        ->and($schedule->state($next, [$zsk, $next], 2_000_001))->toBe(KeyState::Published)
        ->and($schedule->state($next, [$zsk, $next], 2_004_200))->toBe(KeyState::Ready);
});

test('an entry stays until the DS of its successor is everywhere', function () {
    $schedule = new KeySchedule(3600, 86400, 600, 7200, 1200, 0, 0, 0);
    $old = new KeyTimes('old', KeyRole::Ksk, 0, dsAsked: 100_000, dsSeen: 110_000);
    $new = new KeyTimes('new', KeyRole::Ksk, 500_000, dsAsked: 504_200);
    expect($schedule->removable($old, [$old, $new]))->toBeNull();
    $seen = new KeyTimes('new', KeyRole::Ksk, 500_000, dsAsked: 504_200, dsSeen: 600_000);
    expect($schedule->removable($old, [$old, $seen]))->toBe(600_000 + 1200 + 7200)
        ->and($schedule->state($old, [$old, $seen], 600_001))->toBe(KeyState::Retired)
        ->and($schedule->state($seen, [$old, $seen], 600_001))->toBe(KeyState::Active);
});
