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
use App\Models\RunState;
use App\Models\StepState;
use HarborPost\Core\Planning\Sides\Pairing;
use Illuminate\Console\Command;
use Illuminate\Support\Str;

final class OutsideStep extends Command
{
    /** Minutes before what failed is tried again by itself. */
    private const PATIENCE = 60;

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

    /**
     * Just what failed a moment ago, and nothing else, would be brought again.
     *
     * @param  list<string>  $prefixes
     */
    private static function sameAgain(OutsideRun $last, array $prefixes): bool
    {
        $failed = array_column(array_filter($last->steps, static fn (array $s): bool => $s['state'] === 'failed'), 'prefix');

        return $failed !== [] && array_diff($prefixes, $failed) === [] && $last->started_at->addMinutes(self::PATIENCE)->isFuture();
    }

    /** @param  list<Pairing>  $lines */
    private function handOut(Acts $acts, Outside $outside, array $lines): string
    {
        $told = array_values(array_filter($lines, static fn (Pairing $l): bool => OutsideCompare::tells($l) !== null));
        $keys = array_map(static fn (Pairing $l): string => 'put '.$l->key(), $told);
        $last = OutsideRun::query()->where('outside_id', $outside->id)->orderByDesc('started_at')->orderByDesc('id')->first();
        if ($keys === [] || $last?->state === RunState::Running) {
            return 'compared, '.($keys === [] ? 'nothing to bring' : 'a run is under way');
        }
        if ($last !== null && self::sameAgain($last, array_map(static fn (Pairing $l): string => $l->prefix(), $told))) {
            return 'compared; what failed is tried again '.self::PATIENCE.' minutes later';
        }
        $id = (string) Str::ulid();
        $run = ['id' => $id, 'state' => RunState::Running, 'chosen' => $keys, 'steps' => []];
        if ($acts->commit(null, [new NoteOutside($outside->id, run: $run)])->blocked()) {
            return 'compared; somebody began a run at this moment';
        }
        RunOutside::dispatch($id);

        return 'compared, '.count($keys).' brought there';
    }

    /** @param  list<Pairing>  $lines */
    private function takeIn(Acts $acts, Outside $outside, array $lines): string
    {
        $last = OutsideRun::query()->where('outside_id', $outside->id)->orderByDesc('started_at')->orderByDesc('id')->first();
        $some = array_values(array_filter($lines, static fn (Pairing $l): bool => OutsideCompare::takes($outside, $l) !== []));
        if ($last !== null && self::sameAgain($last, array_map(static fn (Pairing $l): string => $l->prefix(), $some))) {
            return 'compared; what failed is tried again '.self::PATIENCE.' minutes later';
        }
        $taken = 0;
        $steps = [];
        // What holds others comes before what it holds: lines are by address and length. Each by itself, so that one that is refused stops
        // no other.
        foreach ($some as $line) {
            $outcome = $acts->commit(null, OutsideCompare::takes($outside, $line), reason: "follows $outside->name");
            $outcome->committed ? $taken++ : null;
            $steps[] = [
                'prefix' => $line->prefix(), 'what' => 'take',
                'state' => ($outcome->committed ? StepState::Done : StepState::Failed)->value,
                'message' => $outcome->committed ? 'taken into the plan' : $outcome->why(),
            ];
        }
        $steps === [] ?: $acts->commit(null, [new NoteOutside($outside->id, run: [
            'id' => (string) Str::ulid(), 'chosen' => [],
            'state' => $taken === count($steps) ? RunState::Done : ($taken === 0 ? RunState::Failed : RunState::Partial),
            'steps' => $steps,
        ])]);

        return "compared, $taken of ".count($steps).' taken in';
    }
}
