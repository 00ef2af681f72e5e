<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeToken;
use App\Acts\Engine\Acts;
use App\Acts\Name\MakeZone;
use App\Acts\Plan\CarvePrefix;
use App\Models\Host;
use App\Models\Person;
use App\Queries\Invariants;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** What the trial of several machines writes to, and what became of it afterwards. */
final class TrialGround extends Command
{
    private const SUBNETS = 4;

    protected $signature = 'bench:trial {--told= : a file with what was acknowledged, a JSON list of {name, address}}';

    protected $description = 'Makes what the trial of several machines writes to; afterwards, compares what was told with what is there';

    protected $hidden = true;

    public function handle(Acts $acts): int
    {
        $told = $this->option('told');
        $this->output->writeln((string) json_encode(is_string($told) ? $this->compared($told) : $this->made($acts), JSON_THROW_ON_ERROR));

        return 0;
    }

    /** @return array<string, mixed> */
    private function made(Acts $acts): array
    {
        $password = bin2hex(random_bytes(12));
        $person = MakePerson::fromInput([
            'signIn' => 'trial', 'name' => 'Trial', 'password' => $password, 'roles' => ['planner', 'operator'],
        ]);
        $zone = MakeZone::fromInput(['name' => 'trial.example', 'view' => Ground::view()->id, 'servers' => [Ground::server()]]);
        array_map(Ground::did(...), [$person, $zone]);
        $subnets = [];
        for ($i = 0; $i < self::SUBNETS; $i++) {
            $carve = CarvePrefix::fromInput(['space' => Ground::space()->id, 'prefix' => '10.250.'.(16 * $i).'.0/20']);
            Ground::did($carve);
            $subnets[] = $carve->id;
        }
        $outcome = $acts->commit(Person::query()->findOrFail($person->id), [MakeToken::fromInput(['name' => 'trial', 'writes' => true])]);

        return [
            'token' => $outcome->ledgers[0]->made['once'] ?? '', 'subnets' => $subnets, 'zone' => $zone->id, 'person' => 'trial',
            'password' => $password,
        ];
    }

    /** @return array<string, mixed> */
    private function compared(string $file): array
    {
        $lost = $other = $unwritten = 0;
        $told = (array) json_decode((string) file_get_contents($file), true);
        foreach (array_chunk($told, 1000) as $chunk) {
            $there = DB::table('addresses')->whereIn('name', array_column($chunk, 'name'))->get(['id', 'name', 'address'])->groupBy('name');
            $known = DB::table('history')->where('object_type', Host::noun())->where('action', 'place-host')
                ->whereIn('object_id', $there->flatten(1)->pluck('id'))->pluck('object_id')->countBy();
            foreach ($chunk as $one) {
                $rows = $there[$one['name']] ?? collect();
                $lost += (int) $rows->isEmpty();
                $other += (int) ($rows->count() > 1 || $rows->isNotEmpty() && inet_ntop((string) $rows[0]->address) !== $one['address']);
                $unwritten += (int) ($rows->isNotEmpty() && ($known[$rows[0]->id] ?? 0) !== 1);
            }
        }
        $broken = array_filter(array_map(static fn (array $b): int => $b['count'], iterator_to_array(Invariants::all())));

        return [
            'told' => count($told), 'lost' => $lost, 'other' => $other, 'not once in history' => $unwritten,
            'hosts' => DB::table('addresses')->where('name', 'like', 'trial-%')->count(),
            'addresses twice' => count(DB::table('addresses')->where('name', 'like', 'trial-%')->groupBy('address')
                ->havingRaw('COUNT(*) > 1')->get(['address'])->all()),
            'broken' => $broken,
        ];
    }
}
