<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Engine\Acts;
use App\Acts\Plan\CarvePrefix;
use App\Models\Space;
use Illuminate\Support\Facades\DB;

/** Sixteen processes take next-free addresses in one subnet, and in sixteen. */
final readonly class TakeBench
{
    private const TAKERS = 16;

    private const EACH = 20;

    /** @param  \Closure(string, string, string, ?bool): void  $row */
    public function __construct(private \Closure $row)
    {
    }

    public function run(): void
    {
        $acts = app(Acts::class);
        $space = Space::query()->orderBy('id')->first();
        if ($space === null) {
            return;
        }
        $subnets = [];
        $base = 172 << 24 | 16 << 16 | random_int(0, 15) << 16;
        for ($i = 0; $i <= self::TAKERS; $i++) {
            $act = CarvePrefix::fromInput(['space' => $space->id, 'prefix' => long2ip($base + $i * 1024).'/22']);
            $acts->commit(null, [$act]);
            $subnets[] = $act->id;
        }
        $apart = $this->race(array_slice($subnets, 1));
        $together = $this->race(array_fill(0, self::TAKERS, $subnets[0]));
        $twice = DB::table('addresses')->where('prefix_id', $subnets[0])->count() - DB::table('addresses')
            ->where('prefix_id', $subnets[0])->distinct()->count('address');
        ($this->row)(
            'sixteen takers in one subnet',
            sprintf('%.0f %% of what they reach in sixteen (%.0f a second; %d twice)', 100 * $together / $apart, $together, $twice),
            '≥ 80 %, none twice',
            $together / $apart >= 0.8 && $twice === 0,
        );
    }

    /** @param  list<string>  $subnets  one a taker
     * @return float addresses a second, from the first start to the last end
     */
    private function race(array $subnets): float
    {
        $go = (string) tempnam(sys_get_temp_dir(), 'go');
        unlink($go);
        $running = $pipes = [];
        foreach ($subnets as $i => $subnet) {
            $running[$i] = proc_open(
                [PHP_BINARY, base_path('launcher/console.php'), 'bench:take', $subnet, (string) self::EACH, $go],
                [1 => ['pipe', 'w']],
                $pipes[$i],
            );
        }
        foreach ($pipes as $pipe) {
            fgets($pipe[1]);
        }
        $start = microtime(true);
        touch($go);
        $taken = 0;
        foreach ($running as $i => $process) {
            $taken += (int) stream_get_contents($pipes[$i][1]);
            $process === false || proc_close($process);
        }
        $seconds = microtime(true) - $start;
        @unlink($go);

        return $taken / $seconds;
    }
}
