<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Engine\Acts;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\StartImport;
use App\Acts\Name\MakeZone;
use App\Imports\ImportFile;
use App\Imports\PlanFile;
use App\Imports\PlanTable;
use App\Imports\ZoneJudge;
use App\Jobs\ReadImport;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Zone;
use Illuminate\Support\Facades\DB;

/** Imports are read and judged against the database; the floor is the reading of the same file alone. */
final readonly class JudgeBench
{
    /** @param  \Closure(string, string, string, ?bool): void  $row */
    public function __construct(private \Closure $row)
    {
    }

    public function run(): void
    {
        $make = MakeZone::fromInput([
            'name' => 'judge-'.bin2hex(random_bytes(3)).'.example',
            'view' => Ground::view()->id,
            'servers' => [Ground::server()],
        ]);
        Ground::did($make);
        $zone = Zone::query()->findOrFail($make->id);
        foreach (['zone' => $zone->id, 'plan' => Ground::space()->id] as $kind => $target) {
            [$floor, $took, $small] = $this->judge($kind, $target, $zone, 100_000);
            ($this->row)(
                "judge 100,000 rows of a $kind file",
                sprintf('%.1f × reading it (%.1f s; reading %.2f s)', $took / $floor, $took, $floor),
                '≤ 10 ×',
                $took / $floor <= 10,
            );
            [$floor, $took, $large] = $this->judge($kind, $target, $zone, 1_000_000);
            ($this->row)(
                "judge 1,000,000 rows of a $kind file",
                sprintf('%.1f × reading it (%.0f s), %d MB where 100,000 took %d MB', $took / $floor, $took, $large >> 20, $small >> 20),
                'as much memory', $large < $small + (16 << 20),
            );
        }
    }

    /** @return array{float, float, int} seconds of reading, of reading and judging, and bytes that this took at most */
    private function judge(string $kind, string $target, Zone $zone, int $rows): array
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'judge');
        $kind === 'zone' ? $this->zoneFile($path, $rows) : $this->planFile($path, $rows);
        $start = microtime(true);
        foreach ($kind === 'zone' ? $this->zoneRows($zone, $path) : $this->planRows($path) as $row) {
            unset($row);
        }
        $floor = microtime(true) - $start;
        $import = StartImport::fromInput(['kind' => $kind, 'target' => $target, 'fileName' => "judge.$kind", 'path' => $path]);
        ImportFile::keep($import->id, $path);
        Ground::did($import);
        gc_collect_cycles();
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $start = microtime(true);
        (new ReadImport($import->id))->handle(app(Acts::class));
        $took = microtime(true) - $start;
        $peak = memory_get_peak_usage() - $before;
        $state = Import::query()->findOrFail($import->id);
        if ($state->state !== ImportState::Judged) {
            throw new \RuntimeException("The import is {$state->state->value}: $state->message");
        }
        Ground::did(new MarkImport($import->id, ImportState::Cancelled));
        DB::table('import_rows')->where('import_id', $import->id)->delete();
        @unlink($path);

        return [$floor, $took, $peak];
    }

    private function zoneFile(string $path, int $rows): void
    {
        $file = fopen($path, 'w') ?: throw new \RuntimeException("$path cannot be written");
        fwrite($file, "\$TTL 3600\n");
        for ($i = 0; $i < $rows; $i++) {
            fwrite($file, sprintf("host%d.b%d IN A 10.%d.%d.%d\n", $i, $i % 1000, $i >> 16 & 255, $i >> 8 & 255, $i & 255));
        }
        fclose($file);
    }

    private function planFile(string $path, int $rows): void
    {
        $file = fopen($path, 'w') ?: throw new \RuntimeException("$path cannot be written");
        fwrite($file, "kind,prefix,name,address,description\n");
        for ($i = 0; $i < $rows; $i++) {
            fwrite($file, $i % 100 === 0
                ? sprintf("subnet,%s/25,bench %d,,row %d\n", long2ip((11 << 24) + intdiv($i, 100) * 128), $i, $i)
                : sprintf(",,host-%d,%s,row %d\n", $i, long2ip((11 << 24) + intdiv($i, 100) * 128 + $i % 100 + 1), $i));
        }
        fclose($file);
    }

    /** @return \Generator<int, mixed> */
    private function zoneRows(Zone $zone, string $path): \Generator
    {
        $bytes = 0;
        yield from ZoneJudge::rows($zone, $path, $bytes);
    }

    /** @return \Generator<int, mixed> */
    private function planRows(string $path): \Generator
    {
        $table = PlanTable::open($path, []);
        $reader = new PlanFile;
        foreach ($table->rows(0, 1) as [$line, , $cells]) {
            yield $cells === null ? [] : $reader->read($line, $cells);
        }
    }
}
