<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Server;
use App\Models\ShipsWhen;
use App\Queries\ShipTimes;

/** When servers are shipped to without anybody asking for it. */
final readonly class SetShipping extends Act
{
    /** @param  list<string>  $servers */
    public function __construct(
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers,
        #[Field(Kind::Choice, 'Shipped to', choices: ['hand', 'once', 'windows'])]
        public string $when,
    ) {
    }

    public function title(): string
    {
        return 'Ship '.ShipsWhen::from($this->when)->words();
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship.times');
    }

    public function apply(Ledger $ledger): void
    {
        $when = ShipsWhen::from($this->when);
        $times = ShipTimes::now();
        $rows = Server::query()->whereIn('id', $this->servers)->orderBy('name')->get();
        if ($rows->isEmpty()) {
            $ledger->refuse('no-server', 'Pick the servers', field: 'servers');
        }
        foreach ($rows as $server) {
            if (! $server->isReached()) {
                $ledger->refuse('not-shipped-to', "$server->name is not shipped to from here", 'It has no control endpoint.');
            }
            if ($when === ShipsWhen::Windows && $times->windowsOf($server) === []) {
                $ledger->refuse('no-window', "$server->name has no window", 'Make one for it, for its site, or for every server first.');
            }
            $server->ships = $when;
            $server->save();
        }
        if ($when !== ShipsWhen::Hand) {
            $ledger->later('Removals, and what somebody changed on a server, still wait for a person');
        }
    }
}
