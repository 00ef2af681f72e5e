<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Ship\StartShipment;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\Unanswered;
use App\Models\Person;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Models\ShipsWhen;
use App\Queries\ShipTimes;
use Illuminate\Support\Collection;

/** Shipments to several servers, in the order in which they depend on each other; each waits until those before it ended well. */
final readonly class Convoy
{
    /** Minutes until a server to which a shipment failed is tried again by itself, by how often it failed in a row. */
    private const PAUSES = [0, 2, 5, 15, 60];

    public function __construct(private Acts $acts)
    {
    }

    /**
     * @param  Collection<int, Server>  $servers
     * @param  array<string, list<string>>  $only  server → ids of what is shipped; everything that differs where it is not given
     * @param  array<string, string>  $endsBy  server → when no step begins any more
     * @param  array<string, string>  $shown  server → digest of the differences that somebody saw
     * @return array{started: array<string, Server>, refused: list<string>} started: shipment → server, in order; whoever asks puts them in
     *     their lanes
     */
    public function start(?Person $person, Collection $servers, array $only = [], array $endsBy = [], array $shown = []): array
    {
        $by = $servers->keyBy('id');
        $ids = $started = $refused = [];
        foreach (ShipOrder::of(array_values(array_map(strval(...), $by->keys()->all()))) as $id => $waits) {
            $server = $by->get($id) ?? throw new \LogicException('an order of others');
            $start = StartShipment::fromInput([
                'server' => $id, 'only' => $only[$id] ?? [], 'behind' => array_values(array_intersect_key($ids, array_flip($waits))),
                'endsBy' => $endsBy[$id] ?? '', 'shown' => $shown[$id] ?? '',
            ]);
            $outcome = $this->acts->commit($person, [$start]);
            if ($outcome->blocked()) {
                $refused[] = $outcome->block()->message ?? (string) $outcome->trouble;

                continue;
            }
            $ids[$id] = $start->id;
            $started[$start->id] = $server;
        }

        return ['started' => $started, 'refused' => $refused];
    }

    /**
     * What waits for servers that are shipped to by themselves. What somebody changed on a server, and what would be removed there, is left
     * to people.
     *
     * @return array{started: array<string, Server>, refused: list<string>} started: shipment → server, in order; whoever asks puts them in
     *     their lanes
     */
    public function due(): array
    {
        $times = ShipTimes::now();
        $rows = Server::reached()->where('ships', '!=', ShipsWhen::Hand)
            ->where('held', false)->orderBy('name')->get();
        $busy = Shipment::query()->whereIn('state', ShipmentState::RUNS)->pluck('server_id')->all();
        $servers = collect();
        $only = $endsBy = [];
        foreach ($rows as $server) {
            $open = $times->open($server);
            if (
                in_array($server->id, $busy, true)
                    || $server->ships === ShipsWhen::Windows && $open === null
                    || $times->frozen($server) !== null
                    || self::pauses($server)
            ) {
                continue;
            }
            $only[$server->id] = self::waits($server);
            if ($only[$server->id] !== []) {
                $servers->push($server);
                $endsBy[$server->id] = $server->ships === ShipsWhen::Windows ? gmdate('Y-m-d H:i:s', (int) $open?->to->getTimestamp()) : '';
            }
        }

        return $this->start(null, $servers, $only, array_filter($endsBy));
    }

    /** @return list<string> what a person changed in the plan, and nobody on the server; nothing that would be taken away there */
    private static function waits(Server $server): array
    {
        try {
            $differences = Links::to($server)->compare();
        } catch (Unanswered) {
            // The look for drift says so, every five minutes.
            return [];
        }
        $ids = [];
        foreach ($differences as $difference) {
            if ($difference->needsShipping() && ! $difference->drifted
                && in_array($difference->state, [DifferenceState::Differs, DifferenceState::New], true)) {
                $ids[] = $difference->id;
            }
        }

        return $ids;
    }

    private static function pauses(Server $server): bool
    {
        $last = Shipment::query()->where('server_id', $server->id)->orderByDesc('id')->limit(count(self::PAUSES))->get();
        $failed = 0;
        foreach ($last as $shipment) {
            if (! in_array($shipment->state, ShipmentState::FELL_SHORT, true) || $shipment->ends_by !== null
                && $shipment->ends_by <= now()) {
                break;
            }
            $failed++;
        }
        $pause = self::PAUSES[min($failed, count(self::PAUSES) - 1)];

        $ended = $last->first()?->finished_at;

        return $pause > 0 && $ended !== null && $ended->addMinutes($pause) > now();
    }
}
