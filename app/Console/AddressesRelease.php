<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Plan\ReleaseHosts;
use App\Models\Host;
use App\Models\Space;
use HarborPost\Core\Net\Address;

final class AddressesRelease extends Computes
{
    protected $signature = 'addresses:release {address* : addresses to give back} {--space= : where addresses repeat} {--json}';

    protected $description = 'Gives addresses back, with their records and reservations';

    public function handle(Acts $acts): int
    {
        $space = $this->option('space') === null ? null : Space::query()->where('name', $this->option('space'))->value('id');
        if ($this->option('space') !== null && $space === null) {
            return $this->unusable('--space is the name of a space');
        }
        $ids = [];
        foreach ((array) $this->argument('address') as $text) {
            $address = Address::tryParse((string) $text);
            if ($address === null) {
                return $this->unusable("\"$text\" is no address");
            }
            $hosts = Host::query()->where('family', $address->family->value)->where('address', $address->bytes)
                ->when($space, fn ($q) => $q->where('space_id', $space))->pluck('id');
            if ($hosts->count() !== 1) {
                $this->err(
                    $hosts->isEmpty() ? "$address is not given to anybody" : "$address is given in several spaces; say which --space",
                );

                return $hosts->isEmpty() ? 1 : 2;
            }
            $ids[] = (string) $hosts[0];
        }
        $outcome = $acts->commit(null, [new ReleaseHosts(array_values(array_unique($ids)))]);
        if ($outcome->blocked()) {
            $this->err($outcome->block()->message ?? (string) $outcome->trouble);

            return 1;
        }
        $this->option('json') ? $this->json(['released' => count($ids)]) : $this->say(count($ids).' released');

        return 0;
    }
}
