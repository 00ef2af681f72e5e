<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Ship\HandingOut;
use App\Models\Part;
use App\Models\Person;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Speaks;
use App\Models\Zone;
use App\Models\ZoneServer;

/** A server is to hold zones as a secondary. Its NS is planned: it is listed when it answers with authority. */
final readonly class AddSecondary extends Act
{
    /** @param  list<string>  $zones */
    public function __construct(
        #[Field(Kind::Ids, 'Zones', of: Zone::class)]
        public array $zones,
        #[Field(Kind::Id, 'Server', of: Server::class)]
        public string $server,
    ) {
    }

    public function title(): string
    {
        $name = Server::query()->find($this->server)->name ?? 'a server';

        return "Make $name a secondary of "
            .(count($this->zones) === 1 ? Zone::query()->find($this->zones[0])?->title() ?? 'a zone' : count($this->zones).' zones');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return count($this->zones) === 1 ? at('name.zone.service', $this->zones[0]) : at('name');
    }

    public function apply(Ledger $ledger): void
    {
        $server = Server::query()->where('kind', ServerKind::Dns)->find($this->server)
            ?? $ledger->refuse('no-server', 'Choose a DNS server', field: 'server');
        if ($server->speaks === Speaks::Here) {
            $ledger->refuse('here-copies-nothing', "$server->name hands zones out and copies none", 'It is chosen as the primary of a '
                .'zone when that is made.', field: 'server');
        }
        $zones = Zone::query()->with('placements')->whereIn('id', $this->zones)->get();
        $zones->isNotEmpty() ?: $ledger->refuse('no-zone', 'Choose a zone', field: 'zones');
        $server->address !== null
            ?: $ledger->warn(
                'no-address',
                "$server->name has no address in the plan",
                'Without one it cannot be listed as allowed to copy by address; use a key.',
                null,
                'server',
            );
        foreach ($zones as $zone) {
            if ($zone->placements->contains('server_id', $server->id)) {
                $ledger->refuse(
                    'placed-already',
                    "$server->name holds {$zone->title()} already",
                    link: at('name.zone.service', $zone->id),
                    field: 'server',
                );
            }
            $zone->primaryPlacement()
                ?? $ledger->refuse('no-primary', "{$zone->title()} has no primary to copy from", link: at('name.zone.service', $zone->id));
            (new ZoneServer(['zone_id' => $zone->id, 'server_id' => $server->id, 'part' => Part::Secondary, 'planned' => true]))->save();
        }
        foreach ($zones->pluck('view_id')->unique() as $view) {
            HandingOut::listAnew((string) $view);
        }
        $server->speaks === Speaks::Control
            ?: $ledger->later("$server->name is reached by the standards: who keeps it makes the zone there, as a copy of its primary");
        $ledger->later("Ship to the primary, so that $server->name may copy; then to $server->name; then list it as a name server");
    }
}
