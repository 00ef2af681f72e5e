<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Models\Person;
use App\Models\Report;
use App\Models\ReportState;
use App\Queries\Reach;
use App\Queries\ReportTable;
use Carbon\CarbonImmutable;
use HarborPost\Core\Bytes\Csv;
use Illuminate\Support\Facades\DB;

/** Brings reports that are due to those who get them, each as far as they may see. Two that run at once make one run. */
final class ReportRun
{
    /** Bytes of CSV that a run keeps, before they are packed. */
    private const MOST = 60_000_000;

    /** @return list<string> what was brought to whom */
    public static function due(): array
    {
        $said = [];
        $now = CarbonImmutable::now();
        foreach (Report::query()->where('paused', false)->whereNotNull('due_at')->where('due_at', '<=', $now->utc())->get() as $report) {
            $due = $report->due_at ?? $now;
            $table = $report->timetable();
            foreach ($report->people as $id) {
                $words = self::one($report, $id, $due);
                $words === null ?: $said[] = "$report->name: $words";
            }
            $next = $table?->after($now);
            // Whoever comes second finds another time there, and changes nothing.
            DB::table('reports')->where('id', $report->id)->where('due_at', $due->format('Y-m-d H:i:s'))
                ->update(['due_at' => $next === null ? null : CarbonImmutable::instance($next)->utc()->format('Y-m-d H:i:s')]);
        }

        return $said;
    }

    /** @return ?string what came of it; null when another one does it */
    private static function one(Report $report, string $id, CarbonImmutable $due): ?string
    {
        $key = ['report_id' => $report->id, 'person_id' => $id, 'due_at' => $due->format('Y-m-d H:i:s')];
        if (DB::table('report_runs')->insertOrIgnore([$key]) === 0) {
            return null;
        }
        $person = Person::query()->find($id);
        if ($person === null || ! $person->active) {
            $words = 'not sent: '.($person === null ? 'the person is gone' : "$person->name may not sign in any more");
            DB::table('report_runs')->where($key)->update(['state' => ReportState::Failed, 'words' => $words, 'done_at' => now()]);

            return $words;
        }
        try {
            [$body, $count] = self::body(ReportTable::of($report, Reach::of($person)));
            $state = $count === 0 ? ReportState::Empty : ReportState::Done;
            $words = $count === 0 ? "nothing is in it for $person->name" : number_format($count)." rows for $person->name";
            DB::table('report_runs')->where($key)
                ->update(['state' => $state, 'count' => $count, 'words' => $words, 'body' => $body, 'done_at' => now()]);
        } catch (\Throwable $e) {
            report($e);
            $words = 'it failed; the log of the application says why';
            DB::table('report_runs')->where($key)->update(['state' => ReportState::Failed, 'words' => $words, 'done_at' => now()]);
        }

        return $words;
    }

    /** @return array{string, int} packed CSV and its rows */
    private static function body(ReportTable $table): array
    {
        $file = fopen('php://temp/maxmemory:2000000', 'w+');
        if ($file === false) {
            throw new \RuntimeException('no room for a file');
        }
        $count = 0;
        foreach (self::lines($table) as $line) {
            if (ftell($file) > self::MOST) {
                throw new \LengthException('the report is too large to be sent');
            }
            fwrite($file, $line);
            $count++;
        }
        rewind($file);

        return [(string) gzencode((string) stream_get_contents($file)), $count - 1];
    }

    /** @return \Generator<int, string> lines of CSV, the heads first */
    public static function lines(ReportTable $table): \Generator
    {
        yield Csv::line(array_map(static fn ($f): string => $f->label, array_values($table->columns)));
        foreach ($table->rows() as $row) {
            yield Csv::line(array_values($row['cells']));
        }
    }
}
