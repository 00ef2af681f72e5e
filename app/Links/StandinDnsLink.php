<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Record;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\View;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/** A DNS stand-in: zones go over the control channel by difference against a serial, and are read back by SOA and AXFR packets. */
final readonly class StandinDnsLink implements Link
{
    /** Records a message of a whole zone carries. */
    private const PART = 2000;

    /** Changed names that are asked for after a shipment. */
    private const SAMPLE = 12;

    /** Types that signing makes: proved by what they sign. */
    private const MADE = [
        RecordType::RRSIG, RecordType::NSEC, RecordType::NSEC3, RecordType::NSEC3PARAM, RecordType::DNSKEY, RecordType::CDS,
        RecordType::CDNSKEY,
    ];

    /** Seconds that a secondary gets to fetch what its primary has. */
    private const FETCHING = 2.0;

    public function __construct(private Server $server, private ControlChannel $channel, private DnsClient $dns)
    {
    }

    public function compare(bool $deep = false): array
    {
        $placements = ZoneServer::query()->with(['zone.view', 'zone.placements.server'])->where('server_id', $this->server->id)->get();
        $running = $this->listing();
        $pending = DB::table('record_changes')->whereIn('zone_id', $placements->pluck('zone_id'))->whereNull('serial')
            ->distinct()->pluck('zone_id')->flip();
        $differences = [];
        foreach ($placements as $placement) {
            $zone = $placement->zone;
            $key = $zone->view->name.' '.$zone->name;
            $there = $running[$key] ?? null;
            $has = isset($there['serial']) ? Serial::of((int) $there['serial']) : null;
            unset($running[$key]);
            $difference = match (true) {
                $deep => $this->deep($zone, $has, $pending->has($zone->id)),
                default => $this->quick(
                    $zone,
                    $placement,
                    $has,
                    $pending->has($zone->id),
                    (string) (is_string($there['trouble'] ?? null) ? $there['trouble'] : ''),
                ),
            };
            $differences[] = $zone->silenced || $has === null ? $difference : ZoneTerms::added($difference, $placement, $there ?? []);
        }
        if ($this->server->resolving !== null) {
            $differences[] = $this->resolving();
        }
        foreach (array_keys($running) as $key) {
            $differences[] = new Difference(
                'zone',
                (string) $key,
                (string) $key,
                'gone',
                message: 'the plan does not place this zone here',
                running: (string) ($running[$key]['serial'] ?? ''),
                drifted: true,
            );
        }

        return $differences;
    }

    public function apply(string $kind, string $id): void
    {
        if ($kind === 'resolving') {
            $this->channel->ask('resolving', Resolving::message($this->server));

            return;
        }
        $this->channel->ask(
            'views',
            [
                'views' => View::query()->orderBy('position')->get()
                    ->map(fn (View $v): array => ['name' => $v->name, 'clients' => $v->clients])->all(),
            ],
        );
        $this->channel->ask(
            'keys',
            [
                'keys' => TransferKey::query()->orderBy('name')->get()
                    ->map(fn (TransferKey $k): array => ['name' => $k->name, 'secret' => $k->secret])->all(),
            ],
        );
        $zone = Zone::query()->with(['view', 'placements.server'])->find($id);
        if ($zone === null || $zone->silenced) {
            [$view, $name] = $zone === null ? explode(' ', $id, 2) : [$zone->view->name, $zone->name];
            $this->channel->ask('drop', ['view' => $view, 'zone' => $name]);

            return;
        }
        $placement = ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server->id)->firstOrFail();
        if ($placement->part === 'secondary') {
            $this->follow($zone);

            return;
        }
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
        if ($kind === 'resolving') {
            $left = $this->resolving();

            return $left->needsShipping()
                ? throw Unanswered::differs(
                    $this->server->name,
                    'read back, it still differs: '.implode('; ', [...$left->removed, ...$left->added]),
                )
                : 'read back: '.implode(', ', Resolving::lines(Resolving::message($this->server)));
        }
        $zone = Zone::query()->with(['view', 'placements'])->find($id);
        if ($zone === null) {
            return 'the zone is gone from the server';
        }
        $for = $this->client($zone);
        $secondary = $zone->placements->firstWhere('server_id', $this->server->id)?->part === 'secondary';
        $serial = $this->dns->serial($zone->origin(), $for);
        if ($zone->silenced) {
            return $serial === null
                ? 'the zone is silenced and not answered'
                : throw Unanswered::differs($this->server->name, "it still answers the silenced zone {$zone->title()}");
        }
        // A secondary fetches by itself: it is given its time.
        for (
            $end = microtime(true) + ($secondary ? self::FETCHING : 0); ($serial === null || ! $serial->equals(Serial::of($zone->serial)))
                && microtime(true) < $end; usleep(40_000)
        ) {
            $serial = $this->dns->serial($zone->origin(), $for);
        }
        if ($serial === null || ! $serial->equals(Serial::of($zone->serial))) {
            $why = $secondary ? ': '.($this->listing()["{$zone->view->name} $zone->name"]['trouble'] ?? 'not fetched yet') : '';
            throw Unanswered::differs(
                $this->server->name,
                "{$zone->title()} is meant to have serial $zone->serial, it answers "
                    .($serial ?? 'no SOA')
                    .($why === ': ' ? ', its primary has no newer one; ship that first' : $why),
            );
        }
        $asked = $hidden = 0;
        foreach ($this->changedSets($zone) as $set) {
            $this->verifySet($zone, Name::parse($set->owner), RecordType::of($set->type), $for) ? $asked++ : $hidden++;
        }
        $signed = $zone->signed_since === null && $zone->policy_id === null ? '' : $this->verifySigned($zone, $for);
        $sets = static fn (int $n): string => $n === 1 ? '1 changed record set' : "$n changed record sets";

        return ($secondary ? 'fetched from its primary; ' : '')
            ."SOA $serial answered with authority"
            .($asked === 0 ? '' : ", {$sets($asked)} asked and right")
            .$signed
            .($hidden === 0 ? '' : "; {$sets($hidden)} cannot be asked for here: below a delegation or a wildcard, so not proved");
    }

    /** @return array<string, array<string, mixed>> "view zone" → what the server says of it */
    public function listing(): array
    {
        $running = [];
        foreach ((array) ($this->channel->ask('zones')['zones'] ?? []) as $zone) {
            if (is_array($zone)) {
                $running[$zone['view'].' '.$zone['zone']] = $zone;
            }
        }

        return $running;
    }

    /**
     * The running zone, read as a whole, against the intended one.
     *
     * @return array{list<string>, list<string>} lines that only the server has, and lines that only the plan has
     */
    public function drift(Zone $zone): array
    {
        $running = [];
        foreach ($this->reader()->transfer($zone->origin(), $this->client($zone)) as $record) {
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
        // What waits to be shipped differs on purpose.
        $waits = ['+' => [], '-' => []];
        foreach (
            DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->orderBy('id')
                ->get(['op', 'owner', 'ttl', 'type', 'data']) as $change
        ) {
            $waits[(string) $change->op][
                self::line((string) $change->owner, (int) ($change->ttl ?? $zone->default_ttl), (int) $change->type, (string) $change->data)
            ] = true;
        }
        $removed = array_keys(array_diff_key($running, $waits['-']));
        sort($removed);

        return [$removed, array_values(array_filter($added, static fn (string $l): bool => ! isset($waits['+'][$l])))];
    }

    /** Tells a secondary to ask its primary now. */
    public function fetch(Zone $zone): void
    {
        $this->channel->ask('ask', ['view' => $zone->view->name, 'zone' => $zone->name]);
    }

    /** @return array<string, int> "owner type" → when a client last registered or renewed it */
    public function renewals(Zone $zone): array
    {
        return array_filter(
            (array) ($this->channel->ask('renewals', ['view' => $zone->view->name, 'zone' => $zone->name])['renewals'] ?? []),
            is_int(...),
        );
    }

    /** Reads with the key that only the holder of the control token has, whoever else may transfer. */
    public function reader(): DnsClient
    {
        return $this->dns->signing(
            TsigKey::of(Name::parse('control.'), base64_encode(hash('sha256', (string) $this->server->token, true))),
        );
    }

    /** @return array<mixed> how the server says that it resolves */
    public function resolves(): array
    {
        return (array) ($this->channel->ask('resolved')['resolving'] ?? []);
    }

    private function resolving(): Difference
    {
        $is = Resolving::lines($this->resolves());
        $meant = Resolving::lines(Resolving::message($this->server));
        $removed = array_values(array_diff($is, $meant));
        $added = array_values(array_diff($meant, $is));

        $same = $removed === [] && $added === [];
        $asBrought = (Brought::to($this->server->id, 'resolving')['resolving'] ?? null) === Resolving::digest($this->server);

        return new Difference(
            'resolving', 'resolving', 'How it resolves', $same ? 'same' : 'differs', $removed, $added, count($removed), count($added),
            drifted: ! $same && $asBrought,
        );
    }

    /** The secondary asks the primary for itself: it is told where that is, and the rest is its own. */
    private function follow(Zone $zone): void
    {
        $primary = $zone->primaryPlacement()->server
            ?? throw Unanswered::refused($this->server->name, "{$zone->title()} has no primary to follow");
        $this->channel->ask(
            'secondary',
            [
                'view' => $zone->view->name, 'zone' => $zone->name, 'primary' => $primary->endpoint,
                'key' => ZoneTerms::transferKey($zone), 'client' => (string) $this->client($zone),
            ] + ZoneTerms::of($zone, false),
        );
        $this->fetch($zone);
    }

    /** Lines of the intended zone, in canonical order, the SOA not among them. */
    public static function lines(Zone $zone, ?string $after = null): \Generator
    {
        $rows = Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')->orderBy('data_hash')->toBase();
        foreach ($rows->lazy(5000) as $row) {
            yield self::line($row->owner, $row->ttl ?? $zone->default_ttl, $row->type, $row->data);
        }
        foreach (DB::table('signed_records')->where('zone_id', $zone->id)->orderBy('id')->lazy(5000) as $row) {
            yield self::line($row->owner, $row->ttl, $row->type, $row->data);
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

    /** @param  string  $trouble  why a secondary could not fetch */
    private function quick(Zone $zone, ZoneServer $placement, ?Serial $has, bool $pending, string $trouble = ''): Difference
    {
        $follows = $placement->part === 'secondary';
        $title = $zone->line();
        $intended = (string) $zone->serial;
        if ($zone->silenced) {
            return new Difference(
                'zone',
                $zone->id,
                $title,
                $has === null ? 'same' : 'differs',
                $has === null ? [] : ['the whole zone'],
                [],
                0,
                0,
                'silenced',
                $has === null ? null : (string) $has,
                null,
            );
        }
        if ($has === null) {
            $count = Record::query()->where('zone_id', $zone->id)->count();

            return new Difference(
                'zone',
                $zone->id,
                $title,
                'new',
                [],
                [],
                0,
                $count + 1,
                $follows
                    ? ($trouble === '' ? 'it is told to fetch the zone from its primary' : "not fetched: $trouble")
                    : ($placement->shipped_serial === null ? 'not on this server yet' : 'it was shipped here and is not there any more'),
                null,
                $intended,
                drifted: $placement->shipped_serial !== null,
            );
        }
        if (Serial::of($zone->serial)->isBefore($has)) {
            $why = "its serial $has is ahead of ours, $intended: ".($follows ? 'the primary was changed' : 'somebody changed it there');
            // What a shipment would take away is read before it is drawn.
            [$removed, $added] = $follows ? [[], []] : $this->drift($zone);

            return new Difference(
                'zone',
                $zone->id,
                $title,
                'ahead',
                array_slice($removed, 0, Difference::LISTED),
                array_slice($added, 0, Difference::LISTED),
                count($removed),
                count($added),
                $why,
                (string) $has,
                $intended,
                drifted: true,
                readWhole: true,
            );
        }
        if (! $follows && $placement->shipped_serial === null) {
            return new Difference(
                'zone',
                $zone->id,
                $title,
                'differs',
                message: 'the whole zone will be compared and sent',
                running: (string) $has,
                intended: $intended,
            );
        }
        if (
            ! $follows
                && ! $pending
                && $has->equals(Serial::of($zone->serial))
                && ($placement->shipped_serial !== $zone->serial || $placement->verified_at === null)
        ) {
            return new Difference(
                'zone',
                $zone->id,
                $title,
                'differs',
                message: 'it has this serial, and nothing has proved it yet',
                running: (string) $has,
                intended: $intended,
            );
        }
        if ($has->equals(Serial::of($zone->serial)) && ! $pending) {
            return new Difference('zone', $zone->id, $title, 'same', running: (string) $has, intended: $intended);
        }
        [$removed, $added] = $this->net($zone, $has);
        $soaOnly = $removed === [] && $added === [] ? 'the SOA changes' : '';

        return new Difference(
            'zone', $zone->id, $title, 'differs',
            array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED),
            count($removed),
            count($added),
            $follows ? ($pending ? 'comes by way of the primary' : 'its primary has it; it is told to fetch') : $soaOnly,
            (string) $has,
            $intended,
        );
    }

    /** Reads the whole running zone by AXFR and compares it line by line: finds what was changed behind our back. */
    private function deep(Zone $zone, ?Serial $has, bool $pending): Difference
    {
        if ($has === null || $zone->silenced) {
            return $this->quick(
                $zone,
                ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server->id)->firstOrFail(),
                $has,
                true,
            );
        }
        [$removed, $added] = $this->drift($zone);
        $same = $added === [] && $removed === [] && $has->equals(Serial::of($zone->serial));

        return new Difference(
            'zone',
            $zone->id,
            $zone->line(),
            $same ? 'same' : 'differs',
            array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED),
            count($removed),
            count($added),
            $same ? '' : 'read as a whole',
            (string) $has,
            (string) $zone->serial,
            drifted: ! $same && ! $pending && ($added !== [] || $removed !== []),
            readWhole: true,
        );
    }

    /**
     * The net of the journal since a serial, together with what waits.
     *
     * @return array{list<string>, list<string>} removed and added lines
     */
    private function net(Zone $zone, Serial $since): array
    {
        $net = [];
        $changes = DB::table('record_changes')->where('zone_id', $zone->id)
            ->where(fn ($q) => $q->whereNull('serial')->orWhere('serial', '>', $since->value))->orderBy('id')->get();
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
        $known = $has->equals(Serial::of($zone->serial))
            || DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', '>', $has->value)->exists();
        if (! $known || Serial::of($zone->serial)->isBefore($has)) {
            return false;
        }
        [$removed, $added] = $this->net($zone, $has);
        $answer = $this->channel->ask('apply', [
            'view' => $zone->view->name, 'zone' => $zone->name, 'from' => $has->value,
            'remove' => [...$removed, ...$this->soaRunning($zone)], 'add' => [...$added, self::soaLine($zone, Serial::of($zone->serial))],
        ] + ZoneTerms::of($zone, true), errorsToo: true);
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

        return array_map(
            fn (DnsRecord $r): string => self::line((string) $r->owner->lower(), $r->ttl, RecordType::SOA, $r->data->text()),
            $answers,
        );
    }

    private function whole(Zone $zone): void
    {
        $part = [self::soaLine($zone, Serial::of($zone->serial))];
        $first = true;
        $send = function (bool $more) use ($zone, &$part, &$first): void {
            $this->channel->ask(
                'apply',
                [
                    'view' => $zone->view->name, 'zone' => $zone->name, 'from' => null, 'first' => $first, 'more' => $more,
                    'add' => $part,
                ] + ZoneTerms::of($zone, true),
                once: true,
            );
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
        return DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', $zone->serial)
            ->where('op', '!=', '~')->whereNotIn('type', self::MADE)->distinct()->limit(self::SAMPLE)->get(['owner', 'type'])->all();
    }

    /** @return bool false when the server does not answer for such a name itself */
    private function verifySet(Zone $zone, Name $owner, RecordType $type, ?Address $for): bool
    {
        $meant = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())
            ->where('type', $type->number)->pluck('data')->sort()->values()->all();
        if ($owner->isWildcard() || $this->isElsewhere($zone, $owner)) {
            return false;
        }
        $answer = $this->dns->ask($owner, $type, $for, false)->message;
        $got = array_values(
            array_filter(
                array_map(
                    fn (DnsRecord $r): ?string => $r->type()->equals($type) && $r->owner->equals($owner) ? $r->data->text() : null,
                    $answer->answers,
                ),
            ),
        );
        sort($got);
        if ($got !== $meant && ! ($meant === [] && $answer->answers !== [] && $got === [])) {
            throw Unanswered::differs(
                $this->server->name,
                "$owner $type is meant to be "
                    .(implode(', ', $meant) ?: 'nothing')
                    .', it answers '
                    .(implode(', ', $got) ?: $answer->rcode->explained()),
            );
        }

        return true;
    }

    /** What it answers is signed by the keys that are meant: its SOA and its keys, from the newest entry down. */
    private function verifySigned(Zone $zone, ?Address $for): string
    {
        $entry = $zone->keys()->get()->filter(fn (ZoneKey $k): bool => $k->isEntry())->last();
        if ($entry === null) {
            return '';
        }
        $verdict = $this->dns->judge(
            new Question($zone->origin(), RecordType::of(RecordType::SOA)),
            [new DnsRecord($zone->origin(), 0, $entry->dnskey())],
            now()->getTimestamp(),
            $for,
            recursion: false,
        );

        return $verdict->trust === Trust::Secure
            ? ', its signature holds'
            : throw Unanswered::differs(
                $this->server->name,
                "{$zone->title()} is meant to be signed by key $entry->tag: {$verdict->words()}",
            );
    }

    /** Below a delegation or a DNAME of the zone, or in a zone of its own on the same view. */
    private function isElsewhere(Zone $zone, Name $owner): bool
    {
        $names = $keys = [];
        for ($up = $owner; $up !== null && ! $up->equals($zone->origin()); $up = $up->parent()) {
            $names[] = (string) $up->lower();
            $keys[] = $up->sortKey();
        }

        return $keys !== [] && (Record::query()->where('zone_id', $zone->id)->whereIn('owner_key', $keys)
            ->whereIn('type', [RecordType::NS, RecordType::DNAME])->exists()
            || Zone::query()->where('view_id', $zone->view_id)->whereIn('name', $names)->exists());
    }

    /** A client that falls into the view, so that the server answers from it. */
    private function client(Zone $zone): ?Address
    {
        return $zone->clientInView();
    }
}
