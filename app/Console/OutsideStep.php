<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Ship\NoteOutside;
use App\Jobs\RunOutside;
use App\Links\Unanswered;
use App\Live\OutsideCompare;
use App\Models\Leads;
use App\Models\Outside;
use App\Models\OutsideRun;
use HarborPost\Core\Planning\Sides\Pairing;
use Illuminate\Console\Command;
use Illuminate\Support\Str;

final class OutsideStep extends Command
{
    protected $signature = 'outside:step {name? : Only this one}';

    protected $description = 'Compares systems outside, and brings those in step that are kept so';

    public function handle(Acts $acts, OutsideCompare $compare): int
    {
        $name = $this->argument('name');
        $failed = 0;
        $all = Outside::query()->with('under')->when(is_string($name), fn ($q) => $q->where('name', $name))->orderBy('name');
        foreach ($all->get() as $outside) {
            try {
                $lines = $compare->lines($outside);
            } catch (Unanswered $e) {
                $this->line($e->getMessage());
                $failed++;

                continue;
            }
            $said = match (true) {
                ! $outside->keeps || $outside->leads === Leads::Nobody => 'compared',
                $outside->leads === Leads::Here => $this->handOut($acts, $outside, $lines),
                default => $this->takeIn($acts, $outside, $lines),
            };
            $this->line("$outside->name: ".count($lines)." prefixes $said");
        }

        return $failed === 0 ? 0 : 1;
    }

    /** @param  list<Pairing>  $lines */
    private function handOut(Acts $acts, Outside $outside, array $lines): string
    {
        $keys = [];
        foreach ($lines as $line) {
            OutsideCompare::tells($line) === null ?: $keys[] = 'put '.$line->key();
        }
        if ($keys === [] || OutsideRun::query()->where('outside_id', $outside->id)->where('state', 'running')->exists()) {
            return 'compared, '.($keys === [] ? 'nothing to bring' : 'a run is under way');
        }
        $id = (string) Str::ulid();
        $acts->commit(null, [new NoteOutside($outside->id, run: ['id' => $id, 'state' => 'running', 'chosen' => $keys, 'steps' => []])]);
        RunOutside::dispatch($id);

        return 'compared, '.count($keys).' brought there';
    }

    /** @param  list<Pairing>  $lines */
    private function takeIn(Acts $acts, Outside $outside, array $lines): string
    {
        $taken = 0;
        $steps = [];
        // What holds others comes before what it holds: lines are by address and length. Each by itself, so that one that is refused stops
        // no other.
        foreach ($lines as $line) {
            $takes = OutsideCompare::takes($outside, $line);
            if ($takes === []) {
                continue;
            }
            $outcome = $acts->commit(null, $takes, reason: "follows $outside->name");
            $outcome->committed ? $taken++ : null;
            $steps[] = [
                'prefix' => $line->prefix(), 'what' => 'take', 'state' => $outcome->committed ? 'done' : 'failed',
                'message' => $outcome->committed ? 'taken into the plan' : $outcome->why(),
            ];
        }
        $steps === [] ?: $acts->commit(null, [new NoteOutside($outside->id, run: [
            'id' => (string) Str::ulid(), 'chosen' => [],
            'state' => $taken === count($steps) ? 'done' : ($taken === 0 ? 'failed' : 'partial'),
            'steps' => $steps,
        ])]);

        return "compared, $taken of ".count($steps).' taken in';
    }
}
