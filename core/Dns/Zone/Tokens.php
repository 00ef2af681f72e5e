<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

/**
 * Cuts a zone file into entries: one logical line each, with parentheses joined, comments and quotes taken off
 * (RFC 1035 §5.1). Memory holds one entry at a time.
 */
final class Tokens
{
    /** An entry may span this many words; more is a file that is no zone file. */
    private const MOST = 10000;

    /** @param  \Closure(Fault): void  $report */
    public function __construct(private readonly \Closure $report)
    {
    }

    /**
     * @param  iterable<string>  $lines  with or without their line ends
     * @return \Generator<int, array{bool, list<Token>}> line → does the entry start with a blank, and its words
     */
    public function entries(iterable $lines): \Generator
    {
        $number = 0;
        $words = [];
        $depth = 0;
        $blank = false;
        $start = 1;
        $opened = [1, 1];
        foreach ($lines as $line) {
            $number++;
            $line = rtrim($number === 1 && str_starts_with($line, "\xEF\xBB\xBF") ? substr($line, 3) : $line, "\r\n");
            if ($depth === 0) {
                $blank = $line !== '' && ($line[0] === ' ' || $line[0] === "\t");
                $start = $number;
                $words = [];
            }
            if (strpbrk($line, '"();\\') === false) {
                $this->plainWords($line, $number, $words);
            } else {
                $this->carefulWords($line, $number, $words, $depth, $opened);
            }
            if (count($words) > self::MOST) {
                $this->fault('entry-too-long', $number, 1, 'an entry of fewer than '.self::MOST.' words; a parenthesis may be left open');
                $words = [];
                $depth = 0;
            }
            if ($depth === 0 && $words !== []) {
                yield $start => [$blank, $words];
            }
        }
        if ($depth > 0) {
            $this->fault('parenthesis-open', $opened[0], $opened[1], 'this parenthesis is never closed');
        }
    }

    /** @param  list<Token>  $words */
    private function plainWords(string $line, int $number, array &$words): void
    {
        $column = 1;
        foreach (explode(' ', strtr($line, "\t", ' ')) as $word) {
            if ($word !== '') {
                $words[] = new Token($word, false, $number, $column);
            }
            $column += strlen($word) + 1;
        }
    }

    /**
     * @param  list<Token>  $words
     * @param  array{int, int}  $opened
     */
    private function carefulWords(string $line, int $number, array &$words, int &$depth, array &$opened): void
    {
        $length = strlen($line);
        for ($at = 0; $at < $length;) {
            $char = $line[$at];
            if ($char === ' ' || $char === "\t") {
                $at++;
            } elseif ($char === ';') {
                return;
            } elseif ($char === '(') {
                $opened = $depth === 0 ? [$number, self::column($line, $at)] : $opened;
                $depth++;
                $at++;
            } elseif ($char === ')') {
                $depth > 0 ? $depth-- : $this->fault('parenthesis-stray', $number, self::column($line, $at), 'a closing parenthesis without an opening one');
                $at++;
            } else {
                preg_match($char === '"' ? '/"((?:[^"\\\\]|\\\\.)*)("?)/sA' : '/((?:[^\s"();\\\\]|\\\\.)*(?:\\\\\z)?)()/sA', $line, $found, 0, $at);
                $whole = $found[0] ?? $char;
                if ($char === '"' && ($found[2] ?? '') === '') {
                    $this->fault('quote-open', $number, self::column($line, $at), 'this quote is not closed on its line');
                }
                $words[] = new Token($found[1] ?? '', $char === '"', $number, self::column($line, $at));
                $at += max(1, strlen($whole));
            }
        }
    }

    private static function column(string $line, int $at): int
    {
        return mb_strlen(substr($line, 0, $at), 'UTF-8') + 1;
    }

    private function fault(string $code, int $line, int $column, string $message): void
    {
        ($this->report)(new Fault($code, 'error', $line, $column, $message, 'RFC 1035 §5.1'));
    }
}
