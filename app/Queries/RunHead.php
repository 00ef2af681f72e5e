<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Person;
use App\Models\Report;
use App\Models\ReportState;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;

/** The first rows of what the last run of a report brought to somebody, read from the beginning of what was packed. */
final readonly class RunHead
{
    /** Bytes of the packed body that are read. */
    private const BYTES = 65_536;

    /**
     * @param  list<string>  $heads
     * @param  list<list<string>>  $rows
     */
    private function __construct(public array $heads, public array $rows, public string $words, public CarbonImmutable $at)
    {
    }

    public static function of(Report $report, Person $person, int $rows): ?self
    {
        $run = DB::table('report_runs')->where('report_id', $report->id)->where('person_id', $person->id)->where('state', ReportState::Done)
            ->orderByDesc('id')->first([DB::raw('SUBSTRING(body, 1, '.self::BYTES.') AS head'), 'done_at', 'words']);

        $lines = $run === null ? [] : self::lines((string) $run->head, $rows + 1);

        return $run === null ? null : new self(
            $lines[0] ?? [],
            array_slice($lines, 1),
            (string) $run->words,
            CarbonImmutable::parse((string) $run->done_at),
        );
    }

    /**
     * @param  string  $packed  gzip, cut anywhere
     * @return list<list<string>> lines of CSV that are whole
     */
    public static function lines(string $packed, int $most): array
    {
        $inflate = inflate_init(ZLIB_ENCODING_GZIP);
        $text = $inflate === false ? '' : (string) @inflate_add($inflate, $packed);
        $file = fopen('php://memory', 'w+');
        if ($file === false) {
            return [];
        }
        // Of a part that is cut the last line may be.
        $end = strrpos($text, "\n");
        fwrite($file, substr($text, 0, $end === false ? 0 : $end + 1));
        rewind($file);
        $lines = [];
        while (count($lines) < $most && ($line = fgetcsv($file, null, ',', '"', '')) !== false) {
            $line === [null] ?: $lines[] = array_map(strval(...), $line);
        }

        return $lines;
    }
}
