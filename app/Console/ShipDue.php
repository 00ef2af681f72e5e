<?php

declare(strict_types=1);

namespace App\Console;

use App\Jobs\ShipServer;
use App\Shipping\Convoy;

/** What waits for servers that are shipped to at once, or in a window that is open. */
final class ShipDue extends Computes
{
    protected $signature = 'ship:due {--json}';

    protected $description = 'Ships what waits to servers that are shipped to by themselves';

    public function handle(Convoy $convoy): int
    {
        $said = $convoy->due();
        $said['started'] = ShipServer::ofAll($said['started']);
        $this->option('json') ? $this->json($said) : array_map(
            $this->say(...),
            [
                ...array_map(static fn (string $s): string => "a shipment to $s begins", $said['started']), ...$said['refused'],
                ...($said['started'] === [] && $said['refused'] === [] ? ['nothing is to be shipped by itself now'] : []),
            ],
        );

        return 0;
    }
}
