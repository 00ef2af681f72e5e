<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Bytes\Csv;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Rows as a file, sent while they are read. */
final class Download
{
    /** @param  iterable<array<int|string, int|string>>  $rows  the heads first */
    public static function csv(string $name, iterable $rows): StreamedResponse
    {
        return self::lines($name, (static function () use ($rows): \Generator {
            foreach ($rows as $row) {
                yield Csv::line(array_map(strval(...), $row));
            }
        })());
    }

    /** @param  iterable<string>  $lines  of CSV, each with its end */
    public static function lines(string $name, iterable $lines): StreamedResponse
    {
        return response()->streamDownload(static function () use ($lines): void {
            foreach ($lines as $line) {
                echo $line;
            }
        }, self::name($name).'.csv', ['Content-Type' => 'text/csv; charset=utf-8']);
    }

    /** @param  iterable<mixed>  $rows */
    public static function json(string $name, iterable $rows): StreamedResponse
    {
        return response()->streamDownload(static function () use ($rows): void {
            $before = "[\n";
            foreach ($rows as $row) {
                echo $before,
                json_encode($row, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE);
                $before = ",\n";
            }
            echo $before === ",\n" ? "\n]\n" : "[\n]\n";
        }, self::name($name).'.json', ['Content-Type' => 'application/json']);
    }

    /** A name that every file system takes. */
    public static function name(string $name): string
    {
        return trim((string) preg_replace('/[^A-Za-z0-9-]+/', '-', $name), '-');
    }
}
