<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Bulk;
use App\Models\Person;
use HarborPost\Core\Measure\Sample;
use Illuminate\Support\Facades\DB;

/** What a server measured of itself is kept for this minute; or why it could not be read. A machine's progress, and nobody's decision. */
final readonly class KeepFigures extends Act
{
    /** Series of one server; what goes beyond is left out and said. */
    public const MOST = 200;

    /** @param  list<Sample>  $samples */
    public function __construct(public string $server, public array $samples, public ?string $problem = null, public int $left = 0)
    {
    }

    public function title(): string
    {
        return 'Keep what a server measured';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        $now = $ledger->at->format('Y-m-d H:i:s');
        $state = DB::table('server_states')->where('server_id', $this->server)->first(['figures_since', 'figures_problem_since']);
        if ($this->problem !== null) {
            DB::table('server_states')->updateOrInsert(['server_id' => $this->server], [
                'figures_problem' => mb_strimwidth($this->problem, 0, 250, '…'),
                'figures_problem_since' => $state->figures_problem_since ?? $now,
            ]);

            return;
        }
        $left = $this->left;
        $rows = $told = [];
        $known = DB::table('series')->where('server_id', $this->server)->get()
            ->keyBy(static fn (object $s): string => "$s->family\n$s->labels");
        foreach ($this->samples as $sample) {
            $labels = $sample->key();
            $was = $known["$sample->family\n$labels"] ?? null;
            // What is named twice, or longer than its column, or too much, is not kept.
            $fits = strlen($sample->family) <= 120 && mb_strlen($labels) <= 250
                && ($was !== null || count($known) + count($rows) < self::MOST);
            if (! $fits || isset($told["$sample->family\n$labels"])) {
                $left++;

                continue;
            }
            $told["$sample->family\n$labels"] = [$sample, $was];
            if ($was === null) {
                $rows[] = $this->row($sample, $labels, $now);
            }
        }
        Bulk::insert('series', $rows);
        $this->samples($told, $ledger->at);
        DB::table('server_states')->updateOrInsert(['server_id' => $this->server], [
            'figures_since' => $state->figures_since ?? $now, 'figures_at' => $now,
            'figures_problem' => null, 'figures_problem_since' => null,
            'figures_left' => min(65535, $left),
        ]);
    }

    /** @return array<string, mixed> */
    private function row(Sample $sample, string $labels, string $now): array
    {
        return [
            'server_id' => $this->server, 'family' => $sample->family, 'labels' => $labels, 'type' => $sample->type,
            'unit' => mb_substr($sample->unit, 0, 20), 'help' => mb_substr($sample->help, 0, 250),
            // A gauge says something at once; what counts, from the second reading on.
            'value' => $sample->value, 'counted' => $sample->count, 'at' => $now,
        ];
    }

    /** @param  array<string, array{Sample, ?\stdClass}>  $told */
    private function samples(array $told, \DateTimeImmutable $at): void
    {
        $ids = DB::table('series')->where('server_id', $this->server)->get(['id', 'family', 'labels'])
            ->mapWithKeys(static fn (object $s): array => ["$s->family\n$s->labels" => (int) $s->id])->all();
        $minute = $at->setTime((int) $at->format('H'), (int) $at->format('i'))->format('Y-m-d H:i:s');
        $samples = $last = [];
        foreach ($told as $key => [$sample, $was]) {
            $seconds = $was === null ? 0.0 : (float) ($at->getTimestamp() - strtotime("$was->at UTC"));
            $value = $sample->since(
                $was === null || $was->value === null ? null : (float) $was->value,
                $was === null || $was->counted === null ? null : (float) $was->counted,
                $seconds,
            );
            $value === null ?: $samples[] = [
                'series_id' => $ids[$key], 'step' => 1, 'at' => $minute, 'low' => $value, 'mean' => $value, 'high' => $value,
            ];
            $last[] = $this->row($sample, substr($key, strlen($sample->family) + 1), $at->format('Y-m-d H:i:s'));
        }
        foreach (array_chunk($samples, 500) as $chunk) {
            DB::table('samples')->upsert($chunk, ['series_id', 'step', 'at'], ['low', 'mean', 'high']);
        }
        foreach (array_chunk($last, 500) as $chunk) {
            DB::table('series')->upsert($chunk, ['server_id', 'family', 'labels'], ['value', 'counted', 'at', 'type']);
        }
    }
}
