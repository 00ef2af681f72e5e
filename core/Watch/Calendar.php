<?php

declare(strict_types=1);

namespace HarborPost\Core\Watch;

/** Events as an iCalendar object (RFC 5545): moments in UTC, text escaped, lines folded at 75 bytes between characters. */
final class Calendar
{
    /**
     * @param  list<array{id: string, at: \DateTimeImmutable, title: string, words: string, link: string}>  $events
     */
    public static function of(string $name, array $events, \DateTimeImmutable $made): string
    {
        $lines = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Harbor Post//Due//EN', 'NAME:'.self::text($name)];
        foreach ($events as $event) {
            array_push(
                $lines, 'BEGIN:VEVENT', 'UID:'.self::text($event['id']).'@harbor-post', 'DTSTAMP:'.self::moment($made),
                'DTSTART:'.self::moment($event['at']), 'SUMMARY:'.self::text($event['title']), 'DESCRIPTION:'.self::text($event['words']),
                'URL:'.$event['link'], 'TRANSP:TRANSPARENT', 'END:VEVENT',
            );
        }
        $lines[] = 'END:VCALENDAR';

        return implode('', array_map(static fn (string $l): string => self::folded($l)."\r\n", $lines));
    }

    /** RFC 5545 §3.3.11. */
    private static function text(string $text): string
    {
        return str_replace(["\r\n", "\n", "\r"], '\\n', addcslashes($text, '\\;,'));
    }

    private static function moment(\DateTimeImmutable $at): string
    {
        return $at->setTimezone(new \DateTimeZone('UTC'))->format('Ymd\THis\Z');
    }

    /** RFC 5545 §3.1. */
    private static function folded(string $line): string
    {
        $rows = [];
        $row = '';
        foreach (mb_str_split($line) as $character) {
            if (strlen($row.$character) > ($rows === [] ? 75 : 74)) {
                $rows[] = $row;
                $row = '';
            }
            $row .= $character;
        }

        return implode("\r\n ", [...$rows, $row]);
    }
}
