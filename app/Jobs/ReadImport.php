<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Actions\Acts;
use App\Actions\Imports\MarkImport;
use App\Actions\Imports\StageRows;
use App\Models\Import;
use App\Models\Zone;
use App\Queries\JsonPlan;
use App\Queries\PlanFile;
use App\Queries\PlanJudge;
use App\Queries\ZoneJudge;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;

/** Reads a file chunk by chunk into the staging table and judges it. Run again after a crash, it goes on where it stopped. */
final class ReadImport implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    private const CHUNK = 1000;

    public int $timeout = 3600;

    public function __construct(public readonly string $import)
    {
    }

    public function handle(Acts $acts): void
    {
        $import = Import::query()->find($this->import);
        if ($import === null || $import->state !== 'reading') {
            return;
        }
        try {
            $done = $import->kind === 'plan' ? $this->plan($acts, $import) : $this->zone($acts, $import);
            if ($done) {
                $import->kind === 'plan' ? (new PlanJudge($acts))->judge($import) : (new ZoneJudge($acts))->judge($import);
                $acts->commit(null, [new MarkImport($import->id, 'judged')]);
            }
        } catch (\DomainException $e) {
            $acts->commit(null, [new MarkImport($import->id, 'failed', $e->getMessage())]);
        }
    }

    private function plan(Acts $acts, Import $import): bool
    {
        if ($import->bytes_read === 0 && is_file($import->path) && JsonPlan::is($import->path)) {
            JsonPlan::toCsv($import->path);
        }
        $file = fopen($import->path, 'r') ?: throw new \DomainException('The file is gone.');
        $header = array_map(fn (?string $c): string => strtolower(trim((string) $c, " \t\u{FEFF}")), fgetcsv($file, escape: '') ?: []);
        if (! in_array('prefix', $header, true) && ! in_array('address', $header, true)) {
            throw new \DomainException('The first line names the columns and needs "prefix" or "address"; found: '.mb_strimwidth(implode(', ', $header), 0, 120, '…'));
        }
        $unknown = array_diff(array_filter($header), PlanFile::COLUMNS);
        if ($unknown !== []) {
            throw new \DomainException('Unknown columns: '.implode(', ', $unknown).'. Known are '.implode(', ', PlanFile::COLUMNS).'.');
        }
        $import->bytes_read > 0 && fseek($file, $import->bytes_read);
        $reader = new PlanFile;
        $line = max(1, $import->lines);
        $rows = [];
        while (($cells = fgetcsv($file, escape: '')) !== false) {
            $line++;
            if ($cells === [null] || implode('', $cells) === '') {
                continue;
            }
            $rows[] = count($cells) > count($header)
                ? ['line' => $line, 'verdict' => 'refused', 'what' => mb_strimwidth(implode(',', $cells), 0, 200, '…'), 'reason' => sprintf('%d cells, the header has %d', count($cells), count($header)), 'payload' => []]
                : $reader->read($line, array_map(fn (?string $c): string => trim(mb_scrub((string) $c, 'UTF-8')), array_combine($header, array_pad($cells, count($header), ''))));
            if (count($rows) >= self::CHUNK) {
                $acts->commit(null, [new StageRows($import->id, $rows, (int) ftell($file), $line)]);
                $rows = [];
                if (Import::query()->whereKey($import->id)->value('state') !== 'reading') {
                    return false;
                }
            }
        }
        $acts->commit(null, [new StageRows($import->id, $rows, $import->bytes, $line)]);

        return true;
    }

    private function zone(Acts $acts, Import $import): bool
    {
        $zone = Zone::query()->findOrFail($import->target_id);
        $resume = $import->lines;
        $rows = [];
        $bytes = 0;
        foreach (ZoneJudge::rows($zone, $import->path, $bytes) as $row) {
            // The reader's state (origin, TTL, owner) comes from the lines before, so they are read again, and not staged again.
            if ($row['line'] <= $resume) {
                continue;
            }
            if (count($rows) >= self::CHUNK && $rows[count($rows) - 1]['line'] < $row['line']) {
                $acts->commit(null, [new StageRows($import->id, $rows, min($bytes, $import->bytes), $rows[count($rows) - 1]['line'])]);
                $rows = [];
                if (Import::query()->whereKey($import->id)->value('state') !== 'reading') {
                    return false;
                }
            }
            $rows[] = $row;
        }
        $acts->commit(null, [new StageRows($import->id, $rows, $import->bytes, $rows === [] ? $resume : $rows[count($rows) - 1]['line'])]);

        return true;
    }
}
