<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;

/** The fields of a record's presentation form, read one after the other; a fault names the field by its index. */
final class Fields
{
    private int $at = 0;

    /**
     * @param  list<string>  $texts  as written, escapes not yet undone, quotes taken off
     * @param  list<bool>  $quoted
     */
    public function __construct(private readonly array $texts, private readonly ?Name $origin = null, private readonly array $quoted = [])
    {
    }

    /** Splits one line of presentation form, for what people type: quoted strings and blanks. */
    public static function ofLine(string $line, ?Name $origin = null): self
    {
        $texts = $quoted = [];
        preg_match_all('/"((?:[^"\\\\]|\\\\.)*)"|((?:[^\s"\\\\]|\\\\.)+)|(\S)/s', $line, $found, PREG_SET_ORDER);
        foreach ($found as $i => $one) {
            if (($one[3] ?? '') !== '') {
                throw Malformed::because('a quote or an escape is not closed', 'RFC 1035 §5.1', (int) strrpos($line, '"'))->inField($i);
            }
            $quoted[] = $one[0][0] === '"';
            $texts[] = $one[0][0] === '"' ? $one[1] ?? '' : $one[2] ?? '';
        }

        return new self($texts, $origin, $quoted);
    }

    public function atEnd(): bool
    {
        return ! isset($this->texts[$this->at]);
    }

    public function index(): int
    {
        return $this->at;
    }

    public function peek(): ?string
    {
        return $this->texts[$this->at] ?? null;
    }

    /** @throws Malformed when no field is left */
    public function raw(string $what): string
    {
        return $this->texts[$this->at++] ?? throw Malformed::because("$what is missing", 'RFC 1035 §5.1')->inField(max(0, $this->at - 2));
    }

    public function name(string $what): Name
    {
        $text = $this->raw($what);
        try {
            return Name::parse($text, $this->origin);
        } catch (Malformed $e) {
            throw Malformed::because("$what: {$e->getMessage()}", $e->standard, $e->offset)->inField($this->at - 1);
        }
    }

    /** A whole number of so many bits, 8, 16 or 32. */
    public function number(string $what, int $bits): int
    {
        $text = $this->raw($what);
        $most = (1 << $bits) - 1;
        if (preg_match('/\A\d{1,10}\z/', $text) !== 1 || (int) $text > $most) {
            throw $this->fault("$what is a number from 0 to $most, not \"$text\"");
        }

        return (int) $text;
    }

    /** Seconds, also with units. */
    public function time(string $what): int
    {
        $text = $this->raw($what);
        $ttl = Ttl::tryParse($text) ?? throw $this->fault("$what is a time in seconds, not \"$text\"");

        return $ttl->seconds;
    }

    public function address(Family $family): Address
    {
        $text = $this->raw("an IPv{$family->value} address");
        try {
            $address = Address::parse($text);
        } catch (NotUnderstood $e) {
            throw Malformed::because($e->getMessage(), 'RFC 1035 §3.4.1', $e->offset)->inField($this->at - 1);
        }

        return $address->family === $family ? $address : throw $this->fault("an IPv{$family->value} address, not \"$text\"");
    }

    /** Is the next field in quotes? */
    public function isQuoted(): bool
    {
        return $this->quoted[$this->at] ?? false;
    }

    /** Text of any length, where a standard asks for one string without the limit of a character string. */
    public function text(string $what): string
    {
        $text = $this->raw($what);

        return str_contains($text, '\\') ? Name::unescape($text) : $text;
    }

    /** A character string of at most 255 bytes (RFC 1035 §3.3). */
    public function string(string $what): string
    {
        $text = $this->raw($what);
        $bytes = str_contains($text, '\\') ? Name::unescape($text) : $text;
        if (strlen($bytes) > 255) {
            throw $this->fault(
                sprintf('%s has %d bytes, a string has at most 255; write it as several quoted strings', $what, strlen($bytes)),
            );
        }

        return $bytes;
    }

    public function fault(string $message, string $standard = 'RFC 1035 §5.1'): Malformed
    {
        return Malformed::because($message, $standard)->inField(max(0, $this->at - 1));
    }

    public function wasQuoted(): bool
    {
        return $this->quoted[$this->at - 1] ?? false;
    }

    public function expectEnd(): void
    {
        if (! $this->atEnd()) {
            throw Malformed::because("nothing more was expected, found \"{$this->texts[$this->at]}\"", 'RFC 1035 §5.1')->inField($this->at);
        }
    }

    /** A character string in quotes with RFC 1035 escapes. */
    public static function quote(string $bytes): string
    {
        return '"'
            .preg_replace_callback(
                '/["\\\\]|[^\x20-\x7e]/',
                static fn (array $m): string => $m[0] === '"' || $m[0] === '\\' ? '\\'.$m[0] : sprintf('\\%03d', ord($m[0])),
                $bytes,
            )
            .'"';
    }
}
