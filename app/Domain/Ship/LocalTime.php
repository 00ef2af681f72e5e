<?php

declare(strict_types=1);

namespace App\Domain\Ship;

use App\Acts\Engine\Ledger;

/** A date and time that a person typed, by the clock of a place. */
final class LocalTime
{
    public static function read(Ledger $ledger, string $text, string $zone, string $field): \DateTimeImmutable
    {
        if (! in_array($zone, \DateTimeZone::listIdentifiers(), true)) {
            $ledger->refuse('bad-zone', "\"$zone\" is no time zone", 'One is named by a place, as Europe/London.', field: 'zone');
        }
        // As people type it, and as a browser's field for it sends it.
        $text = str_replace('T', ' ', trim($text));
        $time = preg_match('/\A\d{4}-\d\d-\d\d \d\d:\d\d\z/', $text) === 1
            ? \DateTimeImmutable::createFromFormat('!Y-m-d H:i', $text, new \DateTimeZone($zone))
            : false;
        if ($time === false || \DateTimeImmutable::getLastErrors() !== false) {
            $ledger->refuse('bad-time', "\"$text\" is no date and time", 'Write it as 2026-12-24 22:00.', field: $field);
        }
        if ($time->format('Y-m-d H:i') !== $text) {
            $ledger->refuse('no-such-time', "$text is left out there: clocks go on that night", 'Take an earlier or a later one.',
                field: $field);
        }

        return $time;
    }
}
