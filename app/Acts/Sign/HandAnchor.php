<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ParentDs;
use App\Domain\Name\Signing;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Zone;
use App\Models\ZoneKey;

/** Resolvers are given the keys of a zone as anchors, from which they validate; in place of anchors of that zone that they had. */
final readonly class HandAnchor extends Act
{
    use OfZone;

    /** @param  list<string>  $servers */
    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Ids, 'Resolvers', of: Server::class)]
        public array $servers,
        #[Field(Kind::Flag, 'Take it away', 'The anchors of the zone leave these resolvers')]
        public bool $away = false,
    ) {
    }

    public function title(): string
    {
        $zone = Zone::query()->find($this->zone)?->title() ?? 'a zone';

        return $this->away ? "Take the anchor of $zone away" : "Hand out the anchor of $zone";
    }

    public function landing(): string
    {
        return at('name.signing');
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::signedZone($ledger, $this->zone);
        $servers = Server::answering(ServerKind::naming())->whereIn('id', $this->servers)->orderBy('name')->get();
        $servers->count() === count(array_unique($this->servers)) && $servers->isNotEmpty()
            ?: $ledger->refuse('no-server', 'Choose DNS servers or resolvers', field: 'servers');
        if (! $this->away && $zone->unsign_asked !== null) {
            $ledger->refuse('unsigning', "{$zone->title()} is on its way out of signing");
        }
        $now = $ledger->at->getTimestamp();
        $schedule = Signing::schedule($zone, $now);
        $keys = $zone->keys()->get()->filter(static fn (ZoneKey $k): bool => $k->isEntry() && $k->published !== null);
        if (! $this->away && ($schedule === null || $zone->signed_since === null || $keys->isEmpty())) {
            $ledger->refuse(
                'too-early',
                'Not every server has the signed zone yet',
                'Ship it first.',
                'RFC 7583 §3.3.1',
                link: at('ship')."?zone=$zone->id",
            );
        }
        foreach ($this->away ? [] : $keys as $key) {
            if ($schedule !== null && $schedule->mayBeNamed($key->times($now)) > $now) {
                $ledger->refuse(
                    'too-early',
                    'Too early: resolvers may still hold the zone without its signatures',
                    'At the earliest '.gmdate('j M Y, H:i', $schedule->mayBeNamed($key->times($now))).' UTC.',
                    'RFC 7583 §3.3.1',
                );
            }
        }
        if (! $this->away && count($this->servers) > 1 && ParentDs::anchoredAt($zone) === []) {
            $ledger->warn(
                'one-first',
                'No resolver holds this anchor yet',
                'Give it to one, look a name up there, then to the rest.',
                'RFC 6781 §4.2.4',
                'servers',
            );
        }
        $lines = $this->away ? [] : array_values($keys->map(static fn (ZoneKey $k): string => "$zone->name DS {$k->ds()->text()}")->all());
        foreach ($servers as $server) {
            $own = $server->resolving ?? [];
            $kept = array_values(array_diff($own['anchors'] ?? [], ParentDs::anchorsOf($server, $zone->origin())));
            $own['anchors'] = [...$kept, ...$lines];
            $own['validating'] = $own['anchors'] !== [];
            $own['recursion'] ??= false;
            if (! $own['recursion'] && ! $this->away) {
                $ledger->warn(
                    'recursion-off',
                    "$server->name does not resolve for others, so it validates for nobody",
                    standard: 'RFC 4035 §4',
                );
            }
            $server->resolving = $own;
            $server->save();
        }
        $ledger->later('In force when the settings of '.$servers->pluck('name')->implode(', ').' are shipped');
    }
}
