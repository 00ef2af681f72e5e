<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Drafts\KeepEdit;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Person;
use App\Models\Prefix;
use Illuminate\Console\Command;

final class BenchRace extends Command
{
    /** Time for one round, in seconds: all that take part begin it together. */
    private const ROUND = 0.12;

    protected $signature = 'bench:race {jobs : a file} {round : jobs of a round, 0 for none} {go : a file that starts it}';

    protected $description = 'Does what it is told as fast as it can, one of many processes of the bench';

    protected $hidden = true;

    public function handle(Acts $acts): int
    {
        [$file, $go] = [self::text($this->argument('jobs')), self::text($this->argument('go'))];
        $jobs = (array) json_decode((string) file_get_contents($file), true);
        $round = (int) $this->argument('round');
        Prefix::query()->first();
        fwrite(STDOUT, "ready\n");
        for ($i = 0; $i < 6000 && ! is_file($go); $i++) {
            usleep(2000);
            clearstatcache();
        }
        $begin = (float) file_get_contents($go);
        $said = ['done' => 0, 'blocked' => 0];
        foreach ($jobs as $n => $job) {
            if ($round > 0 && $n % $round === 0) {
                usleep(max(0, (int) (1e6 * ($begin + self::ROUND * intdiv($n, $round) - microtime(true)))));
            }
            $said[$this->did($acts, $job) ? 'done' : 'blocked']++;
        }
        fwrite(STDOUT, json_encode($said, JSON_THROW_ON_ERROR)."\n");

        return 0;
    }

    private static function text(mixed $argument): string
    {
        return is_string($argument) ? $argument : '';
    }

    /** @param  array<mixed>  $job */
    private function did(Acts $acts, array $job): bool
    {
        if ($job[0] === 'save') {
            $version = Prefix::query()->findOrFail((string) $job[1])->version;
            $act = new ChangePrefix([$job[1]], description: "$job[2] ".bin2hex(random_bytes(4)));

            return $acts->commit(null, [$act], [["prefix:$job[1]" => $version]])->committed;
        }
        if ($job[0] === 'draft') {
            $edit = PlaceHost::fromInput($job[2]);

            return $acts->commit(
                Person::query()->findOrFail((string) $job[1]),
                [new KeepEdit($edit::key(), $edit->toInput(), [], [], $edit->title())],
            )->committed;
        }
        /** @var class-string<Act> $class */
        $class = $job[1];

        return $acts->commit(null, [$class::fromInput($job[2])])->committed;
    }
}
