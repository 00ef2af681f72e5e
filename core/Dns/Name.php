<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;

/**
 * A domain name, always absolute, kept as its uncompressed wire form (RFC 1035 §3.1).
 *
 * Case is kept and ignored in comparisons (RFC 4343). Lower-casing the whole wire form is safe because length bytes are
 * below 64 and letters are not.
 */
final readonly class Name implements \Stringable
{
    /** Characters of a label that are written as they are and need no careful reading. */
    public const ORDINARY = 'abcdefghijklmnopqrstuvwxyz0123456789-_ABCDEFGHIJKLMNOPQRSTUVWXYZ*/';

    private function __construct(public string $wire)
    {
    }

    public static function root(): self
    {
        return new self("\0");
    }

    /**
     * Text with RFC 1035 §5.1 escapes. Without a final dot it is relative to the origin, or to the root when there is none; `@`
     * is the origin itself. Labels that are not ASCII become punycode (RFC 5891, nontransitional).
     *
     * @throws Malformed with the offset of the label or escape
     */
    public static function parse(string $text, ?self $origin = null): self
    {
        if ($text === '@') {
            return $origin ?? self::root();
        }
        if ($text === '.') {
            return self::root();
        }
        if ($text === '') {
            throw Malformed::because('a name is missing', 'RFC 1035 §5.1');
        }
        if (strlen($text) > 4 * 255 + 127) {
            throw Malformed::because('the name is longer than 255 bytes can be written', 'RFC 1035 §2.3.4');
        }
        $plain = self::ordinary($text, $origin);
        if ($plain !== null) {
            return $plain;
        }
        // The full stops of other scripts separate labels too (UTS 46 §2.3).
        $text = strtr($text, ["\u{3002}" => '.', "\u{FF0E}" => '.', "\u{FF61}" => '.']);
        $absolute = str_ends_with($text, '.') && ! preg_match('/(?<!\\\\)(?:\\\\\\\\)*\\\\\.\z/', $text);
        $wire = '';
        $offset = 0;
        foreach (self::split($absolute ? substr($text, 0, -1) : $text) as $label) {
            $bytes = self::label($label, $offset);
            $wire .= chr(strlen($bytes)).$bytes;
            $offset += strlen($label) + 1;
        }
        $wire .= $absolute || $origin === null ? "\0" : $origin->wire;
        if (strlen($wire) > 255) {
            throw Malformed::because(sprintf('the name takes %d bytes, 255 are allowed', strlen($wire)), 'RFC 1035 §2.3.4');
        }

        return new self($wire);
    }

    public static function tryParse(string $text, ?self $origin = null): ?self
    {
        try {
            return self::parse($text, $origin);
        } catch (Malformed) {
            return null;
        }
    }

    /** @param  list<string>  $labels  raw bytes, from the left, without the root */
    public static function ofLabels(array $labels): self
    {
        $wire = '';
        foreach ($labels as $label) {
            if ($label === '' || strlen($label) > 63) {
                throw Malformed::because('a label has 1 to 63 bytes', 'RFC 1035 §2.3.4');
            }
            $wire .= chr(strlen($label)).$label;
        }

        return strlen($wire) < 255 ? new self($wire."\0") : throw Malformed::because('a name has at most 255 bytes', 'RFC 1035 §2.3.4');
    }

    /**
     * Reads a name from a message, following compression pointers, which may only go backwards (RFC 1035 §4.1.4).
     *
     * @throws MalformedBytes on a loop, a forward pointer, a bad label type or more than 255 bytes
     */
    public static function fromWire(ByteReader $reader): self
    {
        $wire = '';
        $resume = null;
        $lowest = $reader->position();
        $source = $reader;
        while (true) {
            $length = $source->uint8();
            if ($length >= 0xC0) {
                $target = ($length & 0x3F) << 8 | $source->uint8();
                if ($target >= $lowest) {
                    throw MalformedBytes::at($source->position() - 2, 'a compression pointer to an earlier place');
                }
                $resume ??= $source->position();
                $lowest = $target;
                $source = new ByteReader($reader->whole(), $target);

                continue;
            }
            if ($length > 63) {
                throw MalformedBytes::at($source->position() - 1, 'a label of at most 63 bytes or a pointer');
            }
            $wire .= chr($length).$source->take($length);
            if (strlen($wire) > 255) {
                throw MalformedBytes::at($source->position(), 'a name of at most 255 bytes');
            }
            if ($length === 0) {
                break;
            }
        }
        if ($resume !== null) {
            $reader->seek($resume);
        }

        return new self($wire);
    }

    /** @param  string  $key  what key() of some name gave */
    public static function ofKey(string $key): self
    {
        return new self($key);
    }

    /** Lower-case wire form: the same for equal names. */
    public function key(): string
    {
        return strtolower($this->wire);
    }

    public function equals(self $other): bool
    {
        return $this->wire === $other->wire || strtolower($this->wire) === strtolower($other->wire);
    }

    /** Canonical order (RFC 4034 §6.1). */
    public function compare(self $other): int
    {
        return strcmp($this->sortKey(), $other->sortKey());
    }

    /**
     * Bytes whose plain order is the canonical order, and in which a name's key starts with the key of every name above it:
     * labels from the right, lower case, each ended by a zero byte (zero and one inside a label are escaped).
     */
    public function sortKey(): string
    {
        $key = '';
        for ($at = 0; ($length = ord($this->wire[$at])) !== 0; $at += $length + 1) {
            $label = substr($this->wire, $at + 1, $length);
            $key = (strcspn($label, "\0\1") === $length ? $label : strtr($label, ["\0" => "\1\1", "\1" => "\1\2"]))."\0".$key;
        }

        return strtolower($key);
    }

    /** @return list<string> raw bytes from the left, without the root */
    public function labels(): array
    {
        $labels = [];
        for ($at = 0; ($length = ord($this->wire[$at])) !== 0; $at += $length + 1) {
            $labels[] = substr($this->wire, $at + 1, $length);
        }

        return $labels;
    }

    public function isRoot(): bool
    {
        return $this->wire === "\0";
    }

    public function isWildcard(): bool
    {
        return str_starts_with($this->wire, "\1*");
    }

    /** The name without its first label; null above the root. */
    public function parent(): ?self
    {
        return $this->isRoot() ? null : new self(substr($this->wire, ord($this->wire[0]) + 1));
    }

    /** One plain label of 1 to 63 bytes in front of this name; null when the whole is too long. */
    public function below(string $label): ?self
    {
        $wire = chr(strlen($label)).$label.$this->wire;

        return strlen($wire) > 255 ? null : new self($wire);
    }

    /** The first label in front of this name. */
    public function prepend(string $label): self
    {
        return self::ofLabels([$label, ...$this->labels()]);
    }

    /** Is it the given name or below it? */
    public function isIn(self $zone): bool
    {
        $mine = strtolower($this->wire);
        $suffix = strtolower($zone->wire);
        $start = strlen($mine) - strlen($suffix);
        if ($start < 0 || substr($mine, $start) !== $suffix) {
            return false;
        }
        for ($at = 0; $at < $start; $at += ord($mine[$at]) + 1);

        return $at === $start;
    }

    /** Text relative to a zone: `@` for the zone itself, absolute when outside. */
    public function relativeTo(self $zone): string
    {
        if (! $this->isIn($zone)) {
            return (string) $this;
        }
        $labels = array_slice($this->labels(), 0, count($this->labels()) - count($zone->labels()));

        return $labels === [] ? '@' : implode('.', array_map(self::escape(...), $labels));
    }

    public function lower(): self
    {
        return new self(strtolower($this->wire));
    }

    /** With Unicode labels where they are punycode, for people; not for machines. */
    public function readable(): string
    {
        $text = rtrim((string) $this, '.');
        $unicode = str_contains($text, 'xn--') ? idn_to_utf8($text, IDNA_NONTRANSITIONAL_TO_UNICODE, INTL_IDNA_VARIANT_UTS46) : false;

        return $unicode === false ? $text : $unicode;
    }

    /** Absolute text with a final dot. */
    public function __toString(): string
    {
        $text = '';
        for ($at = 0; ($length = ord($this->wire[$at])) !== 0; $at += $length + 1) {
            $label = substr($this->wire, $at + 1, $length);
            $text .= (strspn($label, self::ORDINARY) === $length ? $label : self::escape($label)).'.';
        }

        return $text === '' ? '.' : $text;
    }

    /** The short way for names of ordinary letters without a fault; null when the text needs the careful way of parse(). */
    public static function ordinary(string $text, ?self $origin): ?self
    {
        if (strspn($text, self::ORDINARY.'.') !== strlen($text)) {
            return null;
        }
        $absolute = $text[-1] === '.';
        $wire = '';
        foreach (explode('.', $absolute ? substr($text, 0, -1) : $text) as $label) {
            $length = strlen($label);
            if ($length === 0 || $length > 63) {
                return null;
            }
            $wire .= chr($length).$label;
        }
        $wire .= $absolute || $origin === null ? "\0" : $origin->wire;

        return strlen($wire) > 255 ? null : new self($wire);
    }

    /** @return list<string> */
    private static function split(string $text): array
    {
        if (! str_contains($text, '\\')) {
            return explode('.', $text);
        }

        return preg_split('/((?:[^\\\\.]|\\\\.)*)(?:\.|\z)/s', $text, -1, PREG_SPLIT_DELIM_CAPTURE | PREG_SPLIT_NO_EMPTY) ?: [];
    }

    private static function label(string $text, int $offset): string
    {
        if ($text === '') {
            throw Malformed::because('an empty label: two dots in a row, or a dot in front', 'RFC 1035 §3.1', $offset);
        }
        if (preg_match('/[\x80-\xff]/', $text) === 1) {
            $text = self::punycode($text, $offset);
        }
        $bytes = str_contains($text, '\\') ? self::unescape($text, $offset) : $text;
        if (strlen($bytes) > 63) {
            throw Malformed::because(
                sprintf('the label "%s…" has %d bytes, 63 are allowed', substr($text, 0, 20), strlen($bytes)),
                'RFC 1035 §2.3.4',
                $offset,
            );
        }

        return $bytes;
    }

    private static function punycode(string $label, int $offset): string
    {
        $ascii = idn_to_ascii($label, IDNA_NONTRANSITIONAL_TO_ASCII | IDNA_CHECK_BIDI | IDNA_CHECK_CONTEXTJ, INTL_IDNA_VARIANT_UTS46);

        return $ascii !== false
            ? $ascii
            : throw Malformed::because("\"$label\" is no valid internationalised label", 'RFC 5891 §4', $offset);
    }

    /** Decimal escapes `\DDD` and escaped characters `\X`. */
    public static function unescape(string $text, int $offset = 0): string
    {
        $bytes = '';
        for ($i = 0, $n = strlen($text); $i < $n; $i++) {
            if ($text[$i] !== '\\') {
                $bytes .= $text[$i];

                continue;
            }
            $digits = substr($text, $i + 1, 3);
            if (preg_match('/\A\d/', $digits) === 1) {
                if (preg_match('/\A\d{3}\z/', $digits) !== 1 || (int) $digits > 255) {
                    throw Malformed::because('after a backslash three digits from 000 to 255', 'RFC 1035 §5.1', $offset + $i);
                }
                $bytes .= chr((int) $digits);
                $i += 3;
            } elseif ($digits === '') {
                throw Malformed::because('a backslash at the end escapes nothing', 'RFC 1035 §5.1', $offset + $i);
            } else {
                $bytes .= $digits[0];
                $i++;
            }
        }

        return $bytes;
    }

    private static function escape(string $label): string
    {
        return (string) preg_replace_callback(
            '/[^A-Za-z0-9_*\/!#%&\'+,:<=>?\[\]^`{|}~-]/',
            static fn (array $m): string => strpbrk($m[0], '."();@$\\') !== false ? '\\'.$m[0] : sprintf('\\%03d', ord($m[0])),
            $label,
        );
    }
}
