<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Difference;
use App\Links\DifferenceState;
use App\Links\Unanswered;
use App\Models\Part;
use App\Models\Record;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdatePlan;

/**
 * A name server that keeps the standards and knows nothing of us: read by SOA and AXFR (RFC 5936), changed by updates (RFC 2136), told by
 * NOTIFY (RFC 1996), each signed by a shared key (RFC 8945). What it cannot be told so, that it has a zone at all, is done there by its
 * keeper.
 */
final readonly class StandardDnsLink implements NameLink
{
    /** @param  DnsClient  $dns  signs with the key of the server */
    public function __construct(private Server $server, private DnsClient $dns)
    {
    }

    public function compare(bool $deep = false): array
    {
        $differences = [];
        foreach (ZoneRunning::placed($this->server) as [$placement, $pending]) {
            $differences[] = $this->compared($placement, $pending, $deep);
        }

        return $differences;
    }

    public function apply(string $kind, string $id): void
    {
        $zone = Zone::query()->with(['view', 'placements.server'])->find($id)
            ?? throw Unanswered::unasked($this->server->name, 'the zone is gone from the plan; take it away there');
        if ($zone->silenced) {
            throw Unanswered::unasked($this->server->name, "{$zone->title()} is silenced, and no update takes a zone away; do it there");
        }
        $placement = $this->placement($zone);
        if ($placement->part === Part::Secondary) {
            $this->fetch($zone);

            return;
        }
        $has = $this->dns->serial($zone->origin())
            ?? throw Unanswered::refused($this->server->name, "it has no zone $zone->name: ".self::howToMake());
        $shipped = $placement->shipped_serial;
        [$was, $removed, $added] = $shipped !== null && $has->equals(Serial::of($shipped)) ? $this->step($zone, $has) : $this->whole($zone);
        $soa = new DnsRecord($zone->origin(), $zone->default_ttl, $zone->soa(Serial::of($zone->serial)));
        $updates = UpdatePlan::of($zone->origin(), $was, $removed, $added, $soa, ZoneProof::MADE);
        foreach ($updates as $update) {
            $this->taken($this->dns->update($update), $zone);
        }
        $now = count($updates) === 1 ? null : $this->dns->serial($zone->origin());
        if ($now !== null && Serial::of($zone->serial)->isBefore($now)) {
            throw Unanswered::differs(
                $this->server->name,
                "all of {$zone->title()} is there, and it counted its serial up to $now meanwhile, past ours, $zone->serial. "
                    .'Ship again, and ours passes it',
            );
        }
    }

    public function proves(string $kind, string $id): bool
    {
        return true;
    }

    public function verify(string $kind, string $id): string
    {
        $zone = Zone::query()->with(['view', 'placements'])->find($id);
        if ($zone === null) {
            return 'the zone is gone from the plan';
        }
        $trouble = static fn (): string => 'it was told, and fetches by itself';

        return (new ZoneProof($this->server->name, $this->dns, null))
            ->of($zone, $this->placement($zone)->part === Part::Secondary, $trouble);
    }

    public function reader(): DnsClient
    {
        return $this->dns;
    }

    public function told(Zone $zone): array
    {
        return [];
    }

    public function drift(Zone $zone): array
    {
        return $this->running()->drift($zone);
    }

    public function fetch(Zone $zone): void
    {
        $outcome = $this->dns->notify($zone->origin(), $zone->soa(Serial::of($zone->serial)));
        if ($outcome !== Rcode::NoError) {
            throw Unanswered::refused($this->server->name, "the notice that {$zone->title()} has changed: {$outcome->explained()}");
        }
    }

    public function renewals(Zone $zone): array
    {
        return [];
    }

    private function running(): ZoneRunning
    {
        return new ZoneRunning($this->dns, null);
    }

    private function placement(Zone $zone): ZoneServer
    {
        return $zone->placements->firstWhere('server_id', $this->server->id)
            ?? throw Unanswered::unasked($this->server->name, "the plan does not place {$zone->title()} there");
    }

    private function compared(ZoneServer $placement, bool $pending, bool $deep): Difference
    {
        $zone = $placement->zone;
        $has = $this->dns->serial($zone->origin());
        $waits = match (true) {
            $zone->silenced => $has === null ? null : 'silenced; no update takes a zone away, so take it away there',
            $has !== null => null,
            $placement->part === Part::Secondary => 'it does not have the zone: '.self::listed($zone).'make it there, with '
                .($zone->primaryPlacement()->server->endpoint ?? 'its primary').' as its primary',
            default => 'it does not have the zone: '.self::howToMake(),
        };
        if ($waits !== null) {
            return new Difference(
                'zone', $zone->id, $zone->line(), DifferenceState::Waiting, message: $waits, running: $has === null ? null : (string) $has,
                intended: (string) $zone->serial, drifted: $placement->shipped_serial !== null,
            );
        }
        // A serial that is not what was brought there is the server's own, and no journal of ours tells what came since: it is read as a
        // whole. So is whatever stood there before the first shipment, since that takes it away.
        $running = $this->running();
        $shipped = $placement->shipped_serial;
        $ours = $shipped !== null && $has !== null
            && ($has->equals(Serial::of($shipped)) || Serial::of($zone->serial)->isBefore($has));
        $found = $deep || ($placement->part !== Part::Secondary && ! $ours)
            ? $running->deep($placement, $has, $pending)
            : $running->quick($placement, $has, $pending);
        // The same lines prove nothing that was not asked for.
        $found = $found->state === DifferenceState::Same ? $running->quick($placement, $has, $pending) : $found;

        // An update carries what is changed, and as much again of what is asked for first.
        return $found->raising(intdiv(3 * ($found->removedCount + $found->addedCount), UpdatePlan::MOST));
    }

    /** Where a catalog lists the zone, who reads that has it by itself (RFC 9432). */
    private static function listed(Zone $zone): string
    {
        $primary = $zone->primaryPlacement()?->server;
        $catalog = $primary?->catalogOf($zone->view);

        return $catalog === null ? '' : 'it makes it by itself once it reads the catalog '.rtrim((string) $catalog, '.').'; or ';
    }

    private static function howToMake(): string
    {
        return 'make it there, and let the key transfer and update it';
    }

    /**
     * What changed since the serial that it runs, by the journal.
     *
     * @return array{list<DnsRecord>, list<DnsRecord>, list<DnsRecord>} sets as they stand there, removed, added
     */
    private function step(Zone $zone, Serial $has): array
    {
        // What was written since the serial was given goes with the next one; what stands there is reckoned back from all of it.
        [$removed, $added] = ZoneLines::stamped($zone, $has);
        [$gone, $come] = ZoneLines::net($zone, $has);
        $owners = [];
        foreach ([...$removed, ...$added] as $line) {
            $owner = Name::parse(explode(' ', $line, 2)[0]);
            $owners[$owner->sortKey()] = (string) $owner->lower();
        }
        $stands = [];
        foreach (array_chunk($owners, 500, true) as $chunk) {
            $keys = array_map(strval(...), array_keys($chunk));
            foreach (Record::query()->where('zone_id', $zone->id)->whereIn('owner_key', $keys)->toBase()->get() as $row) {
                $stands[ZoneLines::line($row->owner, $row->ttl ?? $zone->default_ttl, $row->type, $row->data)] = true;
            }
        }
        $touched = array_fill_keys($owners, true);
        $gone = array_filter($gone, static fn (string $l): bool => isset($touched[explode(' ', $l, 2)[0]]));
        $was = array_keys(array_diff_key($stands, array_fill_keys($come, true)) + array_fill_keys($gone, true));

        return array_map(self::records(...), [$was, $removed, $added]);
    }

    /**
     * What it runs, read as a whole, against what is meant.
     *
     * @return array{list<DnsRecord>, list<DnsRecord>, list<DnsRecord>} sets as they stand there, removed, added
     */
    private function whole(Zone $zone): array
    {
        $stands = $only = $this->running()->lines($zone);
        $added = [];
        foreach (ZoneLines::at($zone, Serial::of($zone->serial)) as $line) {
            if (isset($only[$line])) {
                unset($only[$line]);
            } else {
                $added[] = $line;
            }
        }
        $removed = array_map(strval(...), array_keys($only));
        $touched = [];
        foreach ([...$removed, ...$added] as $line) {
            $touched[explode(' ', $line, 2)[0]] = true;
        }
        $was = array_filter(array_keys($stands), static fn (string $line): bool => isset($touched[explode(' ', $line, 2)[0]]));

        return array_map(self::records(...), [array_values($was), $removed, $added]);
    }

    /**
     * @param  list<string>  $lines
     * @return list<DnsRecord>
     */
    private static function records(array $lines): array
    {
        return array_map(DnsRecord::ofLine(...), $lines);
    }

    private function taken(Rcode $outcome, Zone $zone): void
    {
        match ($outcome) {
            Rcode::NoError => null,
            Rcode::YxDomain, Rcode::YxRrset, Rcode::NxRrset, Rcode::NxDomain => throw Unanswered::differs(
                $this->server->name,
                "somebody changed names in {$zone->title()} there that this shipment writes, after they were read; nothing of theirs was "
                    .'overwritten. Compare it as a whole and decide',
            ),
            Rcode::Refused, Rcode::NotAuth => throw Unanswered::refused(
                $this->server->name,
                "it does not let {$this->server->key?->title()} update {$zone->title()}",
            ),
            default => throw Unanswered::refused($this->server->name, "the update of {$zone->title()}: {$outcome->explained()}"),
        };
    }
}
