<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ServerKind;

/** Lease servers probe an address before they offer it (RFC 2131 §2.2, §3.1), or do not; its cost is said. */
final readonly class SetProbing extends Act
{
    /** Milliseconds that clients are kept waiting at most: many repeat their DISCOVER after four seconds. */
    private const MOST = 2000;

    /** @param  list<string>  $servers */
    public function __construct(
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers,
        #[Field(Kind::Number, 'Tries', '0: it offers without probing', most: 10, least: 0)]
        public ?int $tries = null,
        #[Field(Kind::Number, 'Wait, ms', 'For an answer to each', most: 2000, least: 50)]
        public ?int $wait = null,
    ) {
    }

    public function title(): string
    {
        return ($this->tries ?? 0) === 0 ? 'Offer without probing' : "Probe $this->tries times before an offer";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.coverage');
    }

    public function apply(Ledger $ledger): void
    {
        [$tries, $wait] = [$this->tries ?? 0, $this->wait ?? 500];
        if ($this->servers === []) {
            $ledger->refuse('nothing-chosen', 'Choose servers', field: 'servers');
        }
        if ($tries * $wait > self::MOST) {
            $ledger->refuse(
                'probes-too-long',
                "$tries times $wait ms is longer than ".self::MOST.' ms',
                'Clients repeat their question meanwhile, and take another server for dead.',
                'RFC 2131 §4.1',
                'tries',
            );
        }
        foreach (Server::query()->whereIn('id', $this->servers)->orderBy('name')->get() as $server) {
            if ($server->kind !== ServerKind::Dhcp) {
                $ledger->refuse('no-lease-server', "$server->name leases nothing", field: 'servers');
            }
            $server->fill(['probe_tries' => $tries, 'probe_wait_ms' => $wait])->save();
            $scopes = ScopeServer::query()->where('server_id', $server->id)->count();
            $ledger->later("$server->name: ".($tries === 0
                ? 'offers at once; an address that somebody took by hand is offered too'
                : 'each first offer comes '.$tries * $wait.' ms later when nobody answers; renewals are not probed')
                .", once its $scopes scopes are shipped");
        }
    }
}
