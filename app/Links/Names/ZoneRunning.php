<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Difference;
use App\Links\DifferenceState;
use App\Models\Part;
use App\Models\Record;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/** What one server runs of a zone against what is meant, by the packets of the standard alone: its serial, or all of it by AXFR. */
final readonly class ZoneRunning
{
    /**
     * @param  DnsClient  $reader  may transfer the zone
     * @param  ?Address  $for  a client in the zone's view, where the server answers from one
     */
    public function __construct(private DnsClient $reader, private ?Address $for)
    {
    }

    /** @return \Generator<int, array{ZoneServer, bool}> what is placed on a server, and whether changes of it wait for a serial */
    public static function placed(Server $server): \Generator
    {
        $placements = ZoneServer::query()->with(['zone.view', 'zone.placements.server'])->where('server_id', $server->id)->get();
        $pending = DB::table('record_changes')->whereIn('zone_id', $placements->pluck('zone_id'))->whereNull('serial')
            ->distinct()->pluck('zone_id')->flip();
        foreach ($placements as $placement) {
            yield [$placement, $pending->has($placement->zone_id)];
        }
    }

    /**
     * @param  bool  $pending  changes wait for a serial
     * @param  string  $trouble  why a secondary could not fetch
     */
    public function quick(ZoneServer $placement, ?Serial $has, bool $pending, string $trouble = ''): Difference
    {
        $zone = $placement->zone;
        $follows = $placement->part === Part::Secondary;
        $meant = Serial::of($zone->serial);
        if ($zone->silenced) {
            return $this->silenced($zone, $has);
        }
        if ($has === null) {
            return $this->missing($placement, $trouble);
        }
        if ($meant->isBefore($has)) {
            return $this->ahead($zone, $has, $follows);
        }
        $proved = $placement->shipped_serial === $zone->serial && $placement->verified_at !== null;
        $unproved = match (true) {
            $follows => '',
            $placement->shipped_serial === null => 'the whole zone will be compared and sent',
            ! $pending && $has->equals($meant) && ! $proved => 'it has this serial, and nothing has proved it yet',
            default => '',
        };
        if ($unproved !== '' || ($has->equals($meant) && ! $pending)) {
            return $this->found($zone, $unproved === '' ? DifferenceState::Same : DifferenceState::Differs, [[], []], $unproved, $has);
        }
        $net = ZoneLines::net($zone, $has);
        $why = match (true) {
            $follows => $pending ? 'comes by way of the primary' : 'its primary has it; it is told to fetch',
            default => $net === [[], []] ? 'the SOA changes' : '',
        };

        return $this->found($zone, DifferenceState::Differs, $net, $why, $has);
    }

    /** Reads the whole running zone by AXFR and compares it line by line: finds what was changed behind our back. */
    public function deep(ZoneServer $placement, ?Serial $has, bool $pending): Difference
    {
        $zone = $placement->zone;
        if ($has === null || $zone->silenced) {
            return $this->quick($placement, $has, true);
        }
        $drift = $this->drift($zone);
        $same = $drift === [[], []] && $has->equals(Serial::of($zone->serial));

        return $this->found(
            $zone, $same ? DifferenceState::Same : DifferenceState::Differs, $drift,
            $same ? '' : ($drift === [[], []] ? 'read as a whole, the SOA alone changes' : 'read as a whole'), $has,
            drifted: ! $same && ! $pending && $drift !== [[], []], readWhole: true,
        );
    }

    /**
     * The running zone, read as a whole, against the intended one.
     *
     * @return array{list<string>, list<string>} lines that only the server has, and lines that only the plan has
     */
    public function drift(Zone $zone): array
    {
        $running = $this->lines($zone);
        $added = [];
        foreach (ZoneLines::of($zone) as $line) {
            if (isset($running[$line])) {
                unset($running[$line]);
            } else {
                $added[] = $line;
            }
        }
        // What waits to be shipped differs on purpose.
        $waits = ZoneLines::waiting($zone);
        $removed = array_keys(array_diff_key($running, $waits['-']));
        sort($removed);

        return [$removed, array_values(array_filter($added, static fn (string $l): bool => ! isset($waits['+'][$l])))];
    }

    /** @return array<string, true> all that it runs but for the SOA, by AXFR */
    public function lines(Zone $zone): array
    {
        $running = [];
        foreach ($this->reader->transfer($zone->origin(), $this->for) as $record) {
            if ($record->type()->number !== RecordType::SOA) {
                $owner = (string) $record->owner->lower();
                $running[ZoneLines::line($owner, $record->ttl, $record->type()->number, $record->data->text())] = true;
            }
        }

        return $running;
    }

    private function silenced(Zone $zone, ?Serial $has): Difference
    {
        return new Difference(
            'zone', $zone->id, $zone->line(), $has === null
                ? DifferenceState::Same : DifferenceState::Differs, $has === null ? [] : ['the whole zone'],
            message: 'silenced', running: $has === null ? null : (string) $has,
        );
    }

    private function missing(ZoneServer $placement, string $trouble): Difference
    {
        $zone = $placement->zone;
        $why = match (true) {
            $placement->part === Part::Secondary => $trouble === ''
                ? 'it is told to fetch the zone from its primary' : "not fetched: $trouble",
            $placement->shipped_serial === null => 'not on this server yet',
            default => 'it was shipped here and is not there any more',
        };

        return new Difference(
            'zone', $zone->id, $zone->line(), DifferenceState::New, addedCount: Record::query()->where('zone_id', $zone->id)
                ->count() + 1, message: $why,
            intended: (string) $zone->serial, drifted: $placement->shipped_serial !== null,
        );
    }

    /** What a shipment would take away is read before it is drawn. */
    private function ahead(Zone $zone, Serial $has, bool $follows): Difference
    {
        $why = "its serial $has is ahead of ours, $zone->serial: ".($follows ? 'the primary was changed' : 'somebody changed it there');

        return $this->found($zone, DifferenceState::Ahead, $follows
            ? [[], []] : $this->drift($zone), $why, $has, drifted: true, readWhole: true);
    }

    /**
     * @param  array{list<string>, list<string>}  $lines  that only the server has, and that only the plan has
     */
    private function found(
        Zone $zone,
        DifferenceState $state,
        array $lines,
        string $why,
        Serial $has,
        bool $drifted = false,
        bool $readWhole = false,
    ): Difference {
        [$removed, $added] = $lines;

        return new Difference(
            'zone', $zone->id, $zone->line(), $state, array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED), count($removed), count($added), $why, (string) $has, (string) $zone->serial,
            $drifted, $readWhole,
        );
    }
}
