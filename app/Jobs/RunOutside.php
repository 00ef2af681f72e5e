<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Ship\NoteOutside;
use App\Links\Unanswered;
use App\Live\OutsideCompare;
use App\Models\Outside;
use App\Models\OutsideRun;
use App\Models\RunState;
use App\Models\StepState;
use HarborPost\Core\Planning\Sides\Pairing;
use HarborPost\Core\Planning\Sides\State;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Queue\InteractsWithQueue;

/**
 * Brings chosen lines to a system outside, each written and read back. Run again after a crash, it goes on with what is left; what became
 * so meanwhile is said and not written. It can be stopped between two lines.
 */
final class RunOutside implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    public int $timeout = 3600;

    public int $tries = 3;

    /** Lines that in a row get no answer, after which the rest is left. */
    private const GIVES_UP = 3;

    public function __construct(public readonly string $run)
    {
    }

    public function handle(Acts $acts, OutsideCompare $compare): void
    {
        $run = OutsideRun::query()->find($this->run);
        $outside = $run === null ? null : Outside::query()->with('under')->find($run->outside_id);
        if ($run === null || $outside === null || $run->state !== RunState::Running) {
            return;
        }
        $left = $run->chosen;
        $steps = $run->steps;
        $note = static function (RunState $state) use ($acts, $outside, $run, &$left, &$steps): bool {
            $now = ['id' => $run->id, 'state' => $state, 'chosen' => $left, 'steps' => $steps];

            return ! $acts->commit(null, [new NoteOutside($outside->id, run: $now)])->blocked();
        };
        try {
            $lines = [];
            foreach ($compare->lines($outside) as $line) {
                $lines[$line->key()] = $line;
            }
        } catch (Unanswered $e) {
            $steps[] = ['prefix' => '', 'what' => 'compare', 'state' => StepState::Failed->value, 'message' => $e->getMessage()];
            $note(RunState::Failed);

            return;
        }
        $silent = 0;
        foreach ($this->ordered($left, $lines) as $key) {
            [$what, $of] = explode(' ', $key, 2);
            $step = $silent >= self::GIVES_UP
                ? ['prefix' => ($lines[$of] ?? null)?->prefix() ?? '', 'what' => $what, 'state' => StepState::Left->value,
                    'message' => 'it does not answer']
                : $this->one($outside, $what, $lines[$of] ?? null, $silent);
            $steps[] = $step;
            $left = array_values(array_diff($left, [$key]));
            if (! $note(RunState::Running)) {
                return; // Stopped meanwhile.
            }
        }
        $bad = count(array_filter($steps, static fn (array $s): bool => ! StepState::from($s['state'])->isGood()));
        $note($bad === 0 ? RunState::Done : ($bad === count($steps) ? RunState::Failed : RunState::Partial));
    }

    /**
     * What holds others is made before what it holds, and goes after it.
     *
     * @param  list<string>  $keys  "put key" or "cut key"
     * @param  array<string, Pairing>  $lines
     * @return list<string>
     */
    private function ordered(array $keys, array $lines): array
    {
        $rank = static function (string $key) use ($lines): array {
            [$what, $of] = explode(' ', $key, 2);
            $line = $lines[$of] ?? null;
            $length = (int) (explode('/', $line?->prefix() ?? '')[1] ?? 0);

            return $what === 'cut' ? [0, -$length, $line?->groups() === true ? 1 : 0] : [1, $length, $line?->groups() === true ? 0 : 1];
        };
        usort($keys, static fn (string $a, string $b): int => $rank($a) <=> $rank($b));

        return $keys;
    }

    /** @return array{prefix: string, what: string, state: string, message: string} */
    private function one(Outside $outside, string $what, ?Pairing $line, int &$silent): array
    {
        $step = static fn (StepState $state, string $message): array => [
            'prefix' => $line?->prefix() ?? '', 'what' => $what, 'state' => $state->value, 'message' => $message,
        ];
        $told = $line === null || $what !== 'put' ? null : OutsideCompare::tells($line);
        $cuts = $what === 'cut' && $line?->state === State::MissingHere && $line->there !== null;
        if ($told === null && ! $cuts) {
            return $step(StepState::Same, 'nothing to do any more: it is so, or it is gone');
        }
        try {
            if ($cuts) {
                OutsideCompare::client($outside)->cut((string) $line->there?->id);
                $silent = 0;

                return $step(StepState::Done, "removed at $outside->name");
            }
            $read = OutsideCompare::client($outside)->put($told);
            $silent = 0;

            return OutsideCompare::fits($told, $read)
                ? $step(StepState::Done, 'written, and read back as it is meant')
                : $step(StepState::Failed, 'it took it, and read back it is not what was told');
        } catch (Unanswered $e) {
            $silent = $e->mayPass ? $silent + 1 : 0;

            return $step(StepState::Failed, $e->getMessage());
        }
    }

    public function failed(\Throwable $e): void
    {
        $run = OutsideRun::query()->find($this->run);
        if ($run !== null && $run->state === RunState::Running) {
            app(Acts::class)->commit(null, [new NoteOutside($run->outside_id, run: [
                'id' => $run->id, 'state' => RunState::Failed, 'chosen' => $run->chosen,
                'steps' => [
                    ...$run->steps,
                    ['prefix' => '', 'what' => '', 'state' => StepState::Failed->value,
                        'message' => mb_strimwidth($e->getMessage(), 0, 250)],
                ],
            ])]);
        }
    }
}
