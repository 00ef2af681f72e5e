<?php

declare(strict_types=1);

use App\View\Workbook;

/*
 * Workbooks, read again by a zip and an XML of their own.
 */

beforeEach(function (): void {
    $this->file = (string) tempnam(sys_get_temp_dir(), 'hpost-test-book-');
    $this->read = function (iterable $rows): array {
        Workbook::write($this->file, $rows);
        $zip = new ZipArchive;
        $zip->open($this->file, ZipArchive::CHECKCONS);
        $cells = [];
        foreach (['[Content_Types].xml', '_rels/.rels', 'xl/workbook.xml', 'xl/_rels/workbook.xml.rels',
            'xl/worksheets/sheet1.xml'] as $part) {
            $xml = simplexml_load_string((string) $zip->getFromName($part));
            expect($xml)->not->toBeFalse("$part is sound");
        }
        foreach ($xml->sheetData->row as $row) {
            $line = [];
            foreach ($row->c as $cell) {
                $line[] = (string) $cell['t'] === 'inlineStr' ? ['text', (string) $cell->is->t] : ['number', (string) $cell->v];
            }
            $cells[] = $line;
        }

        return $cells;
    };
});

afterEach(function (): void {
    unlink($this->file);
    expect(glob("$this->file*"))->toBe([]);
});

it('keeps numbers as numbers and everything else as text', function (): void {
    $rows = [
        ['Name', 'Use'], ['Ticketing & <gates>', '81.5'], ['=HYPERLINK("x")', '-3'], ['007', '1234567890123456'], ['1e5', '+1'],
        [' spaced  out ', ''], ["Café\u{1F6A2}", '0'], ["bell\x07 and\x00 nul", '0.'], ["broken \xFF bytes", '10.0.0.1'],
    ];
    expect(($this->read)($rows))->toBe([
        [['text', 'Name'], ['text', 'Use']], [['text', 'Ticketing & <gates>'], ['number', '81.5']],
        [['text', '=HYPERLINK("x")'], ['number', '-3']], [['text', '007'], ['text', '1234567890123456']],
        [['text', '1e5'], ['text', '+1']], [['text', ' spaced  out '], ['text', '']], [['text', "Café\u{1F6A2}"], ['number', '0']],
        [['text', 'bell and nul'], ['text', '0.']], [['text', 'broken ? bytes'], ['text', '10.0.0.1']],
    ]);
});

it('holds many rows without holding them in memory, and no more than a sheet does', function (): void {
    $many = static function (int $count): Generator {
        for ($i = 0; $i < $count; $i++) {
            yield ["host-$i.quay.example", (string) $i, str_repeat('x', 40)];
        }
    };
    $before = memory_get_peak_usage();
    expect(($this->read)($many(5)))->toHaveCount(5);
    Workbook::write($this->file, $many(100_000));
    expect(memory_get_peak_usage() - $before)->toBeLessThan(8_000_000);
    Workbook::write($this->file, (static fn () => yield [str_repeat('y', 40_000)])());
    expect(strlen((string) simplexml_load_string((string) (function (): string {
        $zip = new ZipArchive;
        $zip->open($this->file);

        return (string) $zip->getFromName('xl/worksheets/sheet1.xml');
    })())->sheetData->row[0]->c[0]->is->t))->toBe(32_767);
});
