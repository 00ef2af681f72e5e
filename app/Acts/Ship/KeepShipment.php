<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\Shipment;
use App\Models\ShipmentState;
use Illuminate\Support\Facades\DB;

/** How far a shipment has come, step by step, or how it ended. One that was cancelled stays so. */
final readonly class KeepShipment extends Act
{
    /** @param  list<array{what: string, id: string, state: string, message: string, proved?: bool}>  $steps */
    public function __construct(
        public string $shipment,
        public ShipmentState $state,
        public array $steps = [],
        public ?int $total = null,
        public string $message = '',
    ) {
    }

    public function title(): string
    {
        return "Shipment: {$this->state->value}";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship');
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("shipment:$this->shipment");
        $row = Shipment::query()->find($this->shipment) ?? $ledger->refuse('gone', 'The shipment is not there any more');
        if (! $row->runs()) {
            $ledger->refuse('ended', "The shipment is {$row->state->value} already");
        }
        $values = ['state' => $this->state->value, 'message' => mb_strimwidth($this->message, 0, 490, '…')];
        if ($this->state !== ShipmentState::Cancelled || $this->steps !== []) {
            $values += [
                'steps' => json_encode($this->steps, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
                'total' => $this->total ?? $row->total,
            ];
        }
        // A machine's progress, not a decision: written without an entry in the history of people's acts.
        DB::table('shipments')->where('id', $row->id)
            ->update($values + ($this->state === ShipmentState::Running ? [] : ['finished_at' => $ledger->at->format('Y-m-d H:i:s.v')]));
    }
}
