<?php

declare(strict_types=1);

namespace App\Actions\Ship;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Person;
use App\Models\Shipment;
use Carbon\CarbonImmutable;

/** What a shipment did, zone by zone and scope by scope, is kept. */
final readonly class NoteShipment extends Action
{
    /** @param  list<array{what: string, id: string, state: string, message: string}>  $steps */
    public function __construct(public string $server, public string $state, public array $steps, public string $started)
    {
    }

    public function title(): string
    {
        return 'Note a shipment';
    }

    public static function may(Person $person): bool
    {
        return ! $person->isBound();
    }

    public function apply(Ledger $ledger): void
    {
        (new Shipment(['server_id' => $this->server, 'person_id' => $ledger->person?->id, 'state' => $this->state, 'steps' => $this->steps, 'started_at' => CarbonImmutable::parse($this->started), 'finished_at' => CarbonImmutable::instance($ledger->at)]))->save();
    }
}
