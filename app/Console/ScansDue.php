<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Scan\StartScan;
use App\Jobs\RunScan;
use App\Models\ScanSchedule;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

final class ScansDue extends Command
{
    protected $signature = 'scans:due';

    protected $description = 'Starts the scheduled scans whose hour has come';

    public function handle(Acts $acts): int
    {
        foreach (ScanSchedule::query()->where('active', true)->where('hour', (int) now()->format('G'))->get() as $schedule) {
            $wait = $schedule->every === 'week' ? 7 : 1;
            if ($schedule->last_run_at !== null && $schedule->last_run_at->addDays($wait)->subHours(2)->isFuture()) {
                continue;
            }
            $id = (string) Str::ulid();
            $outcome = $acts->commit(
                null,
                [new StartScan($schedule->space_id, $schedule->prefixes, $id, $schedule->left_out, schedule: $schedule->id)],
            );
            if ($outcome->blocked()) {
                $this->error($outcome->block()->message ?? (string) $outcome->trouble);

                continue;
            }
            DB::table('scan_schedules')->where('id', $schedule->id)->update(['last_run_at' => now()]);
            RunScan::dispatch($id);
            $this->line("started $id");
        }

        return 0;
    }
}
