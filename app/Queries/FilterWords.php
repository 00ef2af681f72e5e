<?php

declare(strict_types=1);

namespace App\Queries;

/**
 * What was typed into a filter: words, `key:value` words, and those with a value in quotes. A word nobody understands finds nothing, and
 * is named.
 */
final class FilterWords
{
    /** @var list<string> what was not understood, as a sentence each */
    public array $misread = [];

    /** @var list<array{?string, string, string}> key, value and the word as it was typed */
    public readonly array $words;

    public function __construct(string $text)
    {
        $words = [];
        preg_match_all('/(?:([a-z]+):)?"([^"]*)"|(\S+)/', mb_scrub($text), $found, PREG_SET_ORDER);
        foreach ($found as $m) {
            $word = $m[0];
            if (($m[3] ?? '') !== '') {
                $parts = preg_match('/\A([a-z]+):(.+)\z/s', $word, $k) === 1 ? [$k[1], $k[2]] : [null, $word];
            } else {
                $parts = [($m[1] ?? '') === '' ? null : $m[1], $m[2] ?? ''];
            }
            $words[] = [...$parts, $word];
        }
        $this->words = $words;
    }

    public function misread(string $word, string $expected): void
    {
        $this->misread[] = "\"$word\" is not understood: $expected";
    }

    /** The start of a text, for LIKE. */
    public static function start(string $value): string
    {
        return addcslashes($value, '%_\\').'%';
    }
}
