<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Links\Difference;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Queries\ShipTimes;
use Illuminate\Support\Facades\DB;

/**
 * A few zones and scopes, brought to all servers that hold them by one act.
 *
 * @phpstan-type Stop array{server: Server, objects: list<string>, after: list<string>, shut: ?string, work: list<Difference>,
 *     problem: ?string, late: bool, run: ?Shipment, last: ?Shipment}
 */
final readonly class Together
{
    /** Objects of one page: of more, the page of each server tells. */
    public const MOST = 20;

    private const LAST = 5;

    /** @param  list<Stop>  $stops  in the order in which they are shipped to */
    private function __construct(public array $stops)
    {
    }

    /**
     * @param  list<string>  $objects  ids of zones and scopes
     * @param  bool  $glance  a page waits for it: servers that are slow are left out for now
     */
    public static function of(array $objects, bool $glance = false): self
    {
        $on = [];
        foreach (['zone_servers' => 'zone_id', 'scope_servers' => 'scope_id'] as $table => $column) {
            foreach (DB::table($table)->whereIn($column, $objects)->get(['server_id', "$column as object"]) as $row) {
                $on[(string) $row->server_id][] = (string) $row->object;
            }
        }
        $servers = Server::query()->whereIn('id', array_map(strval(...), array_keys($on)))->whereIn('kind', ServerKind::shipped())
            ->get()->keyBy('id');
        $runs = Shipment::query()->whereIn('server_id', $servers->keys())->whereIn('state', ShipmentState::RUNS)->get()
            ->keyBy('server_id');
        $times = ShipTimes::now();
        $stops = [];
        foreach (ShipOrder::of(array_values(array_map(strval(...), $servers->keys()->all()))) as $id => $after) {
            $server = $servers->get($id) ?? throw new \LogicException('an order of others');
            $shut = self::shut($server, $times);
            // While one ships, what differs changes under the eye: it is asked when all have ended.
            [$work, $problem, $late] = $runs->isEmpty() && $shut === null
                ? self::differences($server, $on[$id], $glance)
                : [[], null, false];
            $stops[] = [
                'server' => $server, 'objects' => $on[$id], 'shut' => $shut, 'work' => $work, 'problem' => $problem,
                'late' => $late,
                'after' => array_values(array_map(static fn (string $w): string => $servers->get($w)->name ?? '', $after)),
                'run' => $runs->get($id), 'last' => self::last($id, $on[$id]),
            ];
        }

        return new self($stops);
    }

    /** Servers that were not waited for: they are asked behind the page. */
    public function isBehind(): bool
    {
        return array_filter($this->stops, static fn (array $s): bool => $s['late']) !== [];
    }

    public function runs(): bool
    {
        return array_filter($this->stops, static fn (array $s): bool => $s['run'] !== null) !== [];
    }

    /** @return list<Stop> to which something can be shipped now */
    public function ready(): array
    {
        return array_values(array_filter(
            $this->stops,
            static fn (array $s): bool => $s['shut'] === null && $s['problem'] === null && $s['work'] !== [],
        ));
    }

    /** Everything was looked at, and all of it is as intended. */
    public function isDone(): bool
    {
        return $this->stops !== [] && ! $this->runs() && array_filter(
            $this->stops,
            static fn (array $s): bool => $s['shut'] !== null || $s['problem'] !== null || $s['work'] !== [],
        ) === [];
    }

    /**
     * What each page shows of it, so that what changed meanwhile is not shipped unseen. Behind another server what differs changes by that
     * one's shipment.
     *
     * @return array<string, string> server → digest
     */
    public function shown(): array
    {
        $shown = [];
        foreach ($this->ready() as $stop) {
            if ($stop['after'] === []) {
                $shown[$stop['server']->id] = Difference::digest($stop['work']);
            }
        }

        return $shown;
    }

    /**
     * @param  list<string>  $objects
     * @return array{list<Difference>, ?string, bool} what differs, why nothing is known, and whether it was only not waited for
     */
    private static function differences(Server $server, array $objects, bool $glance): array
    {
        try {
            $found = Links::to($server, $glance)->compare();
            // A zone that only who keeps the server can make there is not as intended, and nothing can be sent.
            $waits = array_filter(
                $found,
                static fn (Difference $d): bool => $d->kind === 'zone' && $d->state === DifferenceState::Waiting
                    && in_array($d->id, $objects, true),
            );
            $why = array_map(static fn (Difference $d): string => "$d->title: $d->message", $waits);

            return [Shipping::work($found, $objects), $why === [] ? null : implode('; ', $why), false];
        } catch (Unanswered $e) {
            return [[], $e->getMessage(), $glance && $e->late];
        }
    }

    /** Why nothing can be brought to a server now. */
    private static function shut(Server $server, ShipTimes $times): ?string
    {
        $frozen = $times->frozen($server);

        return match (true) {
            ! $server->isReached() => 'nothing is shipped to it from here',
            $server->held => 'held: nothing is shipped to it',
            $frozen !== null => 'frozen until '.$frozen->ends_at->format('D j M H:i')." UTC: $frozen->why",
            $times->isShut($server) => 'no window of it is open; its own page takes a reason',
            default => null,
        };
    }

    /**
     * The last shipment of these objects that ended.
     *
     * @param  list<string>  $objects
     */
    private static function last(string $server, array $objects): ?Shipment
    {
        $some = Shipment::query()->where('server_id', $server)->whereNotNull('finished_at')->orderByDesc('id')->limit(self::LAST)->get();

        return $some->first(static fn (Shipment $s): bool => array_intersect($s->orders['only'] ?? [], $objects) !== []);
    }
}
