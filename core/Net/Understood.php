<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/**
 * What a person typed where a prefix is asked for, and how it was read.
 *
 * `10.1.2.3/20`, `10.1.2.3 255.255.240.0`, `10.1.2.3/255.255.240.0`, a range, or a bare address. Nothing is guessed: a short
 * or broken mask is refused at the character.
 */
final readonly class Understood
{
    private function __construct(
        public Address $address,
        public AddressRange $range,
        /** null for a range that is no prefix */
        public ?Prefix $prefix,
        /** the address typed is not the network's own */
        public bool $hostBits,
    ) {
    }

    /** @throws NotUnderstood pointing at the character of the text as typed */
    public static function from(string $text): self
    {
        $lead = strlen($text) - strlen(ltrim($text));
        $body = trim($text);
        if ($body === '') {
            throw NotUnderstood::at($text, 0, 'an address, a prefix or a range');
        }
        if (preg_match('~\A([0-9a-fA-F.:]+)(\s*-\s*)(.*)\z~s', $body, $m) === 1) {
            return self::fromRange($text, $m[1], $lead, $m[3], $lead + strlen($m[1].$m[2]));
        }
        if (preg_match('~\A([^\s/]*)(\s*/\s*|\s+)(.*)\z~s', $body, $m) === 1) {
            return self::fromPrefix($text, $m[1], $lead, $m[3], $lead + strlen($m[1].$m[2]));
        }
        $address = self::address($text, $body, $lead);

        return new self($address, AddressRange::of($address, $address), Prefix::of($address, $address->family->bits()), false);
    }

    private static function fromRange(string $text, string $from, int $fromAt, string $to, int $toAt): self
    {
        $first = self::address($text, $from, $fromAt);
        if ($first->family === Family::V4 && preg_match('/\A\d{1,3}\z/', $to) === 1) {
            $dot = (int) strrpos($from, '.');
            $last = self::address($text, substr($from, 0, $dot + 1).$to, $toAt - $dot - 1);
        } else {
            $last = self::address($text, $to, $toAt);
        }
        if ($first->family !== $last->family) {
            throw NotUnderstood::at($text, $toAt, 'both ends of a range in one family');
        }
        if ($first->compare($last) > 0) {
            throw NotUnderstood::at($text, $toAt, "the end of a range at or after its start $first");
        }
        $range = AddressRange::of($first, $last);

        return new self($first, $range, $range->prefix(), false);
    }

    private static function fromPrefix(string $text, string $from, int $fromAt, string $size, int $sizeAt): self
    {
        $address = self::address($text, $from, $fromAt);
        $length = preg_match('/[.:]/', $size) === 1
            ? self::maskLength($text, $size, $sizeAt, $address->family)
            : self::length($text, $size, $sizeAt, $address->family);
        $prefix = $address->in($length);

        return new self($address, $prefix->range(), $prefix, ! $prefix->first->equals($address));
    }

    private static function length(string $text, string $size, int $at, Family $family): int
    {
        $digits = strspn($size, '0123456789');
        if ($digits < strlen($size) || $size === '') {
            throw NotUnderstood::at($text, $at + $digits, "a length from 0 to {$family->bits()} or a mask");
        }
        if (strlen($size) > 3 || (int) $size > $family->bits() || strlen($size) > 1 && $size[0] === '0') {
            throw NotUnderstood::at($text, $at, "a length from 0 to {$family->bits()}");
        }

        return (int) $size;
    }

    private static function maskLength(string $text, string $mask, int $at, Family $family): int
    {
        $bytes = self::address($text, $mask, $at)->bytes;
        if (strlen($bytes) !== $family->bytes()) {
            throw NotUnderstood::at($text, $at, 'a mask of the same family as the address');
        }
        for ($length = 0; $length < $family->bits() && Bits::bit($bytes, $length) === 1; $length++);
        if ($bytes !== Bits::mask($family->bytes(), $length)) {
            for ($stray = $length; Bits::bit($bytes, $stray) === 0; $stray++);
            throw NotUnderstood::at($text, $at + self::partOffset($mask, intdiv($stray, 8)), 'a mask has all its ones in front');
        }

        return $length;
    }

    /** Where the octet with that index starts in dotted text; the start for IPv6. */
    private static function partOffset(string $mask, int $octet): int
    {
        $offset = 0;
        if (str_contains($mask, ':')) {
            return 0;
        }
        foreach (array_slice(explode('.', $mask), 0, $octet) as $part) {
            $offset += strlen($part) + 1;
        }

        return $offset;
    }

    private static function address(string $text, string $part, int $at): Address
    {
        try {
            return Address::parse($part);
        } catch (NotUnderstood $e) {
            throw $e->shifted($text, $at);
        }
    }
}
