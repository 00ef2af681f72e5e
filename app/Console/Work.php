<?php

declare(strict_types=1);

namespace App\Console;

use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** The one worker of a queue: what an earlier one was ended over is taken up again at once. */
final class Work extends Command
{
    protected $signature = 'work {queue=default}';

    protected $description = 'Carries out the jobs of one queue, as its only worker';

    public function handle(): int
    {
        $queue = (string) $this->argument('queue');
        DB::table('jobs')->where('queue', $queue)->update(['reserved_at' => null]);

        return $this->call(
            'queue:work',
            ['--queue' => $queue, '--sleep' => 1, '--tries' => 3, '--timeout' => 3600, '--memory' => 512, '--max-time' => 3600],
        );
    }
}
