<?php

declare(strict_types=1);

use App\Bench\Fuzz;

/*
 * Messages and zone files from outside are hostile: each ends in a value or in the documented error, within bounded memory.
 */

it('reads or refuses whatever comes, and never anything else', function (int $seed): void {
    [$messages, $files] = Fuzz::corpus(__DIR__.'/../../fixtures');
    expect(count($messages))->toBeGreaterThan(20)->and(count($files))->toBeGreaterThan(2);
    $fuzz = new Fuzz($seed, $messages, $files);
    $fuzz->run(1500);
    expect($fuzz->failures)->toBe([])->and($fuzz->refused)->toBeGreaterThan(200)->and($fuzz->read)->toBeGreaterThan(200);
})->with([20261123, 4711, 8945]);
