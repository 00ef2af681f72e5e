<?php

declare(strict_types=1);

use Tests\NoteCodes;

it('has every code of the code in docs/checks.md, and no other', function (): void {
    $path = dirname(__DIR__).'/docs/checks.md';
    getenv('WRITE_CHECKS') === '1' ? file_put_contents($path, NoteCodes::document()) : null;
    expect((string) @file_get_contents($path))->toBe(NoteCodes::document());
});

it('gives each code in words of its own, short and plain', function (): void {
    foreach (NoteCodes::all() as $code => $row) {
        expect($code)->toMatch('/\A[a-z][a-z0-9-]{2,40}\z/')->and(trim($row['words'], '… '))->not->toBe('x');
    }
});
