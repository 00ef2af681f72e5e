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

    private const CONTROL = "\x01\x02\x03\x04\x05\x06\x07\x08\x0b\x0c\x0d\x0e\x0f"
        ."\x10\x11\x12\x13\x14\x15\x16\x17\x18\x19\x1a\x1b\x1c\x1d\x1e\x1f\x7f\0";

    /** @var list<Token> */
    private array $words = [];

    private int $depth = 0;

    private bool $blank = false;

    private bool $faulty = false;

    private int $start = 1;

    /** @var array{int, int} where the outermost open parenthesis stands */
    private array $opened = [1, 1];

    /** @param  \Closure(Fault): void  $report */
    public function __construct(private readonly \Closure $report)
    {
    }

    /** Is an entry begun whose parenthesis is not closed yet? */
    public function isOpen(): bool
    {
        return $this->depth > 0;
    }

    /**
     * Takes the next line.
     *
     * @param  string  $line  with or without its line end
     * @return array{int, bool, list<Token>, bool}|null the entry it completes: the line it starts on, does it start with a blank, its
     *     words, and whether a fault of it was reported already
     */
    public function take(string $line, int $number): ?array
    {
        $line = rtrim($number === 1 && str_starts_with($line, "\xEF\xBB\xBF") ? substr($line, 3) : $line, "\r\n");
        if ($this->depth === 0) {
            $this->blank = $line !== '' && ($line[0] === ' ' || $line[0] === "\t");
            $this->start = $number;
            $this->words = [];
            $this->faulty = false;
        }
        if (strpbrk($line, self::CONTROL) !== false) {
            $this->fault(
                'control-character',
                $number,
                strcspn($line, self::CONTROL) + 1,
                'a control character stands in the line; write it as \\DDD',
            );
        }
        if (strpbrk($line, '"();\\') === false) {
            $this->plainWords($line, $number, $this->words);
        } else {
            $this->carefulWords($line, $number, $this->words, $this->depth, $this->opened);
        }
        if (count($this->words) > self::MOST) {
            $this->fault('entry-too-long', $number, 1, 'an entry of fewer than '.self::MOST.' words; a parenthesis may be left open');
            $this->words = [];
            $this->depth = 0;
        }

        return $this->depth === 0 && $this->words !== [] ? [$this->start, $this->blank, $this->words, $this->faulty] : null;
    }

    /** The file has ended. */
    public function end(): void
    {
        if ($this->depth > 0) {
            $this->fault('parenthesis-open', $this->opened[0], $this->opened[1], 'this parenthesis is never closed');
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
        // Columns count characters; each is counted once, however many words a line has.
        $seen = 0;
        $column = 1;
        $here = static function (int $at) use ($line, &$seen, &$column): int {
            $column += mb_strlen(substr($line, $seen, $at - $seen), 'UTF-8');
            $seen = $at;

            return $column;
        };
        for ($at = 0; $at < $length;) {
            $char = $line[$at];
            if ($char === ' ' || $char === "\t") {
                $at++;
            } elseif ($char === ';') {
                return;
            } elseif ($char === '(') {
                $opened = $depth === 0 ? [$number, $here($at)] : $opened;
                $depth++;
                $at++;
            } elseif ($char === ')') {
                $depth > 0
                    ? $depth--
                    : $this->fault('parenthesis-stray', $number, $here($at), 'a closing parenthesis without an opening one');
                $at++;
            } else {
                preg_match(
                    $char === '"' ? '/"((?:[^"\\\\]++|\\\\.)*+)("?)/sA' : '/((?:[^\s"();\\\\]++|\\\\.)*+(?:\\\\\z)?)()/sA',
                    $line,
                    $found,
                    0,
                    $at,
                );
                $whole = $found[0] ?? $char;
                if ($char === '"' && ($found[2] ?? '') === '') {
                    $this->fault(
                        'quote-open',
                        $number,
                        $here($at),
                        'this quote is not closed on its line; write a line break in a text as \\010',
                    );
                }
                $words[] = new Token($found[1] ?? '', $char === '"', $number, $here($at));
                $at += max(1, strlen($whole));
            }
        }
    }

    private function fault(string $code, int $line, int $column, string $message): void
    {
        $this->faulty = true;
        ($this->report)(new Fault($code, 'error', $line, $column, $message, 'RFC 1035 §5.1'));
    }
}
