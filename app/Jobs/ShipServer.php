<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Ship\KeepShipment;
use App\Models\Person;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Shipping\DriftWatch;
use App\Shipping\Shipping;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;

/** Carries one shipment out. Killed midway, it goes on with what still differs; cancelled, it ends after the step it is in. */
final class ShipServer implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    private const GO = '';

    private const WAIT = 'wait';

    /** Seconds until it is looked again whether those before it ended, and for how long that goes on. */
    private const AGAIN = 2;

    private const PATIENCE = 3600;

    public int $timeout = 3600;

    public int $tries = 3;

    public function __construct(public readonly string $shipment)
    {
    }

    /** In the lane of its server: one at a time there, several servers beside each other. */
    public static function of(string $shipment, string $server): void
    {
        self::dispatch($shipment)->onQueue('ship-'.crc32($server) % (int) config('harbor.lanes'));
    }

    /**
     * @param  array<string, Server>  $shipments  in the order in which they depend on each other
     * @return list<string> names of the servers
     */
    public static function ofAll(array $shipments): array
    {
        foreach ($shipments as $shipment => $server) {
            self::of($shipment, $server->id);
        }

        return array_values(array_map(static fn (Server $s): string => $s->name, $shipments));
    }

    public function handle(Acts $acts, Shipping $shipping, DriftWatch $watch): void
    {
        $row = Shipment::query()->with('server')->find($this->shipment);
        if ($row === null || ! $row->runs()) {
            return;
        }
        $before = $this->before($row);
        if ($before !== self::GO) {
            $before === self::WAIT
                ? self::dispatch($row->id)->onQueue($this->queue)->delay(self::AGAIN)
                : $acts->commit(null, [new KeepShipment($row->id, ShipmentState::Failed, message: $before)]);

            return;
        }
        $person = $row->person_id === null ? null : Person::query()->findOrFail($row->person_id);
        $orders = ($row->orders ?? []) + ['only' => [], 'deep' => false, 'removals' => false, 'shown' => null];
        // What was done before the worker was ended; what it shows then differs from what was shown, and is a part of it.
        $done = $row->steps;
        $ended = false;
        $left = 0;
        $progress = function (array $steps, int $total) use ($acts, $row, $done, &$ended, &$left): bool {
            $left = $total - count($steps);
            $ended = $left > 0 && $row->ends_by !== null && $row->ends_by <= now();
            /** @var list<array{what: string, id: string, state: string, message: string, proved?: bool}> $steps */
            $kept = $acts->commit(null, [new KeepShipment($row->id, ShipmentState::Running, [...$done, ...$steps], count($done) + $total)]);

            return ! $kept->blocked() && ! $ended;
        };
        $result = $shipping->ship(
            $person,
            $row->server,
            $orders['only'] === [] ? null : $orders['only'],
            $orders['deep'],
            $progress,
            $orders['removals'],
            $done === [] && $row->state === ShipmentState::Waiting ? $orders['shown'] : null,
        );
        if ($ended && $result['state'] === ShipmentState::Cancelled) {
            $words = 'The window ended: '.($left === 1 ? '1 waits' : "$left wait").' for the next one.';
            $acts->commit(null, [new KeepShipment($row->id, ShipmentState::Partial, [...$done, ...$result['steps']], message: $words)]);
        } elseif ($result['state'] !== ShipmentState::Cancelled) {
            $acts->commit(null, [new KeepShipment($row->id, $result['state'], [...$done, ...$result['steps']])]);
        }
        $watch->look($row->server, $orders['deep']);
    }

    /** May it begin? Those that come before it have to have ended, and well: otherwise it says why it does not. */
    private function before(Shipment $row): string
    {
        if ($row->behind === null || $row->state === ShipmentState::Running) {
            return self::GO;
        }
        foreach (Shipment::query()->with('server')->whereIn('id', $row->behind)->get() as $first) {
            if ($first->runs()) {
                return $row->started_at->addSeconds(self::PATIENCE) > now()
                    ? self::WAIT
                    : "Not begun: the shipment to {$first->server->name}, which comes before it, goes on for too long.";
            }
            if ($first->state !== ShipmentState::Done) {
                return "Not begun: the shipment to {$first->server->name}, which comes before it, ended as {$first->state->value}. "
                    .'Ship again when that one is whole.';
            }
        }

        return self::GO;
    }

    public function failed(?\Throwable $e): void
    {
        app(Acts::class)->commit(
            null,
            [
                new KeepShipment(
                    $this->shipment,
                    ShipmentState::Failed,
                    Shipment::query()->find($this->shipment)->steps ?? [],
                    message: 'The shipment stopped: '
                        .($e?->getMessage() ?? 'its worker was ended too often')
                        .'. What stands where is listed; ship again to go on.',
                ),
            ],
        );
    }
}
