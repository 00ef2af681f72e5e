<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Name\KeepSweep;
use App\Models\RunState;
use App\Models\Sweep;
use App\Queries\NameSweep;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Queue\InteractsWithQueue;

/** Compares forward and reverse stretch by stretch; run again after a crash, it goes on where it stopped. */
final class RunSweep implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    public int $timeout = 7200;

    public function __construct(public readonly string $sweep)
    {
    }

    public function handle(Acts $acts): void
    {
        $sweep = Sweep::query()->find($this->sweep);
        if ($sweep === null || ! $sweep->isRunning()) {
            return;
        }
        $names = new NameSweep;
        $cursor = (string) $sweep->getAttribute('cursor');
        do {
            ['findings' => $findings, 'count' => $count, 'cursor' => $cursor] = $names->step($cursor);
            if (
                $acts
                    ->commit(null, [
                        new KeepSweep(
                            $this->sweep, $cursor === '' ? RunState::Done : RunState::Running, $count, $cursor, $findings,
                        ),
                    ])
                    ->blocked()
            ) {
                return; // Cancelled meanwhile.
            }
        } while ($cursor !== '');
    }

    public function failed(\Throwable $e): void
    {
        app(Acts::class)->commit(null, [
            new KeepSweep($this->sweep, RunState::Failed, message: mb_strimwidth($e->getMessage(), 0, 250, '…')),
        ]);
    }
}
