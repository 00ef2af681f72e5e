<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Ship\KeepDrift;
use App\Links\Difference;
use App\Links\Links;
use App\Links\Unanswered;
use App\Models\Server;

/** Looks at what a server runs and keeps what is not as it was brought there: after each shipment, and on a schedule. */
final readonly class DriftWatch
{
    public function __construct(private Acts $acts)
    {
    }

    /** @return int how many objects have drifted; -1 when the server cannot be read, which is kept too */
    public function look(Server $server, bool $deep = false): int
    {
        try {
            $differences = Links::to($server)->compare($deep);
        } catch (Unanswered $e) {
            $this->acts->commit(null, [new KeepDrift($server->id, [], 0, $e->getMessage(), $deep)]);

            return -1;
        }
        $drifted = array_values(array_filter($differences, static fn (Difference $d): bool => $d->drifted));
        $waiting = count(array_filter($differences, static fn (Difference $d): bool => $d->needsShipping() && ! $d->drifted));
        $this->acts->commit(null, [new KeepDrift($server->id, $drifted, count($differences), null, $deep, $waiting)]);

        return count($drifted);
    }
}
