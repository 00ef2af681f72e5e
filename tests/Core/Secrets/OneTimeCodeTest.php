<?php

declare(strict_types=1);

use HarborPost\Core\Secrets\OneTimeCode;

test('codes by counter are those of RFC 4226 appendix D', function () {
    $codes = ['755224', '287082', '359152', '969429', '338314', '254676', '287922', '162583', '399871', '520489'];
    foreach ($codes as $counter => $code) {
        expect(OneTimeCode::at('12345678901234567890', $counter))->toBe($code);
    }
});

test('codes by time are those of RFC 6238 appendix B', function (int $time, string $code) {
    expect(OneTimeCode::at('12345678901234567890', intdiv($time, OneTimeCode::STEP), 8))->toBe($code);
})->with([
    [59, '94287082'], [1111111109, '07081804'], [1111111111, '14050471'], [1234567890, '89005924'], [2000000000, '69279037'],
    [20000000000, '65353130'],
]);

test('a code opens once, and from a clock that is a little off', function () {
    $secret = '12345678901234567890';
    $code = OneTimeCode::at($secret, 1000);
    expect(OneTimeCode::counterOf($secret, $code, 30000, 0))->toBe(1000)
        ->and(OneTimeCode::counterOf($secret, substr($code, 0, 3).' '.substr($code, 3), 30030, 999))->toBe(1000)
        ->and(OneTimeCode::counterOf($secret, $code, 29970, 999))->toBe(1000)
        ->and(OneTimeCode::counterOf($secret, $code, 30000, 1000))->toBeNull()
        ->and(OneTimeCode::counterOf($secret, $code, 30061, 0))->toBeNull()
        ->and(OneTimeCode::counterOf($secret, '', 30000, 0))->toBeNull();
});

test('secrets are written as RFC 4648 §10 writes them', function (string $bytes, string $text) {
    expect(OneTimeCode::base32($bytes))->toBe($text)->and(OneTimeCode::fromBase32(strtolower($text)))->toBe($bytes);
})->with([['f', 'MY'], ['fo', 'MZXQ'], ['foo', 'MZXW6'], ['foob', 'MZXW6YQ'], ['fooba', 'MZXW6YTB'], ['foobar', 'MZXW6YTBOI']]);

test('what is no secret is none', function () {
    expect(OneTimeCode::fromBase32('MZ1'))->toBeNull()->and(OneTimeCode::fromBase32(''))->toBeNull();
});
