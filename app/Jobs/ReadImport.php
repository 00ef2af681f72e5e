<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\StageRows;
use App\Imports\ImportFile;
use App\Imports\JsonPlan;
use App\Imports\PlanFile;
use App\Imports\PlanJudge;
use App\Imports\PlanTable;
use App\Imports\TextFile;
use App\Imports\ZoneJudge;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Zone;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;
use Illuminate\Support\Facades\DB;

/** Reads a file chunk by chunk into the staging table and judges it. Run again after a crash, it goes on where it stopped. */
final class ReadImport implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    private const CHUNK = 1000;

    public int $timeout = 3600;

    public int $tries = 5;

    public function __construct(public readonly string $import)
    {
    }

    public function handle(Acts $acts): void
    {
        $import = Import::query()->find($this->import);
        if ($import === null || $import->state !== ImportState::Reading) {
            return;
        }
        try {
            $done = $import->kind === 'plan' ? $this->plan($acts, $import) : $this->zone($acts, $import);
            if ($done) {
                $import->kind === 'plan' ? (new PlanJudge($acts))->judge($import) : (new ZoneJudge($acts))->judge($import);
                $acts->commit(null, [new MarkImport($import->id, ImportState::Judged)]);
            }
        } catch (\DomainException $e) {
            $acts->commit(null, [new MarkImport($import->id, ImportState::Failed, $e->getMessage())]);
        }
    }

    /** After the last try: said on the page of the import, which can be cancelled. */
    public function failed(?\Throwable $e): void
    {
        app(Acts::class)->commit(
            null,
            [
                new MarkImport(
                    $this->import,
                    ImportState::Failed,
                    'Reading stopped: '.($e?->getMessage() ?? 'the worker was ended too often').'. Nothing was written.',
                ),
            ],
        );
    }

    private function plan(Acts $acts, Import $import): bool
    {
        if ($import->edition === 0) {
            ImportFile::rewrite($import, static function (string $path) use ($import): void {
                if (JsonPlan::is($path)) {
                    JsonPlan::toCsv($path);
                }
                $text = TextFile::recognise($path);
                $text->makeUtf8($path);
                DB::table('imports')->where('id', $import->id)->update(['format' => $text->words()]);
            });
        }
        $table = PlanTable::open(ImportFile::path($import), $import->mapping ?? []);
        if ($table->unknown !== [] || ! $table->isUsable()) {
            $acts->commit(null, [new MarkImport($import->id, ImportState::Headings, $table->trouble())]);

            return false;
        }
        $reader = new PlanFile;
        $rows = [];
        foreach ($table->rows($import->bytes_read, max(1, $import->lines)) as [$line, $at, $cells]) {
            $rows[] = $cells === null ? PlanFile::refused($line, $table->lastCells(), $table->tooMany()) : $reader->read($line, $cells);
            if (count($rows) >= self::CHUNK) {
                if ($acts->commit(null, [new StageRows($import->id, $rows, $at, $line)])->blocked()) {
                    return false;
                }
                $rows = [];
            }
        }

        return ! $acts->commit(null, [new StageRows($import->id, $rows, $import->bytes, $table->line)])->blocked();
    }

    private function zone(Acts $acts, Import $import): bool
    {
        $zone = Zone::query()->findOrFail($import->target_id);
        $resume = $import->lines;
        $rows = [];
        $bytes = 0;
        foreach (ZoneJudge::rows($zone, ImportFile::path($import), $bytes) as $row) {
            // The reader's state (origin, TTL, owner) comes from the lines before, so they are read again, and not staged again.
            if ($row['line'] <= $resume) {
                continue;
            }
            if (count($rows) >= self::CHUNK && $rows[count($rows) - 1]['line'] < $row['line']) {
                $rows = ZoneJudge::atOnce($zone, $rows);
                if (
                    $acts
                        ->commit(null, [new StageRows($import->id, $rows, min($bytes, $import->bytes), $rows[count($rows) - 1]['line'])])
                        ->blocked()
                ) {
                    return false;
                }
                $rows = [];
            }
            $rows[] = $row;
        }

        $rows = ZoneJudge::atOnce($zone, $rows);

        return ! $acts
            ->commit(null, [new StageRows($import->id, $rows, $import->bytes, $rows === [] ? $resume : $rows[count($rows) - 1]['line'])])
            ->blocked();
    }
}
