<?php

declare(strict_types=1);

namespace App\Models;

/** By what a server is read and written. */
enum Speaks: string
{
    case Control = 'control';
    /** Zone transfers (RFC 5936) and signed dynamic updates (RFC 2136): names alone. */
    case Standard = 'standard';
    /** Nothing is outside: zones are handed out from our own rows to who copies them (a hidden primary). */
    case Here = 'here';

    public function words(): string
    {
        return match ($this) {
            self::Control => 'its control endpoint, or an agent',
            self::Standard => 'the standards: transfers and signed updates',
            self::Here => 'nothing: Harbor Post itself hands its zones out',
        };
    }

    /** @return array<string, string> */
    public static function choices(): array
    {
        return array_combine(
            array_map(static fn (self $s): string => $s->value, self::cases()),
            array_map(static fn (self $s): string => $s->words(), self::cases()),
        );
    }
}
