<?php

declare(strict_types=1);

namespace App\Acts\Scan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\ScanSchedule;

/** A scan that runs is stopped, or a schedule ends. What was found until then stays. */
final readonly class CancelScan extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Scan', most: 26)]
        public string $scan = '',
        #[Field(Kind::Line, 'Schedule', most: 26)]
        public string $schedule = '',
    ) {
    }

    public function title(): string
    {
        return $this->schedule === '' ? 'Cancel the scan' : 'End the schedule';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return $this->schedule === '' ? at('plan.scan', $this->scan) : at('plan');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->schedule !== '') {
            (ScanSchedule::query()->find($this->schedule) ?? $ledger->refuse('gone', 'The schedule is not there any more'))->delete();

            return;
        }
        $scan = Scan::query()->lockForUpdate()->find($this->scan) ?? $ledger->refuse('gone', 'The scan is not there any more');
        if (! $scan->state->runs()) {
            $ledger->refuse('scan-over', "The scan is {$scan->state->value} already");
        }
        $scan->state = RunState::Cancelled;
        $scan->finished_at = \Carbon\CarbonImmutable::instance($ledger->at);
        $scan->save();
    }
}
