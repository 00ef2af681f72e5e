<?php

declare(strict_types=1);

namespace App\Imports;

use App\Domain\Plan\PlanColumns;

/**
 * An address plan as JSON, a list of objects with the columns of the CSV form as keys: turned into that form, so that one reader judges
 * both.
 */
final class JsonPlan
{
    /** Larger files are read as CSV only, which streams. */
    public const MOST = 64 << 20;

    public static function is(string $path): bool
    {
        $head = (string) file_get_contents($path, length: 64);

        return str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '[') || str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '{');
    }

    /** @throws \DomainException that says what was expected */
    public static function toCsv(string $path): void
    {
        if (filesize($path) > self::MOST) {
            throw new \DomainException('A JSON file may have at most 64 MB; larger plans come as CSV.');
        }
        $data = json_decode((string) preg_replace('/\A\xEF\xBB\xBF/', '', (string) file_get_contents($path)), true);
        if (! is_array($data)) {
            throw new \DomainException('The file is no JSON: '.json_last_error_msg().'.');
        }
        $rows = array_is_list($data) ? $data : array_merge((array) ($data['prefixes'] ?? []), (array) ($data['addresses'] ?? []));
        $out = fopen("$path.csv", 'w');
        if ($out === false) {
            throw new \DomainException('The file cannot be written beside itself.');
        }
        $columns = [...PlanColumns::ALL, ...self::ownFields($rows)];
        fputcsv($out, $columns, escape: '');
        foreach ($rows as $i => $row) {
            if (! is_array($row)) {
                throw new \DomainException(
                    'Entry '.($i + 1).' is no object; objects with the keys '.implode(', ', PlanColumns::ALL).' were expected.',
                );
            }
            $unknown = array_filter(array_map(strval(...), array_keys($row)), static fn (string $key): bool => ! PlanColumns::has($key));
            if ($unknown !== []) {
                throw new \DomainException(
                    'Entry '
                        .($i + 1)
                        .' has the unknown key "'
                        .array_values($unknown)[0]
                        .'". Known are '
                        .implode(', ', PlanColumns::ALL)
                        .'.',
                );
            }
            fputcsv($out, array_map(function (string $column) use ($row): string {
                $value = $row[$column] ?? '';

                return is_array($value) ? implode(', ', array_filter($value, is_scalar(...))) : (is_scalar($value) ? (string) $value : '');
            }, $columns), escape: '');
        }
        fclose($out);
        rename("$path.csv", $path);
    }

    /**
     * @param  array<mixed>  $rows
     * @return list<string> columns "own:NAME" that some of them have
     */
    private static function ownFields(array $rows): array
    {
        $own = [];
        foreach ($rows as $row) {
            foreach (is_array($row) ? array_keys($row) : [] as $key) {
                if (str_starts_with((string) $key, 'own:')) {
                    $own[(string) $key] = true;
                }
            }
        }

        return array_keys($own);
    }
}
