<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Scan\KeepSwitchVlans;
use App\Acts\Ship\MarkPlacement;
use App\Acts\Ship\StampZones;
use App\Links\Difference;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\NetworkLink;
use App\Links\SwitchLink;
use App\Links\Unanswered;
use App\Models\Part;
use App\Models\Person;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\StepState;
use App\Models\ZoneServer;
use App\Queries\ShipTimes;
use Illuminate\Support\Facades\DB;

/**
 * Brings one server to the intended state: compare, raise serials, apply, verify, one zone or scope after the other. What failed
 * is said and stays waiting; the next run starts with what still differs, so it goes on where it stopped. One runs at a
 * time to a server, whoever starts it.
 *
 * @phpstan-type Step array{what: string, id: string, state: string, message: string, proved?: bool}
 */
final readonly class Shipping
{
    public function __construct(private Acts $acts)
    {
    }

    /**
     * @param  ?list<string>  $only  ids; null ships everything that differs
     * @param  (\Closure(list<Step>, int): bool)|null  $progress  told the steps so far and how many there will be; false ends the shipment
     * @param  ?string  $shown  digest of the differences that a person was shown; others by now are not shipped
     * @return array{state: ShipmentState, steps: list<Step>}
     */
    public function ship(
        ?Person $person,
        Server $server,
        ?array $only = null,
        bool $deep = false,
        ?\Closure $progress = null,
        bool $removals = true,
        ?string $shown = null,
    ): array {
        if ($server->held) {
            return self::failed($server, 'The server is held: nothing is shipped to it until it is let go.');
        }
        $frozen = ShipTimes::now()->frozen($server);
        if ($frozen !== null) {
            $until = $frozen->ends_at->format('D j M H:i');

            return self::failed($server, "Nothing is shipped to it until $until UTC: $frozen->why.");
        }
        // Of the connection, so that it ends with a process that is killed.
        $lane = "ship:$server->id";
        if ((int) DB::scalar('select get_lock(?, ?)', [$lane, (int) config('harbor.ship_wait')]) !== 1) {
            return self::failed($server, 'Another shipment to the server is under way. Nothing was shipped; ship again when it is done.');
        }
        try {
            return $this->alone($person, $server, $only, $deep, $progress, $removals, $shown);
        } finally {
            DB::scalar('select release_lock(?)', [$lane]);
        }
    }

    /**
     * @param  ?list<string>  $only
     * @param  (\Closure(list<Step>, int): bool)|null  $progress
     * @return array{state: ShipmentState, steps: list<Step>}
     */
    private function alone(
        ?Person $person,
        Server $server,
        ?array $only,
        bool $deep,
        ?\Closure $progress,
        bool $removals,
        ?string $shown,
    ): array {
        $link = Links::to($server);
        try {
            $work = self::work($link->compare($deep), $only);
        } catch (Unanswered $e) {
            return self::failed($server, $e->getMessage().' Nothing was shipped.');
        }
        if ($shown !== null && ! hash_equals($shown, Difference::digest($work))) {
            return self::failed(
                $server,
                'What differs is no longer what was shown: somebody changed the plan or the server meanwhile. Nothing was '
                    .'shipped; look again.',
            );
        }
        $work = array_values(array_filter($work, fn (Difference $d): bool => $removals || $d->state !== DifferenceState::Gone));
        $this->raiseSerials($person, $work);
        $steps = $silent = [];
        $goesOn = $progress === null || $progress([], count($work));
        foreach ($work as $difference) {
            if (! $goesOn) {
                return ['state' => ShipmentState::Cancelled, 'steps' => $steps];
            }
            $steps[] = $this->step($person, $server, $difference, $deep, $silent);
            $goesOn = $progress === null || $progress($steps, count($work));
        }
        if ($link instanceof SwitchLink && $steps !== []) {
            $network = NetworkLink::to($server);
            $this->acts->commit(null, [new KeepSwitchVlans($network->vlans(), $network->ports())]);
        }
        $failed = count(array_filter($steps, fn (array $s): bool => $s['state'] === StepState::Failed->value));

        return ['steps' => $steps, 'state' => match ($failed) {
            0 => ShipmentState::Done,
            count($steps) => ShipmentState::Failed,
            default => ShipmentState::Partial,
        }];
    }

    /**
     * @param  iterable<Difference>  $differences
     * @param  ?list<string>  $only
     * @return list<Difference> what a shipment brings, as the page shows it
     */
    public static function work(iterable $differences, ?array $only): array
    {
        $work = [];
        foreach ($differences as $difference) {
            if ($difference->needsShipping() && ($only === null || in_array($difference->id, $only, true))) {
                $work[] = $difference;
            }
        }

        return $work;
    }

    /** @return array{state: ShipmentState, steps: list<Step>} */
    private static function failed(Server $server, string $why): array
    {
        $step = ['what' => $server->name, 'id' => '', 'state' => StepState::Failed->value, 'message' => $why];

        return ['state' => ShipmentState::Failed, 'steps' => [$step]];
    }

    /** @param  list<Difference>  $work */
    private function raiseSerials(?Person $person, array $work): void
    {
        $zones = [];
        foreach ($work as $difference) {
            if ($difference->kind === 'zone' && $difference->state !== DifferenceState::Gone) {
                // Records that differ although no change waits were altered on the server: a new serial puts ours in front again.
                $passes = $difference->readWhole || $difference->raises > 0;
                $zones[$difference->id] = $passes ? ((int) $difference->running + $difference->raises) & 0xFFFFFFFF : null;
            }
        }
        if ($zones !== []) {
            $this->acts->commit($person, [new StampZones($zones)]);
        }
    }

    /**
     * Secondaries fetch by themselves when the primary tells them; whether they did is measured, so that their state is true.
     *
     * @param  array<string, true>  $silent  servers that did not answer in this shipment: not waited for again
     */
    private function followers(?Person $person, Server $primary, string $zone, array &$silent): string
    {
        $words = '';
        $placements = ZoneServer::query()->with('server')->where('zone_id', $zone)->where('part', Part::Secondary)
            ->where('server_id', '!=', $primary->id)->whereNotNull('shipped_serial')->get();
        if (ZoneServer::query()->where('zone_id', $zone)->where('server_id', $primary->id)->value('part') !== Part::Primary) {
            return '';
        }
        foreach ($placements as $placement) {
            if (isset($silent[$placement->server_id])) {
                $words .= "; {$placement->server->name} does not answer";

                continue;
            }
            try {
                Links::to($placement->server)->verify('zone', $zone);
                $this->acts->commit(
                    $person,
                    [
                        new MarkPlacement($placement->server_id, 'zone', $zone, 'shipped'),
                        new MarkPlacement($placement->server_id, 'zone', $zone, 'verified'),
                    ],
                );
                $words .= "; {$placement->server->name} fetched it";
            } catch (Unanswered $e) {
                if ($e->mayPass) {
                    $silent[$placement->server_id] = true;
                }
                $words .= "; {$placement->server->name} did not fetch it yet";
            }
        }

        return $words;
    }

    /**
     * @param  array<string, true>  $silent
     * @return Step
     */
    private function step(?Person $person, Server $server, Difference $difference, bool $deep, array &$silent): array
    {
        $link = Links::to($server);
        try {
            // A scope that is being written is not proved: ended in between, the next shipment proves it.
            if ($deep || $difference->state === DifferenceState::Ahead || in_array($difference->kind, ['scope', 'pair'], true)) {
                $this->acts->commit($person, [new MarkPlacement($server->id, $difference->kind, $difference->id, 'unknown')]);
            }
            $link->apply($difference->kind, $difference->id);
            $this->acts->commit($person, [new MarkPlacement($server->id, $difference->kind, $difference->id, 'shipped')]);
            $proof = $link->verify($difference->kind, $difference->id);
            $this->acts->commit($person, [new MarkPlacement($server->id, $difference->kind, $difference->id, 'verified')]);
            $proof .= $difference->kind === 'zone' ? $this->followers($person, $server, $difference->id, $silent) : '';

            return [
                'what' => $difference->title, 'id' => $difference->id, 'state' => StepState::Done->value, 'message' => $proof,
                'proved' => $link->proves($difference->kind, $difference->id),
            ];
        } catch (Unanswered $e) {
            return [
                'what' => $difference->title, 'id' => $difference->id, 'state' => StepState::Failed->value, 'message' => $e->getMessage(),
            ];
        }
    }
}
