<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Record;
use App\Models\RunState;
use App\Models\Sweep;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\RecordType;

/** A comparison of every address record with every pointer begins; it runs as a job. */
final readonly class StartSweep extends Act
{
    public function __construct(
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return 'Compare forward and reverse';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.sweep.one', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        $running = Sweep::query()->whereIn('state', RunState::RUNS)->first();
        if ($running !== null) {
            $ledger->refuse('sweep-runs', 'A comparison is under way already', link: at('name.sweep.one', $running->id));
        }
        $total = Record::query()->whereIn('type', [RecordType::A, RecordType::AAAA, RecordType::PTR])->count();
        (
            new Sweep([
                'id' => $this->id, 'state' => RunState::Waiting, 'total' => $total, 'person_id' => $ledger->person?->id,
                'started_at' => CarbonImmutable::instance($ledger->at),
            ])
        )->save();
    }
}
