<?php

declare(strict_types=1);

namespace App\View;

use App\Queries\ReportTable;
use Dompdf\Dompdf;
use Dompdf\Options;

/** A report on paper: A4, heads on every page, pages numbered. */
final class ReportPdf
{
    /** Rows that are put on paper; a longer list is read as CSV. */
    private const ROWS = 2000;

    /** Rows a table: one long table costs more than its rows. */
    private const PART = 40;

    public static function of(ReportTable $table, string $reader): string
    {
        $count = $table->count();
        $rows = iterator_to_array($table->rows(self::ROWS), false);
        $options = new Options(
            ['isRemoteEnabled' => false, 'isPhpEnabled' => false, 'defaultFont' => 'DejaVu Sans', 'chroot' => resource_path('views')],
        );
        $pdf = new Dompdf($options);
        $pdf->setPaper('A4', count($table->columns) > 5 ? 'landscape' : 'portrait');
        $pdf->loadHtml(view('watch.report-paper', [
            'report' => $table->report, 'table' => $table, 'parts' => array_chunk($rows, self::PART), 'count' => $count,
            'left' => $count - count($rows), 'reader' => $reader,
        ])->render());
        $pdf->render();
        $canvas = $pdf->getCanvas();
        $canvas->page_text(
            $canvas->get_width() - 90,
            $canvas->get_height() - 30,
            '{PAGE_NUM} of {PAGE_COUNT}',
            (string) $pdf->getFontMetrics()->getFont('DejaVu Sans'),
            8,
        );

        return (string) $pdf->output();
    }
}
