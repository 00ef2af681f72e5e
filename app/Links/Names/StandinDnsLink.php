<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Brought;
use App\Links\ControlChannel;
use App\Links\Difference;
use App\Links\DifferenceState;
use App\Links\Unanswered;
use App\Models\Part;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\View;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\TsigKey;
use Illuminate\Support\Facades\DB;

/** A DNS stand-in: zones go over the control channel by difference against a serial, and are read back by SOA and AXFR packets. */
final readonly class StandinDnsLink implements NameLink
{
    /** Records a message of a whole zone carries. */
    private const PART = 2000;

    public function __construct(private Server $server, private ControlChannel $channel, private DnsClient $dns)
    {
    }

    public function compare(bool $deep = false): array
    {
        $running = $this->listing();
        $differences = [];
        foreach (ZoneRunning::placed($this->server) as [$placement, $pending]) {
            $zone = $placement->zone;
            $key = $zone->view->name.' '.$zone->name;
            $there = $running[$key] ?? null;
            $has = isset($there['serial']) ? Serial::of((int) $there['serial']) : null;
            unset($running[$key]);
            $state = $this->running($zone);
            $difference = $deep
                ? $state->deep($placement, $has, $pending)
                : $state->quick($placement, $has, $pending, self::word($there['trouble'] ?? null));
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
                DifferenceState::Gone,
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
                    ->map(fn (TransferKey $k): array => $k->told())->all(),
            ],
        );
        $zone = Zone::query()->with(['view', 'placements.server'])->find($id);
        if ($zone === null || $zone->silenced) {
            [$view, $name] = $zone === null ? explode(' ', $id, 2) : [$zone->view->name, $zone->name];
            $this->channel->ask('drop', ['view' => $view, 'zone' => $name]);

            return;
        }
        $placement = ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server->id)->firstOrFail();
        if ($placement->part === Part::Secondary) {
            $this->follow($zone);

            return;
        }
        $has = $this->dns->serial($zone->origin(), $zone->clientInView());
        if ($has === null || $placement->shipped_serial === null || ! $this->bySteps($zone, $has)) {
            try {
                $this->whole($zone);
            } catch (Unanswered $e) {
                // Parts of a whole zone cannot be sent twice, the whole can.
                $e->mayPass && ! $e->late ? $this->whole($zone) : throw $e;
            }
        }
    }

    public function proves(string $kind, string $id): bool
    {
        return true;
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
        $secondary = $zone->placements->firstWhere('server_id', $this->server->id)?->part === Part::Secondary;
        $trouble = fn (): string => self::word(($this->told($zone) ?: ['trouble' => 'not fetched yet'])['trouble'] ?? null);

        return (new ZoneProof($this->server->name, $this->dns, $zone->clientInView()))->of($zone, $secondary, $trouble);
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

    public function told(Zone $zone): array
    {
        return $this->listing()["{$zone->view->name} $zone->name"] ?? [];
    }

    public function drift(Zone $zone): array
    {
        return $this->running($zone)->drift($zone);
    }

    private function running(Zone $zone): ZoneRunning
    {
        return new ZoneRunning($this->reader(), $zone->clientInView());
    }

    private static function word(mixed $said): string
    {
        return is_string($said) ? $said : '';
    }

    public function fetch(Zone $zone): void
    {
        $this->channel->ask('ask', ['view' => $zone->view->name, 'zone' => $zone->name]);
    }

    public function renewals(Zone $zone): array
    {
        return array_filter(
            (array) ($this->channel->ask('renewals', ['view' => $zone->view->name, 'zone' => $zone->name])['renewals'] ?? []),
            is_int(...),
        );
    }

    /** With the key that only the holder of the control token has, whoever else may transfer. */
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
            'resolving', 'resolving', 'How it resolves', $same
                ? DifferenceState::Same : DifferenceState::Differs, $removed, $added, count($removed), count($added),
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
                'key' => ZoneTerms::transferKey($zone), 'client' => (string) $zone->clientInView(),
            ] + ZoneTerms::of($zone, false),
        );
        $this->fetch($zone);
    }

    /** Sends only what changed since the serial that runs; false when the journal does not reach back that far. */
    private function bySteps(Zone $zone, Serial $has): bool
    {
        $known = $has->equals(Serial::of($zone->serial))
            || DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', '>', $has->value)->exists();
        if (! $known || Serial::of($zone->serial)->isBefore($has)) {
            return false;
        }
        [$removed, $added] = ZoneLines::net($zone, $has);
        $answer = $this->channel->ask('apply', [
            'view' => $zone->view->name, 'zone' => $zone->name, 'from' => $has->value,
            'remove' => [...$removed, ...$this->soaRunning($zone)], 'add' => [...$added, ZoneLines::soa($zone, Serial::of($zone->serial))],
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
        $answers = $this->dns->ask($zone->origin(), RecordType::of(RecordType::SOA), $zone->clientInView(), false)->message->answers;

        return array_map(
            fn (DnsRecord $r): string => ZoneLines::line((string) $r->owner->lower(), $r->ttl, RecordType::SOA, $r->data->text()),
            $answers,
        );
    }

    private function whole(Zone $zone): void
    {
        $part = [ZoneLines::soa($zone, Serial::of($zone->serial))];
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
        foreach (ZoneLines::of($zone) as $line) {
            $part[] = $line;
            if (count($part) >= self::PART) {
                $send(true);
            }
        }
        $send(false);
    }
}
