<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * What stands in an address or a small form is one text a key, in UTF-8; few keys are lists. Acts declare their inputs themselves.
 */
final class PlainInput
{
    private const LISTS = ['leases', 'down', 'only', 'prefixes', 'take', 'column', 'off', 'seen', 'saw'];

    public function handle(Request $request, Closure $next): Response
    {
        // More fields than are taken are dropped without a word before anybody sees them: then nothing of it is done.
        $most = (int) ini_get('max_input_vars');
        abort_if(
            $most > 0 && count($request->request->all(), COUNT_RECURSIVE) >= $most,
            413,
            "A form of more than $most fields was sent. Send a long selection as one value, apart by commas.",
        );
        foreach ($request->is('act/*') ? $request->query->all() : $request->query->all() + $request->request->all() as $key => $value) {
            abort_unless(self::isText($key), 400, 'A name in the address is not UTF-8.');
            if (is_array($value)) {
                abort_unless(in_array($key, self::LISTS, true), 400, "\"$key\" takes one value, not a list.");
                foreach ($value as $one) {
                    abort_unless($one === null || is_scalar($one) && self::isText($one), 400, "\"$key\" takes a list of texts in UTF-8.");
                }
            } else {
                abort_unless($value === null || is_scalar($value) && self::isText($value), 400, "\"$key\" is not a text in UTF-8.");
            }
        }

        return $next($request);
    }

    private static function isText(mixed $value): bool
    {
        return is_scalar($value) && mb_check_encoding((string) $value, 'UTF-8') && ! str_contains((string) $value, "\0");
    }
}
