<?php

declare(strict_types=1);

namespace App\View;

use Symfony\Component\HttpFoundation\StreamedResponse;
use XMLWriter;
use ZipArchive;

/**
 * A table as a workbook of one sheet (ECMA-376, Office Open XML), written to a file row by row and sent from there: it is never in memory
 * as a whole. Texts are texts: what looks like a formula is none.
 */
final class Workbook
{
    /** Rows of a sheet, its heads among them. */
    public const MOST = 1_048_576;

    /** Characters of a cell. */
    private const LONG = 32_767;

    private const PARTS = [
        '[Content_Types].xml' => '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
            .'<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
            .'<Default Extension="xml" ContentType="application/xml"/>'
            .'<Override PartName="/xl/workbook.xml" '
            .'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/>'
            .'<Override PartName="/xl/worksheets/sheet1.xml" '
            .'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
        '_rels/.rels' => '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" '
            .'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/>'
            .'</Relationships>',
        'xl/workbook.xml' => '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" '
            .'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets>'
            .'<sheet name="Report" sheetId="1" r:id="rId1"/></sheets></workbook>',
        'xl/_rels/workbook.xml.rels' => '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
            .'<Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" '
            .'Target="worksheets/sheet1.xml"/></Relationships>',
    ];

    /** @param  iterable<list<string>>  $rows  the heads first */
    public static function download(string $name, iterable $rows): StreamedResponse
    {
        return response()->streamDownload(static function () use ($rows): void {
            $file = (string) tempnam(sys_get_temp_dir(), 'hpost-book-');
            try {
                self::write($file, $rows);
                $open = fopen($file, 'r');
            } finally {
                // Whoever goes away while it is sent leaves no file behind.
                unlink($file);
            }
            $open === false ?: fpassthru($open);
        }, Download::name($name).'.xlsx', ['Content-Type' => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet']);
    }

    /**
     * @param  iterable<list<string>>  $rows
     *
     * @throws \LengthException when they are more than a sheet holds
     */
    public static function write(string $file, iterable $rows): void
    {
        $sheet = "$file.sheet";
        try {
            self::sheet($sheet, $rows);
            $zip = new ZipArchive;
            if ($zip->open($file, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
                throw new \RuntimeException('No room for a workbook');
            }
            foreach (self::PARTS as $part => $xml) {
                $zip->addFromString($part, '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'."\n$xml");
            }
            $zip->addFile($sheet, 'xl/worksheets/sheet1.xml');
            if (! $zip->close()) {
                throw new \RuntimeException('No room for a workbook');
            }
        } finally {
            is_file($sheet) && unlink($sheet);
        }
    }

    /** @param  iterable<list<string>>  $rows */
    private static function sheet(string $file, iterable $rows): void
    {
        $xml = new XMLWriter;
        $xml->openUri($file);
        $xml->startDocument('1.0', 'UTF-8', 'yes');
        $xml->startElement('worksheet');
        $xml->writeAttribute('xmlns', 'http://schemas.openxmlformats.org/spreadsheetml/2006/main');
        // The heads stay in sight.
        $xml->writeRaw('<sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" '
            .'state="frozen"/></sheetView></sheetViews>');
        $xml->startElement('sheetData');
        $n = 0;
        foreach ($rows as $row) {
            if (++$n > self::MOST) {
                throw new \LengthException('A sheet holds '.number_format(self::MOST).' rows');
            }
            $xml->startElement('row');
            foreach ($row as $value) {
                self::cell($xml, $value);
            }
            $xml->endElement();
            $n % 500 === 0 && $xml->flush();
        }
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();
        $xml->flush();
    }

    private static function cell(XMLWriter $xml, string $value): void
    {
        $xml->startElement('c');
        // A serial number with a leading nought, or one of more digits than a number keeps, is a text.
        if (preg_match('/\A-?(?:0|[1-9]\d{0,14})(?:\.\d{1,9})?\z/', $value) === 1) {
            $xml->writeElement('v', $value);
        } else {
            $xml->writeAttribute('t', 'inlineStr');
            $xml->startElement('is');
            $xml->startElement('t');
            $xml->writeAttribute('xml:space', 'preserve');
            // What XML 1.0 §2.2 holds no characters for is left out.
            $xml->text(mb_substr((string) preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '',
                mb_scrub($value)), 0, self::LONG));
            $xml->endElement();
            $xml->endElement();
        }
        $xml->endElement();
    }
}
