<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\Pair\LoadBalance;
use HarborPost\Core\Exchange\Pair\PairState;
use Tests\Core\Exchange\PairWorld;

/** @return array{?string, int, array<string, int>} what went wrong, in which history; the states that were seen */
function pairHistories(int $from, int $count, bool $honest = true): array
{
    $seen = [];
    for ($seed = $from; $seed < $from + $count; $seed++) {
        $world = new PairWorld($seed, $honest);
        $wrong = $world->run(120);
        foreach ($world->seen as $state => $n) {
            $seen[$state] = ($seen[$state] ?? 0) + $n;
        }
        if ($wrong !== null) {
            return [$wrong."\n".implode("\n", array_slice($world->story, -60)), $seed, $seen];
        }
    }

    return [null, 0, $seen];
}

test('the table of RFC 3074 is a permutation of all bytes', function (): void {
    $table = LoadBalance::table();
    sort($table);
    expect($table)->toBe(range(0, 255));
});

test('in random histories no address is valid for two clients, and who holds one can renew it', function (): void {
    [$wrong, $seed, $seen] = pairHistories(1, (int) (getenv('PAIR_HISTORIES') ?: 10_000));
    expect($wrong === null ? '' : "history $seed: $wrong")->toBe('');
    foreach (PairState::cases() as $state) {
        if (! $state->isConflict()) {
            expect($seen)->toHaveKey($state->value);
        }
    }
});

test('when somebody says that a partner is off although it works, an address may be given twice: the test above can fail',
    function (): void {
        [$wrong, , $seen] = pairHistories(1, 3_000, false);
        expect($wrong)->toContain('is valid for');
    });
