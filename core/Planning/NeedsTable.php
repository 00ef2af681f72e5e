<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/**
 * A table of needs as people type, paste or upload it: a heading line with the columns site, purpose, hosts, growth, years, v6
 * and vlan in any order, or those columns in that order without a heading; separated by commas, semicolons or tabs.
 */
final readonly class NeedsTable
{
    public const COLUMNS = ['site', 'purpose', 'hosts', 'growth', 'years', 'v6', 'vlan'];

    /**
     * @param  list<Need>  $needs
     * @param  list<array{line: int, column: string, message: string}>  $faults  lines that could not be understood, and why
     */
    private function __construct(public array $needs, public array $faults)
    {
    }

    public static function read(string $text): self
    {
        $text = str_starts_with($text, "\xEF\xBB\xBF") ? substr($text, 3) : $text;
        $needs = $faults = [];
        $columns = self::COLUMNS;
        $separator = null;
        $first = true;
        foreach (preg_split('/\r\n|\r|\n/', $text) ?: [] as $i => $line) {
            if (trim($line) === '' || str_starts_with(ltrim($line), '#')) {
                continue;
            }
            $separator ??= self::separator($line);
            $cells = array_map(static fn (?string $c): string => trim((string) $c), str_getcsv($line, $separator, '"', ''));
            if ($first) {
                $first = false;
                $heading = self::heading($cells);
                if ($heading !== null) {
                    $columns = $heading;
                    $unknown = array_diff($heading, self::COLUMNS);
                    foreach ($unknown as $name) {
                        $faults[] = [
                            'line' => $i + 1,
                            'column' => $name,
                            'message' => "the column \"$name\" is not used; known are ".implode(', ', self::COLUMNS),
                        ];
                    }

                    continue;
                }
            }
            $row = [];
            foreach ($columns as $at => $column) {
                $row[$column] = $cells[$at] ?? '';
            }
            $need = self::need($row, $i + 1, $faults);
            if ($need !== null) {
                $needs[] = $need;
            }
        }

        return new self($needs, $faults);
    }

    private static function separator(string $line): string
    {
        $counts = [',' => substr_count($line, ','), ';' => substr_count($line, ';'), "\t" => substr_count($line, "\t")];
        arsort($counts);

        return (string) array_key_first($counts);
    }

    /**
     * @param  list<string>  $cells
     * @return list<string>|null
     */
    private static function heading(array $cells): ?array
    {
        $names = array_map(static fn (string $c): string => str_replace([' ', '%', 'ipv6'], ['', '', 'v6'], strtolower($c)), $cells);

        return in_array('site', $names, true) && in_array('hosts', $names, true) ? $names : null;
    }

    /**
     * @param  array<string, string>  $row
     * @param  list<array{line: int, column: string, message: string}>  $faults
     */
    private static function need(array $row, int $line, array &$faults): ?Need
    {
        $before = count($faults);
        $fault = static function (string $column, string $message) use (&$faults, $line): void {
            $faults[] = ['line' => $line, 'column' => $column, 'message' => $message];
        };
        $row += array_fill_keys(self::COLUMNS, '');
        if ($row['site'] === '') {
            $fault('site', 'the site is missing');
        }
        $hosts = str_replace([' ', "'", '_'], '', $row['hosts']);
        if (preg_match('/\A\d{1,9}\z/', $hosts) !== 1 || (int) $hosts < 1 || (int) $hosts > Need::MOST_HOSTS) {
            $fault('hosts', sprintf('hosts is a number from 1 to %s, not "%s"', number_format(Need::MOST_HOSTS), $row['hosts']));
        }
        $growth = str_replace(['%', ',', ' '], ['', '.', ''], $row['growth']) ?: '0';
        if (preg_match('/\A-?\d{1,3}(\.\d+)?\z/', $growth) !== 1 || (float) $growth < -90 || (float) $growth > 300) {
            $fault('growth', "growth is percent a year from -90 to 300, not \"{$row['growth']}\"");
        }
        $years = $row['years'] === '' ? '0' : $row['years'];
        if (preg_match('/\A\d{1,2}\z/', $years) !== 1 || (int) $years > 30) {
            $fault('years', "years is a number from 0 to 30, not \"{$row['years']}\"");
        }
        $v6 = strtolower($row['v6']);
        if (! in_array($v6, ['', 'yes', 'no', 'y', 'n', '1', '0', 'true', 'false', 'x'], true)) {
            $fault('v6', "v6 is yes or no, not \"{$row['v6']}\"");
        }
        if ($row['vlan'] !== '' && VlanPattern::tryParse($row['vlan']) === null) {
            $fault('vlan', "vlan is a number from 1 to 4094, 110+ or 200-299, not \"{$row['vlan']}\"");
        }

        return count($faults) > $before
            ? null
            : new Need(
                $row['site'],
                $row['purpose'],
                (int) $hosts,
                (float) $growth,
                (int) $years,
                in_array($v6, ['yes', 'y', '1', 'true', 'x'], true),
                $row['vlan'],
                $line,
            );
    }
}
