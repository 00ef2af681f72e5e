<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\Duty;
use App\Domain\Watch\Machines;
use App\Domain\Watch\RequestTimes;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/**
 * One worker a queue, and one clock, on all machines together: whoever has the duty starts the worker, watches over it and says that it is
 * there; the others wait to take over. What an earlier one was ended over is taken up again at once.
 */
final class Work extends Command
{
    /** What is due by itself, rather than a queue. */
    private const CLOCKWORK = 'clockwork';

    /** Seconds between two words that it is still there, and for which a worker may go on before it is ended. */
    private const BEAT = 3;

    private const PATIENCE = 4;

    protected $signature = 'work {what=default : a queue, or clockwork}';

    protected $description = 'Carries out the jobs of one queue, or what is due by itself, as the only one on all machines';

    /** Seconds after which a worker counts as staying. */
    private const STAYS = 10;

    private bool $over = false;

    private int $pause = 1;

    public function handle(): int
    {
        pcntl_async_signals(true);
        foreach ([SIGTERM, SIGINT, SIGHUP] as $signal) {
            pcntl_signal($signal, function (): void {
                $this->over = true;
            });
        }
        $duty = new Duty((string) $this->argument('what'), Machines::here());
        while (! $this->over) {
            $duty->name === self::CLOCKWORK && $this->beat();
            if (! $duty->take()) {
                sleep(self::BEAT);

                continue;
            }
            $this->watch($duty);
        }
        $duty->leave();

        return 0;
    }

    /** Until the worker ends, or the duty is not ours any more. */
    private function watch(Duty $duty): void
    {
        rescue(fn () => $this->freed($duty), report: false);
        $worker = $this->start($duty);
        $beat = 0;
        $begun = hrtime(true) / 1e9;
        while (pcntl_waitpid($worker, $status, WNOHANG) === 0) {
            usleep(100_000);
            if (hrtime(true) / 1e9 - $beat >= self::BEAT) {
                $beat = hrtime(true) / 1e9;
                $duty->take();
                $duty->name === self::CLOCKWORK && $this->beat();
            }
            if ($this->over || ! $duty->holds()) {
                self::end($worker);

                return;
            }
        }
        // One that ends at once is not started again and again; meanwhile another machine may try.
        $this->pause = hrtime(true) / 1e9 - $begun < self::STAYS ? min(60, 2 * $this->pause) : 1;
        $this->over || sleep($this->pause);
    }

    /** Each machine says that it is there, whoever has the clockwork, and counts its own requests. */
    private function beat(): void
    {
        Machines::beat();
        rescue(static fn (): int => RequestTimes::fold(config('logging.requests')), report: false);
    }

    private function freed(Duty $duty): void
    {
        $duty->name === self::CLOCKWORK
            ? $this->callSilently('schedule:clear-cache')
            : DB::table('jobs')->where('queue', $duty->name)->update(['reserved_at' => null]);
    }

    /** A process of its own, which the kernel ends should this one be killed. */
    private function start(Duty $duty): int
    {
        $command = $duty->name === self::CLOCKWORK ? ['schedule:work'] : [
            'queue:work', "--queue=$duty->name", '--sleep=1', '--tries=3', '--timeout=3600', '--memory=512', '--max-time=3600',
        ];
        DB::disconnect();
        $worker = pcntl_fork();
        if ($worker !== 0) {
            return $worker > 0 ? $worker : throw new \RuntimeException('The machine gives no further process.');
        }
        foreach ([SIGTERM, SIGINT, SIGHUP] as $signal) {
            pcntl_signal($signal, SIG_DFL);
        }
        pcntl_exec('/usr/bin/setpriv', [
            '--pdeathsig', 'KILL', PHP_BINARY, '-d', 'memory_limit=1G', base_path('artisan'), ...$command,
        ]);
        exit(1);
    }

    private static function end(int $worker): void
    {
        posix_kill($worker, SIGTERM);
        for ($until = microtime(true) + self::PATIENCE; microtime(true) < $until; usleep(50_000)) {
            if (pcntl_waitpid($worker, $status, WNOHANG) !== 0) {
                return;
            }
        }
        posix_kill($worker, SIGKILL);
        pcntl_waitpid($worker, $status);
    }
}
