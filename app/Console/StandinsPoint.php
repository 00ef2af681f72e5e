<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Directory\ChangeServer;
use App\Acts\Engine\Acts;
use App\Acts\Ship\KeepOutside;
use App\Models\Outside;
use App\Models\Server;
use App\Queries\HandedOutZones;
use Illuminate\Console\Command;

final class StandinsPoint extends Command
{
    protected $signature = 'standins:point';

    protected $description = 'Writes down where the stand-ins of this instance are reached, after their ports changed';

    public function handle(Acts $acts): int
    {
        $settings = json_decode((string) @file_get_contents((string) config('harbor.standins')), true);
        foreach (is_array($settings) ? $settings : [] as $name => $own) {
            $server = Server::query()->where('name', $name)->first();
            $change = $server === null
                ? null
                : ($server->control === null
                    // It is reached by the standards, and not told otherwise.
                    ? new ChangeServer($server->id, "127.0.0.1:{$own['port']}")
                    : new ChangeServer($server->id, "127.0.0.1:{$own['port']}", "127.0.0.1:{$own['control']}", (string) $own['token']));
            if (
                $server !== null
                    && $change !== null
                    && [$server->endpoint, $server->control, $server->token] !== [$change->endpoint, $change->control, $change->token]
            ) {
                $acts->commit(null, [$change]);
            }
        }

        $here = HandedOutZones::server();
        if ($here !== null && config('harbor.demo') && $here->endpoint !== config('harbor.names')) {
            $acts->commit(null, [new ChangeServer($here->id, (string) config('harbor.names'))]);
        }
        $this->outside($acts, is_array($settings) ? $settings : []);

        return 0;
    }

    /** @param  array<mixed>  $settings */
    private function outside(Acts $acts, array $settings): void
    {
        foreach (Outside::query()->get() as $outside) {
            $own = $settings[$outside->name] ?? null;
            $address = is_array($own) ? "http://127.0.0.1:$own[port]" : $outside->address;
            if (is_array($own) && ($outside->address !== $address || $outside->token !== (string) $own['token'])) {
                $acts->commit(null, [new KeepOutside(
                    $outside->name,
                    $address,
                    $outside->space_id,
                    (string) $own['token'],
                    (string) $outside->under_id,
                    $outside->id,
                )]);
            }
        }
    }
}
