<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Ship\KeepShipment;
use App\Models\Person;
use App\Models\Shipment;
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

    public function handle(Acts $acts, Shipping $shipping, DriftWatch $watch): void
    {
        $row = Shipment::query()->with('server')->find($this->shipment);
        if ($row === null || ! $row->runs()) {
            return;
        }
        $person = $row->person_id === null ? null : Person::query()->findOrFail($row->person_id);
        $orders = ($row->orders ?? []) + ['only' => [], 'deep' => false, 'removals' => false, 'shown' => null];
        // What was done before the worker was ended; what it shows then differs from what was shown, and is a part of it.
        $before = $row->steps;
        $progress = fn (array $steps, int $total): bool => ! $acts
            ->commit(null, [new KeepShipment($row->id, 'running', [...$before, ...$steps], count($before) + $total)])
            ->blocked();
        $result = $shipping->ship(
            $person,
            $row->server,
            $orders['only'] === [] ? null : $orders['only'],
            $orders['deep'],
            $progress,
            $orders['removals'],
            $before === [] && $row->state === 'waiting' ? $orders['shown'] : null,
        );
        if ($result['state'] !== 'cancelled') {
            $acts->commit(null, [new KeepShipment($row->id, $result['state'], [...$before, ...$result['steps']])]);
        }
        $watch->look($row->server, $orders['deep']);
    }

    public function failed(?\Throwable $e): void
    {
        app(Acts::class)->commit(
            null,
            [
                new KeepShipment(
                    $this->shipment,
                    'failed',
                    Shipment::query()->find($this->shipment)->steps ?? [],
                    message: 'The shipment stopped: '
                        .($e?->getMessage() ?? 'its worker was ended too often')
                        .'. What stands where is listed; ship again to go on.',
                ),
            ],
        );
    }
}
