<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\Csv;

it('writes no cell that a table program would run, and takes its mark off again', function (string $cell, string $written): void {
    expect(Csv::safe($cell))->toBe($written)->and(Csv::plain($written))->toBe($cell);
})->with([
    ['=1+1', "'=1+1"], ['+49 30 1', "'+49 30 1"], ['@sum', "'@sum"], ['-cmd', "'-cmd"], ['-2+3', "'-2+3"], ["\tx", "'\tx"],
    ["-1\n", "'-1\n"], ['-3', '-3'], ['-3.5', '-3.5'], ['-', '-'], ["'=x", "''=x"], ["'a", "'a"], ['', ''], ['a=1', 'a=1'],
]);

it('writes lines that are read back as they were', function (): void {
    $cells = ['a', '', 'say "so"', "two\nlines", "ends\r", 'a,b', ' blank ', '\\'];
    $file = fopen('php://memory', 'w+');
    fwrite($file, Csv::line($cells).Csv::line(['x']));
    rewind($file);
    expect(fgetcsv($file, escape: ''))->toBe($cells)->and(fgetcsv($file, escape: ''))->toBe(['x']);
});
