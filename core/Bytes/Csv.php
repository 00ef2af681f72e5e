<?php

declare(strict_types=1);

namespace HarborPost\Core\Bytes;

/** Lines of comma-separated values (RFC 4180), with cells that no table program runs as a formula. */
final class Csv
{
    /** @param  iterable<string>  $cells */
    public static function line(iterable $cells): string
    {
        $line = [];
        foreach ($cells as $cell) {
            $cell = self::safe($cell);
            $line[] = preg_match('/[",\s]/', $cell) === 1 ? '"'.str_replace('"', '""', $cell).'"' : $cell;
        }

        return implode(',', $line)."\r\n";
    }

    /** A cell that would be run as a formula is written as text; plain() takes the mark off again. A number below zero stays one. */
    public static function safe(string $cell): string
    {
        return preg_match("/\A(?:[=+@\t\r]|-(?!\d+(?:\.\d+)?\z).|'[=+@\t\r'-])/s", $cell) === 1 ? "'".$cell : $cell;
    }

    /** The cell as it was before safe(). */
    public static function plain(string $cell): string
    {
        return preg_match("/\A'[=+@\t\r'-]/", $cell) === 1 ? substr($cell, 1) : $cell;
    }
}
