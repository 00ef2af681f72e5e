<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Record;
use App\Models\Server;
use App\Models\View;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Support\Facades\DB;

/** A DNS stand-in: zones go over the control channel by difference against a serial, and are read back by SOA and AXFR packets. */
final readonly class StandinDnsLink implements Link
{
    /** Records a message of a whole zone carries. */
    private const PART = 2000;

    /** Changed names that are asked for after a shipment. */
    private const SAMPLE = 12;

    public function __construct(private Server $server, private ControlChannel $channel, private DnsClient $dns)
    {
    }

    public function compare(bool $deep = false): array
    {
        $placements = ZoneServer::query()->with('zone.view')->where('server_id', $this->server->id)->get();
        $running = [];
        foreach ((array) ($this->channel->ask('zones')['zones'] ?? []) as $zone) {
            $running[$zone['view'].' '.$zone['zone']] = $zone['serial'];
        }
        $pending = DB::table('record_changes')->whereIn('zone_id', $placements->pluck('zone_id'))->whereNull('serial')->distinct()->pluck('zone_id')->flip();
        $differences = [];
        foreach ($placements as $placement) {
            $zone = $placement->zone;
            $key = $zone->view->name.' '.$zone->name;
            $has = isset($running[$key]) ? Serial::of($running[$key]) : null;
            unset($running[$key]);
            $differences[] = $deep ? $this->deep($zone, $has) : $this->quick($zone, $placement, $has, $pending->has($zone->id));
        }
        foreach (array_keys($running) as $key) {
            $differences[] = new Difference('zone', (string) $key, (string) $key, 'gone', message: 'the plan does not place this zone here', running: (string) $running[$key]);
        }

        return $differences;
    }

    public function apply(string $kind, string $id): void
    {
        $this->channel->ask('views', ['views' => View::query()->orderBy('position')->get()->map(fn (View $v): array => ['name' => $v->name, 'clients' => $v->clients])->all()]);
        $zone = Zone::query()->with('view')->find($id);
        if ($zone === null || $zone->silenced) {
            [$view, $name] = $zone === null ? explode(' ', $id, 2) : [$zone->view->name, $zone->name];
            $this->channel->ask('drop', ['view' => $view, 'zone' => $name]);

            return;
        }
        $placement = ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server->id)->firstOrFail();
        $has = $this->dns->serial($zone->origin(), $this->client($zone));
        if ($has === null || $placement->shipped_serial === null || ! $this->bySteps($zone, $has)) {
            try {
                $this->whole($zone);
            } catch (Unanswered $e) {
                // Parts of a whole zone cannot be sent twice, the whole can.
                $e->mayPass && ! $e->late ? $this->whole($zone) : throw $e;
            }
        }
    }

    public function verify(string $kind, string $id): string
    {
        $zone = Zone::query()->with('view')->find($id);
        if ($zone === null) {
            return 'the zone is gone from the server';
        }
        $for = $this->client($zone);
        $serial = $this->dns->serial($zone->origin(), $for);
        if ($zone->silenced) {
            return $serial === null ? 'the zone is silenced and not answered' : throw Unanswered::refused($this->server->name, "it still answers the silenced zone {$zone->title()}");
        }
        if ($serial === null || ! $serial->equals(Serial::of($zone->serial))) {
            throw Unanswered::refused($this->server->name, "{$zone->title()} is meant to have serial $zone->serial, it answers ".($serial ?? 'no SOA'));
        }
        $asked = 0;
        foreach ($this->changedSets($zone) as $set) {
            $this->verifySet($zone, Name::parse($set->owner), RecordType::of($set->type), $for);
            $asked++;
        }

        return "SOA $serial answered with authority".($asked === 0 ? '' : ", $asked changed record sets asked and right");
    }

    /** Lines of the intended zone, in canonical order, the SOA not among them. */
    public static function lines(Zone $zone, ?string $after = null): \Generator
    {
        $rows = Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')->orderBy('data_hash')->toBase();
        foreach ($rows->lazy(5000) as $row) {
            yield self::line($row->owner, $row->ttl ?? $zone->default_ttl, $row->type, $row->data);
        }
    }

    public static function soaLine(Zone $zone, Serial $serial): string
    {
        return self::line($zone->name, $zone->default_ttl, RecordType::SOA, $zone->soa($serial)->text());
    }

    private static function line(string $owner, int $ttl, int $type, string $data): string
    {
        return $owner.' '.$ttl.' '.RecordType::of($type).' '.$data;
    }

    private function quick(Zone $zone, ZoneServer $placement, ?Serial $has, bool $pending): Difference
    {
        $title = $zone->line();
        $intended = (string) $zone->serial;
        if ($zone->silenced) {
            return new Difference('zone', $zone->id, $title, $has === null ? 'same' : 'differs', $has === null ? [] : ['the whole zone'], [], 0, 0, 'silenced', $has === null ? null : (string) $has, null);
        }
        if ($has === null) {
            $count = Record::query()->where('zone_id', $zone->id)->count();

            return new Difference('zone', $zone->id, $title, 'new', [], [], 0, $count + 1, 'not on this server yet', null, $intended);
        }
        if (Serial::of($zone->serial)->isBefore($has)) {
            return new Difference('zone', $zone->id, $title, 'ahead', message: "its serial $has is ahead of ours, $intended: somebody changed it there", running: (string) $has, intended: $intended);
        }
        if ($placement->shipped_serial === null) {
            return new Difference('zone', $zone->id, $title, 'differs', message: 'the whole zone will be compared and sent', running: (string) $has, intended: $intended);
        }
        if ($has->equals(Serial::of($zone->serial)) && ! $pending) {
            return new Difference('zone', $zone->id, $title, 'same', running: (string) $has, intended: $intended);
        }
        [$removed, $added] = $this->net($zone, $has);

        return new Difference(
            'zone', $zone->id, $title, 'differs',
            array_slice($removed, 0, Difference::LISTED), array_slice($added, 0, Difference::LISTED), count($removed), count($added), $removed === [] && $added === [] ? 'the SOA changes' : '', (string) $has, $intended,
        );
    }

    /** Reads the whole running zone by AXFR and compares it line by line: finds what was changed behind our back. */
    private function deep(Zone $zone, ?Serial $has): Difference
    {
        if ($has === null || $zone->silenced) {
            return $this->quick($zone, ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server->id)->firstOrFail(), $has, true);
        }
        $running = [];
        foreach ($this->dns->transfer($zone->origin(), $this->client($zone)) as $record) {
            if ($record->type()->number !== RecordType::SOA) {
                $running[self::line((string) $record->owner->lower(), $record->ttl, $record->type()->number, $record->data->text())] = true;
            }
        }
        $added = [];
        foreach (self::lines($zone) as $line) {
            if (isset($running[$line])) {
                unset($running[$line]);
            } else {
                $added[] = $line;
            }
        }
        $removed = array_keys($running);
        sort($removed);
        $same = $added === [] && $removed === [] && $has->equals(Serial::of($zone->serial));

        return new Difference('zone', $zone->id, $zone->line(), $same ? 'same' : 'differs', array_slice($removed, 0, Difference::LISTED), array_slice($added, 0, Difference::LISTED), count($removed), count($added), $same ? '' : 'read as a whole', (string) $has, (string) $zone->serial);
    }

    /**
     * The net of the journal since a serial, together with what waits.
     *
     * @return array{list<string>, list<string>} removed and added lines
     */
    private function net(Zone $zone, Serial $since): array
    {
        $net = [];
        $changes = DB::table('record_changes')->where('zone_id', $zone->id)->where(fn ($q) => $q->whereNull('serial')->orWhere('serial', '>', $since->value))->orderBy('id')->get();
        foreach ($changes as $change) {
            if ($change->op === '~') {
                continue;
            }
            $line = self::line($change->owner, $change->ttl ?? $zone->default_ttl, $change->type, $change->data);
            $net[$line] = ($net[$line] ?? 0) + ($change->op === '+' ? 1 : -1);
        }
        $removed = array_keys(array_filter($net, fn (int $n): bool => $n < 0));
        $added = array_keys(array_filter($net, fn (int $n): bool => $n > 0));

        return [$removed, $added];
    }

    /** Sends only what changed since the serial that runs; false when the journal does not reach back that far. */
    private function bySteps(Zone $zone, Serial $has): bool
    {
        $known = $has->equals(Serial::of($zone->serial)) || DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', '>', $has->value)->exists();
        if (! $known || Serial::of($zone->serial)->isBefore($has)) {
            return false;
        }
        [$removed, $added] = $this->net($zone, $has);
        $answer = $this->channel->ask('apply', [
            'view' => $zone->view->name, 'zone' => $zone->name, 'from' => $has->value, 'transfer' => ['127.0.0.0/8'],
            'remove' => [...$removed, ...$this->soaRunning($zone)], 'add' => [...$added, self::soaLine($zone, Serial::of($zone->serial))],
        ], errorsToo: true);
        if (($answer['error'] ?? null) === 'serial' && ($answer['serial'] ?? null) === $zone->serial) {
            return true; // The answer to the first sending was lost, not the message.
        }
        if (isset($answer['error'])) {
            return $answer['error'] === 'serial' ? false : throw Unanswered::refused($this->server->name, (string) $answer['error']);
        }

        return true;
    }

    /** @return list<string> the SOA that the server has now, which the new one replaces */
    private function soaRunning(Zone $zone): array
    {
        $answers = $this->dns->ask($zone->origin(), RecordType::of(RecordType::SOA), $this->client($zone), false)->message->answers;

        return array_map(fn (DnsRecord $r): string => self::line((string) $r->owner->lower(), $r->ttl, RecordType::SOA, $r->data->text()), $answers);
    }

    private function whole(Zone $zone): void
    {
        $part = [self::soaLine($zone, Serial::of($zone->serial))];
        $first = true;
        $send = function (bool $more) use ($zone, &$part, &$first): void {
            $this->channel->ask('apply', ['view' => $zone->view->name, 'zone' => $zone->name, 'from' => null, 'first' => $first, 'more' => $more, 'add' => $part, 'transfer' => ['127.0.0.0/8']], once: true);
            $part = [];
            $first = false;
        };
        foreach (self::lines($zone) as $line) {
            $part[] = $line;
            if (count($part) >= self::PART) {
                $send(true);
            }
        }
        $send(false);
    }

    /** @return list<object{owner: string, type: int}> */
    private function changedSets(Zone $zone): array
    {
        return DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', $zone->serial)->where('op', '!=', '~')->distinct()->limit(self::SAMPLE)->get(['owner', 'type'])->all();
    }

    private function verifySet(Zone $zone, Name $owner, RecordType $type, ?Address $for): void
    {
        $meant = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())->where('type', $type->number)->pluck('data')->sort()->values()->all();
        $cut = Record::query()->where('zone_id', $zone->id)->where('owner', '!=', $zone->name)->where('type', RecordType::NS)->pluck('owner')->contains(fn (string $o): bool => $owner->isIn(Name::parse($o)));
        if ($owner->isWildcard() || $cut) {
            return;
        }
        $answer = $this->dns->ask($owner, $type, $for, false)->message;
        $got = array_values(array_filter(array_map(fn (DnsRecord $r): ?string => $r->type()->equals($type) && $r->owner->equals($owner) ? $r->data->text() : null, $answer->answers)));
        sort($got);
        if ($got !== $meant && ! ($meant === [] && $answer->answers !== [] && $got === [])) {
            throw Unanswered::refused($this->server->name, "$owner $type is meant to be ".(implode(', ', $meant) ?: 'nothing').', it answers '.(implode(', ', $got) ?: $answer->rcode->explained()));
        }
    }

    /** A client that falls into the view, so that the server answers from it. */
    private function client(Zone $zone): ?Address
    {
        $prefix = $zone->view->clients[0] ?? null;

        return $prefix === null ? null : Prefix::parse($prefix)->usable()->first;
    }
}
