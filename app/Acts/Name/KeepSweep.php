<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\RunState;
use App\Models\Sweep;
use Illuminate\Support\Facades\DB;

/** What a sweep found in one stretch, and how far it is; also how it is cancelled. */
final readonly class KeepSweep extends Act
{
    /**
     * @param  list<array{code: string, record: string, name: string, address: string, says: string}>  $findings  addresses as bytes in
     *     hexadecimal
     */
    public function __construct(
        public string $sweep,
        public RunState $state,
        public int $records = 0,
        public string $cursor = '',
        public array $findings = [],
        public string $message = '',
    ) {
    }

    public function title(): string
    {
        return $this->state === RunState::Cancelled ? 'Cancel the comparison' : 'Keep what a comparison found';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.sweep.one', $this->sweep);
    }

    public function apply(Ledger $ledger): void
    {
        $sweep = Sweep::query()->lockForUpdate()->find($this->sweep) ?? $ledger->refuse('gone', 'The comparison is not there any more');
        $sweep->isRunning() ?: $ledger->refuse('sweep-over', "The comparison is {$sweep->state->value}");
        $rows = array_map(
            fn (array $f): array => [
                'sweep_id' => $sweep->id, 'code' => $f['code'], 'record_id' => $f['record'], 'name' => $f['name'],
                'address' => (string) hex2bin($f['address']), 'says' => $f['says'],
            ],
            $this->findings,
        );
        foreach (array_chunk($rows, 500) as $chunk) {
            DB::table('sweep_findings')->insert($chunk);
        }
        $counts = $sweep->counts ?? [];
        foreach (array_count_values(array_column($this->findings, 'code')) as $code => $n) {
            $counts[$code] = ($counts[$code] ?? 0) + $n;
        }
        // Progress of a machine: no entry in the history of people's acts.
        Sweep::query()->whereKey($sweep->id)->update([
            'state' => $this->state, 'records' => $sweep->records + $this->records, 'cursor' => $this->cursor,
            'counts' => json_encode($counts, JSON_THROW_ON_ERROR), 'message' => $this->message,
            'finished_at' => $this->state === RunState::Running ? null : $ledger->at,
        ]);
    }
}
