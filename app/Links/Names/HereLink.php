<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Difference;
use App\Links\DifferenceState;
use App\Links\Unanswered;
use App\Models\Record;
use App\Models\Server;
use App\Models\Zone;
use App\Queries\HandedOutZones;

/**
 * Harbor Post as a primary that no client asks: what is shipped to it is handed out from then on, to who may copy it. It is asked by
 * packets like any other, so that what is said of it is what secondaries get.
 */
final readonly class HereLink implements NameLink
{
    /** Records up to which a zone is transferred and compared as a whole to prove it. */
    private const WHOLE = 20_000;

    /** @param  DnsClient  $dns  signs with a key of our own */
    public function __construct(private Server $server, private DnsClient $dns)
    {
    }

    public function compare(bool $deep = false): array
    {
        $differences = [];
        foreach (ZoneRunning::placed($this->server) as [$placement, $pending]) {
            $zone = $placement->zone;
            $has = $this->dns->serial($zone->origin(), $zone->clientInView());
            $running = $this->running($zone);
            $differences[] = $deep ? $running->deep($placement, $has, $pending) : $running->quick($placement, $has, $pending);
        }
        foreach (HandedOutZones::left($this->server) as $zone) {
            $differences[] = new Difference(
                'zone', $zone->id, $zone->line(), DifferenceState::Gone, message: 'the plan does not place this zone here', drifted: true,
            );
        }

        return $differences;
    }

    /** Nothing is sent: what the shipment notes is what is handed out. */
    public function apply(string $kind, string $id): void
    {
    }

    public function verify(string $kind, string $id): string
    {
        $zone = Zone::query()->with(['view', 'placements'])->find($id);
        if ($zone === null || $zone->placements->doesntContain('server_id', $this->server->id)) {
            return 'it is handed out no more';
        }
        $serial = $this->dns->serial($zone->origin(), $zone->clientInView());
        if ($zone->silenced) {
            return $serial === null
                ? 'the zone is silenced and not handed out'
                : throw Unanswered::differs($this->server->name, "it still hands out the silenced zone {$zone->title()}");
        }
        if ((string) $serial !== (string) $zone->serial) {
            throw Unanswered::differs($this->server->name, "{$zone->title()} is meant to have serial $zone->serial, it answers "
                .($serial === null ? 'no SOA' : $serial));
        }
        $size = Record::query()->where('zone_id', $zone->id)->count();
        if ($size > self::WHOLE) {
            return "SOA $serial answered with authority; of $size records none was asked for";
        }
        [$removed, $added] = $this->running($zone)->drift($zone);

        return $removed === [] && $added === []
            ? "SOA $serial answered with authority, transferred and compared: $size records as meant"
            : throw Unanswered::differs($this->server->name, 'transferred, it differs: '
                .implode('; ', array_slice([...$removed, ...$added], 0, 3)));
    }

    public function proves(string $kind, string $id): bool
    {
        return Record::query()->where('zone_id', $id)->count() <= self::WHOLE;
    }

    public function reader(): DnsClient
    {
        return $this->dns;
    }

    /** Who may copy is asked of our own rows with each transfer. */
    public function told(Zone $zone): array
    {
        return ['settings' => ['transfer' => $zone->transferList()]];
    }

    public function drift(Zone $zone): array
    {
        return $this->running($zone)->drift($zone);
    }

    public function fetch(Zone $zone): void
    {
    }

    public function renewals(Zone $zone): array
    {
        return [];
    }

    private function running(Zone $zone): ZoneRunning
    {
        return new ZoneRunning($this->dns, $zone->clientInView());
    }
}
