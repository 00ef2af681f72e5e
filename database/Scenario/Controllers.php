<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Engine\Acts;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Ship\KeepOutside;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Live\OutsideCompare;
use App\Models\Outside;
use App\Models\Prefix;
use App\Models\Server;
use App\Queries\OutsideHeld;
use HarborPost\Core\Planning\Sides\Held;

/** A system that gives out addresses to machines in the data halls, with its own idea of some pools. */
final readonly class Controllers
{
    public function __construct(private Acts $acts, private Kittiwake $k)
    {
    }

    public function load(): void
    {
        $settings = json_decode((string) @file_get_contents((string) config('harbor.standins')), true);
        $own = is_array($settings) ? $settings['buoy1'] ?? null : null;
        if (! is_array($own)) {
            return;
        }
        $core = $this->k->id('space Core');
        $top = Prefix::query()->where('space_id', $core)->where('length', 12)->where('groups', true)->firstOrFail();
        $cloud = $this->k->id('net machines');
        $this->k->do(
            new CarvePrefix(
                space: $core, in: $top->id, id: $cloud, length: 19, kind: 'supernet', stage: 'live', name: 'Machines by demand',
            ),
        );
        foreach (['Web', 'Batch', 'Store', 'Trials', 'Backup'] as $i => $name) {
            $pool = $this->k->id("net pool $name");
            $this->k->do(
                new CarvePrefix(space: $core, in: $cloud, id: $pool, length: 22, kind: 'supernet', stage: 'live', name: "$name pool"),
                ...array_map(fn (string $part): CarvePrefix => new CarvePrefix(
                    space: $core, id: $this->k->id("net $name $part"), in: $pool, length: 24, stage: 'live', name: "$name, $part",
                    gateway: 'first',
                ), ['part 1', 'part 2']),
            );
        }
        $at = "http://127.0.0.1:$own[port]";
        $this->k->do(new KeepOutside('buoy1', $at, $core, (string) $own['token'], $cloud, $this->k->id('outside buoy1')));
        $outside = Outside::query()->with('under')->findOrFail($this->k->id('outside buoy1'));
        $server = new Server(['name' => 'buoy1', 'control' => "127.0.0.1:$own[control]"]);
        $server->token = (string) $own['token'];
        try {
            (new ControlChannel($server, 5.0))->ask('put', ['objects' => $this->theirs($outside)]);
            (new OutsideCompare($this->acts))->lines($outside);
        } catch (Unanswered) {
            // Compared by the scheduler, then.
        }
    }

    /**
     * As ours, but for five: a gateway that changed on one side, a lease server nobody knows, a part as large as its pool, one that only
     * they have, and one that only we have.
     *
     * @return list<array<string, mixed>>
     */
    private function theirs(Outside $outside): array
    {
        $objects = [];
        foreach (OutsideHeld::of($outside) as $held) {
            $name = $held->values['name'][0] ?? '';
            if ($name === 'Store, part 2') {
                continue;
            }
            $objects[] = [
                'id' => strtolower(substr($held->id, -12)), 'prefix' => $held->prefix, 'pool' => $held->groups, 'name' => $name,
                'gateway' => preg_replace('/\.1\z/', $name === 'Batch, part 1' ? '.254' : '.1', $held->values['gateway'][0] ?? ''),
                'resolvers' => $held->values['resolvers'], 'leases' => $name === 'Web, part 2' ? ['10.99.0.67'] : $held->values['leases'],
            ];
        }
        $pool = array_values(array_filter(OutsideHeld::of($outside), static fn (Held $h): bool => $h->groups))[3] ?? null;
        $pool === null ?: $objects[] = ['id' => 'whole-part', 'prefix' => $pool->prefix, 'pool' => false, 'name' => 'All of the trials'];
        $web = array_values(array_filter(OutsideHeld::of($outside), static fn (Held $h): bool => $h->groups))[0] ?? null;
        $last = $web === null ? null : preg_replace('/\d+\.0\/22\z/', (string) (3 + (int) explode('.', $web->prefix)[2]).'.0/24',
            $web->prefix);
        $last === null ?: $objects[] = ['id' => 'burst-1', 'prefix' => $last, 'pool' => false, 'name' => 'Web, burst', 'gateway' => ''];

        return $objects;
    }
}
