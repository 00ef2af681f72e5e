<?php

declare(strict_types=1);

namespace App\View;

/** Bytes as rows of sixteen: offset, hexadecimal digits, characters. */
final class Dump
{
    public static function of(string $bytes): string
    {
        $lines = [];
        foreach ($bytes === '' ? [] : str_split($bytes, 16) as $i => $row) {
            $lines[] = sprintf(
                '%04x  %-47s  %s',
                $i * 16,
                implode(' ', str_split(bin2hex($row), 2)),
                preg_replace('/[^\x20-\x7e]/', '.', $row),
            );
        }

        return implode("\n", $lines);
    }
}
