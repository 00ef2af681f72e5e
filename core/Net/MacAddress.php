<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/** A 48-bit hardware address. Written in lower case with colons: `00:00:5e:00:53:2a`. */
final readonly class MacAddress implements \Stringable
{
    private function __construct(public string $bytes)
    {
    }

    /** @throws \LengthException unless there are 6 bytes */
    public static function fromBytes(string $bytes): self
    {
        return strlen($bytes) === 6
            ? new self($bytes)
            : throw new \LengthException(sprintf('a MAC address has 6 bytes, not %d', strlen($bytes)));
    }

    /**
     * Twelve hexadecimal digits in pairs by colon or hyphen, in fours by dots, or without separators.
     *
     * @throws NotUnderstood
     */
    public static function parse(string $text): self
    {
        $body = trim($text);
        $shift = (int) strpos($text, $body);
        $bad = strspn($body, '0123456789abcdefABCDEF:-.');
        if ($bad < strlen($body)) {
            throw NotUnderstood::at($text, $shift + $bad, "a hexadecimal digit, not '{$body[$bad]}'");
        }
        $form = '/\A(?:[0-9a-f]{12}|[0-9a-f]{2}(?<s>[:-])(?:[0-9a-f]{2}\k<s>){4}[0-9a-f]{2}|(?:[0-9a-f]{4}\.){2}[0-9a-f]{4})\z/i';
        if (preg_match($form, $body) !== 1) {
            throw NotUnderstood::at(
                $text,
                strlen($text),
                'twelve hexadecimal digits as 00:00:5e:00:53:2a, 00-00-5e-00-53-2a, 0000.5e00.532a or 00005e00532a',
            );
        }

        return new self((string) hex2bin(str_replace([':', '-', '.'], '', $body)));
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (NotUnderstood) {
            return null;
        }
    }

    /** Sent to a group, so no single device has it. */
    public function isGroup(): bool
    {
        return (ord($this->bytes[0]) & 1) === 1;
    }

    public function equals(self $other): bool
    {
        return $this->bytes === $other->bytes;
    }

    public function compare(self $other): int
    {
        return strcmp($this->bytes, $other->bytes);
    }

    public function __toString(): string
    {
        return implode(':', str_split(bin2hex($this->bytes), 2));
    }
}
