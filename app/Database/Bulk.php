<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\DB;

/**
 * Many rows in few statements. The values are quoted here: a statement of thousands of placeholders costs the driver as much again as the
 * server needs to write the rows.
 */
final class Bulk
{
    private const ROWS = 500;

    /** @param  list<array<string, scalar|null>>  $rows  all with the same columns */
    public static function insert(string $table, array $rows): void
    {
        $grammar = DB::connection()->getQueryGrammar();
        $pdo = DB::connection()->getPdo();
        foreach (array_chunk($rows, self::ROWS) as $chunk) {
            $lines = [];
            foreach ($chunk as $row) {
                foreach ($row as $column => $value) {
                    $row[$column] = self::quoted($pdo, $value);
                }
                $lines[] = '('.implode(',', $row).')';
            }
            DB::unprepared(
                'INSERT INTO '.$grammar->wrapTable($table).' ('.$grammar->columnize(array_keys($chunk[0])).') VALUES '.implode(',', $lines),
            );
        }
    }

    private static function quoted(\PDO $pdo, string|int|float|bool|null $value): string
    {
        return match (true) {
            $value === null => 'NULL',
            is_int($value) => (string) $value,
            is_bool($value) => $value ? '1' : '0',
            is_string($value) && ! mb_check_encoding($value, 'UTF-8') => "x'".bin2hex($value)."'",
            default => $pdo->quote((string) $value),
        };
    }
}
