<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Queries\ShipTimes;
use Carbon\CarbonImmutable;

/** A shipment to a server is asked for; it runs as a job, one at a time for each server. */
final readonly class StartShipment extends Act
{
    /**
     * @param  list<string>  $only  ids of zones or scopes; empty ships everything that differs
     * @param  list<string>  $behind  shipments that have to end well before this one
     */
    public function __construct(
        #[Field(Kind::Id, 'Server', of: Server::class)]
        public string $server,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Texts, 'Only these', most: 64)]
        public array $only = [],
        #[Field(Kind::Flag, 'Read whole zones')]
        public bool $deep = false,
        #[Field(Kind::Flag, 'Also take away')]
        public bool $removals = false,
        #[Field(Kind::Line, 'Shown', 'Digest of the differences that were shown', most: 64)]
        public string $shown = '',
        public array $behind = [],
        /** no step begins after that; UTC */
        public string $endsBy = '',
    ) {
    }

    public function title(): string
    {
        return 'Ship to '.(Server::query()->find($this->server)->name ?? 'a server');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship.server', $this->server);
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("ship:$this->server");
        $server = Server::query()->find($this->server) ?? $ledger->refuse('gone', 'The server is not there any more');
        $other = Shipment::query()->where('server_id', $server->id)->whereIn('state', ShipmentState::RUNS)->first();
        if ($other !== null) {
            $ledger->refuse(
                'ships-already',
                "A shipment to $server->name is under way",
                'One runs at a time; wait for it, or cancel it.',
                null,
                null,
                at('ship.server', $server->id),
            );
        }
        $times = ShipTimes::now($ledger->at);
        $frozen = $times->frozen($server);
        if ($frozen !== null) {
            $ledger->refuse(
                'frozen',
                "Nothing is shipped to $server->name until {$frozen->ends_at->format('D j M H:i')} UTC: $frozen->why",
                'Whoever may make a freeze may end it.',
                link: at('ship.times'),
            );
        }
        if ($ledger->person !== null && $times->isShut($server)) {
            $next = $times->next($server);
            $ledger->warn(
                'outside-window',
                "$server->name is shipped to in its windows, and none is open",
                $next === null ? 'None opens any more.' : 'The next one opens '.$next->from->format('D j M H:i e').'.',
            );
        }
        (new Shipment([
            'id' => $this->id, 'server_id' => $server->id, 'person_id' => $ledger->personId(),
            'state' => ShipmentState::Waiting, 'steps' => [],
            'started_at' => CarbonImmutable::instance($ledger->at), 'behind' => $this->behind === [] ? null : $this->behind,
            'ends_by' => $this->endsBy === '' ? null : $this->endsBy,
            'orders' => [
                'only' => $this->only, 'deep' => $this->deep, 'removals' => $this->removals,
                'shown' => $this->shown === '' ? null : $this->shown,
            ],
        ]))->save();
        $ledger->made['shipment'] = $this->id;
    }
}
