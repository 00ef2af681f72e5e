<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use HarborPost\Core\Net\Address;

/** What a fact is, which decides how it is shown and what may be asked of it. */
enum FactType: string
{
    case Text = 'text';
    case Number = 'number';
    case Percent = 'percent';
    case Time = 'time';
    /** hexadecimal digits of an address */
    case Address = 'address';
    /** "digits length", with the family before it */
    case Prefix = 'prefix';
    case Flag = 'flag';

    public function isNumber(): bool
    {
        return in_array($this, [self::Number, self::Percent], true);
    }

    public function isMono(): bool
    {
        return in_array($this, [self::Address, self::Prefix], true);
    }

    /** As people read it. */
    public function shown(mixed $value): string
    {
        $text = is_scalar($value) ? (string) $value : '';

        return match (true) {
            $text === '' => '',
            $this === self::Percent => (string) round((float) $text),
            $this === self::Flag => (int) $text === 1 ? 'yes' : 'no',
            $this === self::Address => (string) Address::fromBytes((string) hex2bin($text)),
            $this === self::Prefix => self::prefix($text),
            default => $text,
        };
    }

    private static function prefix(string $text): string
    {
        [$digits, $length] = explode(' ', $text, 2) + ['', ''];

        return Address::fromBytes((string) hex2bin($digits)).'/'.$length;
    }
}
