<?php

declare(strict_types=1);

use App\Database\Bulk;
use Illuminate\Support\Facades\DB;

/** Rows that are quoted here, not by placeholders: whatever stands in a value comes back as it went in. */
beforeEach(function (): void {
    DB::statement(
        'CREATE TEMPORARY TABLE bulk_rows (id INT PRIMARY KEY, words TEXT NULL, bytes VARBINARY(64) NULL, n BIGINT NULL, yes TINYINT NULL)',
    );
});

afterEach(fn () => DB::statement('DROP TEMPORARY TABLE bulk_rows'));

it('writes many rows and gives each back as it was', function (): void {
    $words = [
        "it's", 'a \\ and \\\' and "', 'what? :name ?1', "line\nline\r\n\ttab", "null\0byte", '', '0', '-1', 'é ☃ Жук 🚢',
        "'; DROP TABLE bulk_rows; --", '%_', '/* x */', str_repeat('long ', 5000),
        "\u{202E}abc", 'x\'2728\'', '`tick`',
    ];
    $rows = [];
    foreach ($words as $i => $word) {
        $rows[] = [
            'id' => $i, 'words' => $word, 'bytes' => substr(md5($word, true).$word, 0, 64), 'n' => PHP_INT_MAX - $i,
            'yes' => $i % 2 === 0,
        ];
    }
    $rows[] = ['id' => 900, 'words' => null, 'bytes' => "\xff\xfe\0'\\", 'n' => null, 'yes' => null];
    for ($i = 1000; $i < 2300; $i++) {
        $rows[] = ['id' => $i, 'words' => "row $i", 'bytes' => pack('N', $i), 'n' => -$i, 'yes' => false];
    }
    Bulk::insert('bulk_rows', $rows);
    $back = DB::table('bulk_rows')->get()->keyBy('id');
    expect($back)->toHaveCount(count($rows));
    foreach ($rows as $row) {
        $is = $back[$row['id']];
        expect($is->words)->toBe($row['words'])->and($is->bytes)->toBe($row['bytes'])->and($is->n)->toBe($row['n'])
            ->and($is->yes)->toBe($row['yes'] === null ? null : (int) $row['yes']);
    }
});

it('writes nothing of nothing, and says what a table refuses', function (): void {
    Bulk::insert('bulk_rows', []);
    expect(DB::table('bulk_rows')->count())->toBe(0);
    $twice = ['id' => 1, 'words' => 'x', 'bytes' => 'x', 'n' => 1, 'yes' => true];
    expect(fn () => Bulk::insert('bulk_rows', [$twice, $twice]))->toThrow(Illuminate\Database\QueryException::class);
});
