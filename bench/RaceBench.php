<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Directory\MakePerson;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeReservation;
use App\Acts\Lease\MakeScope;
use App\Acts\Name\AddRecord;
use App\Acts\Name\GrantName;
use App\Acts\Name\MakeZone;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\HoldRun;
use App\Models\Prefix;
use App\Models\Reservation;
use App\Models\Space;
use App\Models\View;
use App\Queries\Invariants;
use Illuminate\Support\Facades\DB;

/**
 * Many at once on the same rows: who loses is told, and what holds over several rows holds. Eight processes save one version after the
 * other of one row; twelve meet in rounds at the same names, runs, addresses, rights and drafts.
 */
final class RaceBench
{
    private const SAVERS = 8;

    private const SAVES = 1000;

    private const CLIENTS = 12;

    private const ROUNDS = 200;

    /** Jobs that meet at once. */
    private const OF_A_ROUND = 7;

    private string $mark;

    /** @param  \Closure(string, string, string, ?bool): void  $row */
    public function __construct(private readonly \Closure $row)
    {
        $this->mark = bin2hex(random_bytes(3));
    }

    public function run(): void
    {
        $this->versions(Ground::space());
        $this->rules(Ground::space(), Ground::view());
        $broken = array_filter(array_map(static fn (array $b): int => $b['count'], iterator_to_array(Invariants::all())));
        ($this->row)(
            'the whole database afterwards',
            $broken === [] ? 'sound' : implode(', ', array_keys($broken)),
            'sound',
            $broken === [],
        );
    }

    private function versions(Space $space): void
    {
        $carve = CarvePrefix::fromInput(['space' => $space->id, 'prefix' => '172.'.random_int(16, 31).'.'.random_int(0, 255).'.0/24']);
        Ground::did($carve);
        $before = Prefix::query()->findOrFail($carve->id)->version;
        $said = $this->race(self::SAVERS, fn (int $i): array => array_fill(0, self::SAVES, ['save', $carve->id, $i]), 0);
        $done = array_sum(array_column($said, 'done'));
        $blocked = array_sum(array_column($said, 'blocked'));
        $raised = Prefix::query()->findOrFail($carve->id)->version - $before;
        $history = DB::table('history')->where('object_id', $carve->id)->where('action', ChangePrefix::key())->count();
        $silent = self::SAVERS * self::SAVES - $done - $blocked;
        ($this->row)(
            self::SAVERS.' savers of one row, '.self::SAVES.' times each',
            "$done written, $blocked told that they lost, $silent unanswered; the version rose by $raised, history has $history",
            'all the same, none unanswered', $done === $raised && $done === $history && $silent === 0,
        );
    }

    private function rules(Space $space, View $view): void
    {
        $subnet = CarvePrefix::fromInput(['space' => $space->id, 'prefix' => '10.'.random_int(200, 250).'.0.0/18']);
        $zone = MakeZone::fromInput(['name' => "race-$this->mark.example", 'view' => $view->id, 'servers' => [Ground::server()]]);
        $person = MakePerson::fromInput([
            'signIn' => "race-$this->mark", 'name' => 'Race', 'password' => bin2hex(random_bytes(12)),
            'roles' => ['planner', 'operator'],
        ]);
        array_map(Ground::did(...), [$subnet, $zone, $person]);
        $scope = MakeScope::fromInput([
            'prefix' => $subnet->id, 'name' => "Race $this->mark", 'dns' => '192.0.2.53', 'domain' => 'race.example',
        ]);
        Ground::did($scope);
        $net = explode('.', (string) Prefix::query()->findOrFail($subnet->id)->prefix());
        for ($i = 0; $i < self::CLIENTS; $i++) {
            Ground::did(new AddReservation($scope->id, "$net[0].$net[1].63.".(200 + $i), sprintf('02:00:5e:ff:ff:%02x', $i)));
        }
        $movable = Reservation::query()->where('scope_id', $scope->id)->orderBy('address')->pluck('id')->all();
        $jobs = function (int $i) use ($subnet, $zone, $person, $scope, $net, $movable): array {
            $jobs = [];
            for ($r = 0; $r < self::ROUNDS; $r++) {
                $at = static fn (int $n): string => "$net[0].$net[1].".($r >> 2).'.'.(($r & 3) * 64 + $n);
                $jobs[] = [
                    'act',
                    AddRecord::class,
                    [
                        'zone' => $zone->id, 'name' => "alias-$r", 'type' => $i % 2 ? 'CNAME' : 'A',
                        'data' => $i % 2 ? "to-$i" : "192.0.2.$i",
                    ],
                ];
                $jobs[] = [
                    'act',
                    AddRecord::class,
                    ['zone' => $zone->id, 'name' => "set-$r", 'type' => 'A', 'ttl' => (string) (60 + $i), 'data' => "192.0.2.$i"],
                ];
                $jobs[] = ['act', HoldRun::class, ['prefix' => $subnet->id, 'range' => $at(2 + $i).'-'.$at(20 + $i), 'why' => 'race']];
                $jobs[] = [
                    'act',
                    AddReservation::class,
                    ['scope' => $scope->id, 'address' => $at(50), 'mac' => sprintf('02:00:5e:%02x:%02x:%02x', $r >> 8, $r & 255, $i)],
                ];
                // Moved where another one is just added, and others move to.
                $jobs[] = ['act', ChangeReservation::class, ['reservation' => $movable[$i], 'address' => $at(50 + $i % 2)]];
                $jobs[] = ['act', GrantName::class, ['zone' => $zone->id, 'person' => $person->id, 'name' => "right-$r"]];
                $jobs[] = ['draft', $person->id, ['prefix' => $subnet->id]];
            }

            return $jobs;
        };
        $said = $this->race(self::CLIENTS, $jobs, self::OF_A_ROUND);
        $owner = fn (string $stem): \Illuminate\Database\Query\Builder => DB::table('records')
            ->where('zone_id', $zone->id)->where('owner', 'like', "$stem-%");
        $broken = [
            'an alias beside data' => count($owner('alias')->groupBy('owner')->havingRaw('SUM(type = 5) > 0 AND COUNT(*) > 1')
                ->get(['owner'])->all()),
            'two TTLs in a set' => count($owner('set')->groupBy('owner')->havingRaw('COUNT(DISTINCT COALESCE(ttl, 0)) > 1')
                ->get(['owner'])->all()),
            'runs that overlap' => DB::table('held_runs as a')
                ->join('held_runs as b', 'a.prefix_id', '=', 'b.prefix_id')->where('a.prefix_id', $subnet->id)
                ->whereColumn('a.id', '<', 'b.id')->whereColumn('a.first', '<=', 'b.last')->whereColumn('b.first', '<=', 'a.last')->count(),
            'two clients of an address' => count(DB::table('reservations')->where('scope_id', $scope->id)->groupBy('address')
                ->havingRaw('COUNT(*) > 1')->get(['address'])->all()),
            'a right given twice' => count(DB::table('name_grants')->where('zone_id', $zone->id)->groupBy('owner')
                ->havingRaw('COUNT(*) > 1')->get(['owner'])->all()),
            'two drafts that edits of one person go to' => max(
                0,
                DB::table('draft_hands')->where('person_id', $person->id)->where('current', true)->count() - 1,
            ),
        ];
        $asked = self::CLIENTS * self::ROUNDS * self::OF_A_ROUND;
        $answered = array_sum(array_column($said, 'done')) + array_sum(array_column($said, 'blocked'));
        foreach ($broken as $rule => $times) {
            ($this->row)(self::CLIENTS.' clients, '.self::ROUNDS." rounds: $rule", "$times times", 'never', $times === 0);
        }
        ($this->row)(
            'what they asked',
            array_sum(array_column($said, 'done'))
                .' written, '
                .array_sum(array_column($said, 'blocked'))
                .' refused, '
                .($asked - $answered)
                .' unanswered',
            'none unanswered',
            $asked === $answered,
        );
    }

    /**
     * Each process writes to another node where there are several: by settings of its own, past those that were cached.
     *
     * @return array<string, string>
     */
    private static function node(int $process): array
    {
        $ports = array_values(array_filter(explode(',', (string) getenv('HARBOR_RACE_PORTS'))));

        return $ports === [] ? [] : [
            'DB_PORT' => $ports[$process % count($ports)], 'DB_READ_PORT' => '', 'APP_CONFIG_CACHE' => storage_path('no-config.php'),
        ];
    }

    /**
     * @param  \Closure(int): list<array<mixed>>  $jobs  of one process
     * @param  int  $round  jobs that make a round, before which all wait for the same moment; 0 for none
     * @return list<array{done: int, blocked: int}>
     */
    private function race(int $processes, \Closure $jobs, int $round): array
    {
        $go = (string) tempnam(sys_get_temp_dir(), 'go');
        unlink($go);
        $running = $pipes = $lists = [];
        for ($i = 0; $i < $processes; $i++) {
            $lists[$i] = (string) tempnam(sys_get_temp_dir(), 'jobs');
            file_put_contents($lists[$i], json_encode($jobs($i), JSON_THROW_ON_ERROR));
            $running[$i] = proc_open(
                [PHP_BINARY, base_path('launcher/console.php'), 'bench:race', $lists[$i], (string) $round, $go],
                [1 => ['pipe', 'w']],
                $pipes[$i],
                base_path(),
                self::node($i) + getenv(),
            );
        }
        foreach ($pipes as $pipe) {
            fgets($pipe[1]);
        }
        file_put_contents($go, (string) (microtime(true) + 0.2));
        $said = [];
        foreach ($running as $i => $process) {
            $answer = json_decode((string) stream_get_contents($pipes[$i][1]), true);
            $said[] = ['done' => (int) ($answer['done'] ?? 0), 'blocked' => (int) ($answer['blocked'] ?? 0)];
            $process === false || proc_close($process);
            unlink($lists[$i]);
        }
        @unlink($go);

        return $said;
    }
}
