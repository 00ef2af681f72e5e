<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** A zone's serial number: 32 bits in a circle (RFC 1982). */
final readonly class Serial implements \Stringable
{
    private function __construct(public int $value)
    {
    }

    public static function of(int $value): self
    {
        return $value >= 0
            && $value <= 0xFFFFFFFF
                ? new self($value)
                : throw Malformed::because("a serial from 0 to 4294967295, not $value", 'RFC 1035 §3.3.13');
    }

    public static function parse(string $text): self
    {
        return preg_match('/\A\d{1,10}\z/', $text) === 1
            ? self::of((int) $text)
            : throw Malformed::because("a serial from 0 to 4294967295, not \"$text\"", 'RFC 1035 §3.3.13');
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (Malformed) {
            return null;
        }
    }

    /**
     * Below zero when a secondary with this serial would take the other one, above when not, zero when equal; null when the two
     * are exactly half a circle apart and the order is not defined (RFC 1982 §3.2).
     */
    public function compare(self $other): ?int
    {
        $ahead = ($other->value - $this->value) & 0xFFFFFFFF;

        return match (true) {
            $ahead === 0 => 0,
            $ahead === 0x80000000 => null,
            default => $ahead < 0x80000000 ? -1 : 1,
        };
    }

    public function isBefore(self $other): bool
    {
        return $this->compare($other) === -1;
    }

    public function equals(self $other): bool
    {
        return $this->value === $other->value;
    }

    public function next(): self
    {
        return new self(($this->value + 1) & 0xFFFFFFFF);
    }

    /** The next serial by date, `YYYYMMDDnn`: the day's first one if that is further on, else one more. */
    public function nextOn(\DateTimeImmutable $day): self
    {
        $first = new self((int) $day->format('Ymd') * 100 + 1);

        return $this->isBefore($first) ? $first : $this->next();
    }

    public function __toString(): string
    {
        return (string) $this->value;
    }
}
