<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\OutsideRun;
use App\Models\Person;
use App\Models\RunState;
use Illuminate\Support\Facades\DB;

/** How a system outside stood when it was compared, or how a run to it goes on: a machine's progress. */
final readonly class NoteOutside extends Act
{
    /**
     * @param  ?array<string, int>  $counts  of a comparison, by state
     * @param  ?array{id: string, state: RunState, chosen: list<string>, steps: list<array{prefix: string, what: string, state: string,
     *     message: string}>}  $run
     */
    public function __construct(public string $outside, public ?array $counts = null, public ?string $problem = null,
        public ?array $run = null)
    {
    }

    public function title(): string
    {
        return 'Note how a system outside stands';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        $now = $ledger->at->format('Y-m-d H:i:s');
        if ($this->counts !== null || $this->problem !== null) {
            DB::table('outside_states')->updateOrInsert(['outside_id' => $this->outside], $this->problem === null
                ? ['compared_at' => $now, 'counts' => json_encode($this->counts, JSON_THROW_ON_ERROR), 'problem' => null]
                : ['problem' => mb_strimwidth($this->problem, 0, 490, '…')]);
        }
        if ($this->run === null) {
            return;
        }
        Guard::own("outside:$this->outside");
        $row = OutsideRun::query()->find($this->run['id']);
        if ($row === null && OutsideRun::query()->where('outside_id', $this->outside)->where('state', RunState::Running)->exists()) {
            $ledger->refuse('run-under-way', 'A run is under way', 'Wait for its end, or stop it.');
        }
        if ($row !== null && $row->state !== RunState::Running) {
            $ledger->refuse('run-ended', 'That run ended, or was stopped');
        }
        if ($row === null) {
            $old = $ledger->at->modify('-90 day')->format('Y-m-d H:i:s');
            DB::table('outside_runs')->where('started_at', '<', $old)->delete();
        }
        DB::table('outside_runs')->updateOrInsert(['id' => $this->run['id']], [
            'outside_id' => $this->outside, 'state' => $this->run['state'],
            'chosen' => json_encode($this->run['chosen'], JSON_THROW_ON_ERROR),
            'steps' => json_encode($this->run['steps'], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
            'ended_at' => $this->run['state'] === RunState::Running ? null : $now,
        ] + ($row === null ? ['started_at' => $now, 'person_id' => $ledger->person?->id] : []));
    }
}
