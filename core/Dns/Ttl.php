<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** A time to live in seconds, 0 to 2^31-1 (RFC 2181 §8). Zero means "do not cache"; a blank TTL is something else, see the record. */
final readonly class Ttl implements \Stringable
{
    private const UNITS = ['w' => 604800, 'd' => 86400, 'h' => 3600, 'm' => 60, 's' => 1];

    private function __construct(public int $seconds)
    {
    }

    public static function of(int $seconds): self
    {
        return $seconds >= 0
            && $seconds <= 0x7FFFFFFF
                ? new self($seconds)
                : throw Malformed::because("a time from 0 to 2147483647 seconds, not $seconds", 'RFC 2181 §8');
    }

    /**
     * Seconds, or the widespread form with units: `1h30m`, `2d`.
     *
     * @throws Malformed
     */
    public static function parse(string $text): self
    {
        if (preg_match('/\A\d{1,10}\z/', $text) === 1) {
            return self::of((int) $text);
        }
        if (! self::hasUnits($text)) {
            throw Malformed::because("a time in seconds, or as 1h30m, not \"$text\"", 'RFC 1035 §5.1');
        }
        $seconds = 0;
        preg_match_all('/(\d+)([wdhms])/i', $text, $parts, PREG_SET_ORDER);
        foreach ($parts as $part) {
            $seconds += (int) $part[1] * self::UNITS[strtolower($part[2])];
        }

        return self::of($seconds);
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (Malformed) {
            return null;
        }
    }

    /** Is it written with units, which is not part of RFC 1035? */
    public static function hasUnits(string $text): bool
    {
        return preg_match('/\A(?:\d{1,9}[wdhms])+\z/i', $text) === 1;
    }

    public function equals(self $other): bool
    {
        return $this->seconds === $other->seconds;
    }

    public function compare(self $other): int
    {
        return $this->seconds <=> $other->seconds;
    }

    /** As people say it: `1 h 30 min`, `0 s`. */
    public function spoken(): string
    {
        $rest = $this->seconds;
        $parts = [];
        foreach (['d' => 86400, 'h' => 3600, 'min' => 60, 's' => 1] as $unit => $size) {
            if ($rest >= $size) {
                $parts[] = intdiv($rest, $size).' '.$unit;
                $rest %= $size;
            }
        }

        return $parts === [] ? '0 s' : implode(' ', $parts);
    }

    /** As it is typed and read again: `1h30m`, `14d`, `0`. */
    public function short(): string
    {
        $rest = $this->seconds;
        $text = '';
        foreach (['d' => 86400, 'h' => 3600, 'm' => 60, 's' => 1] as $unit => $size) {
            $text .= $rest >= $size ? intdiv($rest, $size).$unit : '';
            $rest %= $size;
        }

        return $text === '' ? '0' : $text;
    }

    public function __toString(): string
    {
        return (string) $this->seconds;
    }
}
