<?php

declare(strict_types=1);

namespace App\Bench;

use App\Models\Person;
use App\Models\Prefix;
use App\Models\Zone;
use App\Queries\NameSweep;
use App\Queries\OpenBlocks;
use HarborPost\Core\Planning\Fit;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;

/** Server time of pages against an empty page of the same application, as the web server answers them, the median of several. */
final readonly class PageBench
{
    private Browser $browser;

    private const RUNS = 15;

    /**
     * @param  \Closure(string, string, string, ?bool): void  $row
     * @param  \Closure(string): void  $say
     */
    public function __construct(private \Closure $row, private \Closure $say)
    {
        $this->browser = new Browser((string) config('app.url'));
    }

    public function run(): void
    {
        $person = Person::query()->where('sign_in', 'bench')->first();
        if ($person === null) {
            ($this->say)('nothing is filled: run with --fill first');

            return;
        }
        $this->browser->signIn('bench', 'bench-password');
        $top = Prefix::query()->where('name', 'Bench')->firstOrFail();
        $full = Prefix::query()->where('name', 'Link 7')->firstOrFail();
        $zone = Zone::query()->where('name', 'bench.example.')->firstOrFail();
        [$floor] = $this->page($person, '/ship/draft');
        ($this->row)('an empty page', sprintf('%.1f ms', $floor), '', null);
        foreach (
            [
                'the Plan page, 100,000 children' => "/plan/prefix/$top->id", 'zoomed in' => "/plan/prefix/$top->id?zoom=10.3.0.0/17",
                'filtered, lit on the ruler' => "/plan/prefix/$top->id?filter=Link+77", 'a full subnet' => "/plan/prefix/$full->id",
                'its evidence' => "/plan/prefix/$full->id?show=evidence", 'the VLAN sheet' => '/directory/vlans',
                'the calculator' => '/plan/calculator?p=10.0.7.0/24', 'a zone page, 1,000,000 records' => "/name/zone/$zone->id",
                'the zone, filtered' => "/name/zone/$zone->id?filter=host77", 'find a name' => '/find?q=host77',
                'find an address' => '/find?q=10.0.7.9', 'find a MAC' => '/find?q=02:00:00:00:12:34', 'all zones' => '/name',
                'reverse zones' => '/name/reverse', 'views' => '/name/views', 'resolvers' => '/name/resolvers',
            ] as $what => $path
        ) {
            [$time, $queries, $memory] = $this->page($person, $path);
            ($this->row)(
                $what,
                sprintf('%.1f × (%.1f ms, %d queries, %.1f MB)', $time / $floor, $time, $queries, $memory),
                '≤ 3 ×',
                $time / $floor <= 3,
            );
        }
        $read = self::median(fn () => DB::table('prefixes')->where('id', $full->id)->first());
        $next = self::median(fn () => OpenBlocks::next($top, 24, Fit::Best));
        ($this->row)(
            'next open /24 among 100,000 children',
            sprintf('%.1f × one indexed read (%.2f ms)', $next / $read, $next),
            '≤ 10 ×',
            $next / $read <= 10,
        );
        $this->sweep();
        $this->explain($top, $full, $zone);
    }

    /** Forward against reverse, a hundred thousand records of it. */
    private function sweep(): void
    {
        $names = new NameSweep;
        $cursor = '';
        $looked = 0;
        $start = microtime(true);
        for ($i = 0; $i < 25 && ($i === 0 || $cursor !== ''); $i++) {
            ['count' => $count, 'cursor' => $cursor] = $names->step($cursor);
            $looked += $count;
        }
        $minutes = (microtime(true) - $start) / max(1, $looked) * 1_000_000 / 60;
        ($this->row)(
            'forward against reverse, 1,000,000 records',
            sprintf('%.1f minutes, from %s records', $minutes, number_format($looked)),
            'minutes',
            $minutes < 10,
        );
    }

    /** @return array{float, int, float} milliseconds as the web server answers, queries, megabytes */
    private function page(Person $person, string $path): array
    {
        $kernel = app(Kernel::class);
        $ask = function () use ($kernel, $person, $path): void {
            Auth::setUser($person);
            $response = $kernel->handle(Request::create($path));
            if ($response->getStatusCode() !== 200) {
                throw new \RuntimeException("$path answers {$response->getStatusCode()}");
            }
        };
        $ask();
        DB::flushQueryLog();
        DB::enableQueryLog();
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $ask();
        $memory = (memory_get_peak_usage() - $before) / 1048576;
        $log = DB::getQueryLog();
        $queries = count($log);
        foreach ($log as $query) {
            $query['time'] > 10 ? ($this->say)(sprintf('  %.0f ms: %s', $query['time'], substr($query['query'], 0, 160))) : null;
        }
        ($this->say)(sprintf('  %s: %.1f ms of it in queries', $path, array_sum(array_column($log, 'time'))));
        DB::disableQueryLog();

        return [self::median(fn (): string => $this->browser->get($path)), $queries, $memory];
    }

    private static function median(\Closure $work): float
    {
        $times = [];
        for ($i = 0; $i < self::RUNS; $i++) {
            $start = microtime(true);
            $work();
            $times[] = (microtime(true) - $start) * 1000;
        }
        sort($times);

        return $times[intdiv(self::RUNS, 2)];
    }

    /** The plans of the main queries: none may read a table as a whole. */
    private function explain(Prefix $top, Prefix $full, Zone $zone): void
    {
        $queries = [
            'children' => [
                'select * from prefixes where parent_id = ? and family = 4 and first between ? and ? order by first, length limit 101',
                [$top->id, $top->first->bytes, $top->prefix()->last()->bytes],
            ],
            'hosts' => ['select * from addresses where prefix_id = ? order by address limit 101', [$full->id]],
            'records' => ['select * from records where zone_id = ? order by owner_key, type, data_hash limit 151', [$zone->id]],
            'names' => ['select * from addresses where name like ? order by name limit 50', ['host77%']],
            'record names' => ['select * from records where owner like ? order by owner limit 50', ['host77%']],
            'MAC' => ['select * from addresses where mac = ?', ["\x02\0\0\0\x12\x34"]],
            'open' => ['select length, min(first) from open_blocks where parent_id = ? and length <= 24 group by length', [$top->id]],
        ];
        foreach ($queries as $what => [$sql, $bindings]) {
            $plan = DB::selectOne("explain $sql", $bindings);
            ($this->row)(
                "plan of: $what",
                "$plan->type by ".($plan->key ?? 'nothing').", about $plan->rows rows",
                'no whole table',
                $plan->type !== 'ALL',
            );
        }
    }
}
