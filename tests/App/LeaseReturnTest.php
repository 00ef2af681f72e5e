<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\Server;
use App\Queries\LostLeases;
use App\Shipping\Shipping;
use Tests\Standins;
use Tests\World;

it('gives a rebuilt server back what it had leased, and takes nothing from whom it serves now', function (): void {
    config(['harbor.patience' => 1.0]);
    $w = World::make();
    $make = fn (): Standins => new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
    $point = function (Standins $s) use ($w): void {
        foreach ($s->settings as $name => $own) {
            $w->did(new ChangeServer($w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
        }
    };
    $server = fn (): Server => Server::query()->findOrFail($w->servers['dh1']);
    $s = $make();
    $point($s);
    app(Shipping::class)->ship(null, $server());
    $lease = fn (int $i, string $mac): array => [
        'address' => "192.0.2.$i", 'mac' => $mac, 'name' => "c$i", 'starts' => time() - 60,
        'ends' => time() + 3000, 'scope' => $w->scope->id,
    ];
    $s->tell('dh1', 'grant', ['leases' => [$lease(60, '02:00:5e:00:00:60'), $lease(61, '02:00:5e:00:00:61'),
        $lease(62, '02:00:5e:00:00:62')]]);
    app(LeaseReading::class)->read($server());
    expect(LostLeases::of($server())->count())->toBe(0);
    // The machine is another one, with nothing on it; one address was leased anew before anybody looked.
    $s = $make();
    $point($s);
    app(Shipping::class)->ship(null, $server(), deep: true);
    $s->tell('dh1', 'grant', ['leases' => [$lease(61, '02:00:5e:00:00:99')]]);
    app(LeaseReading::class)->read($server());
    expect(LostLeases::of($server())->orderBy('address')->get()->map(fn (Lease $l): string => (string) $l->address)->all())
        ->toBe(['192.0.2.60', '192.0.2.62']);
    // One more is given to another meanwhile, which only the server knows.
    $s->tell('dh1', 'grant', ['leases' => [$lease(62, '02:00:5e:00:00:98')]]);
    $this->actingAs($w->people['operator']);
    $page = "/ship/server/{$w->servers['dh1']}";
    $this->get($page)->assertOk()->assertReads('2 leases that it gave are not on it any more');
    $this->actingAs($w->people['reader'])->post("$page/leases")->assertForbidden();
    $this->actingAs($w->people['operator'])->post("$page/leases", ['reason' => 'new disk'])
        ->assertSessionHas('done', '1 lease is there again. 1 address was given to others meanwhile.');
    $active = array_filter($s->tell('dh1', 'leases')['leases'], static fn (array $l): bool => $l['state'] === 'active');
    $there = array_column($active, 'mac', 'address');
    expect($there)->toBe(['192.0.2.60' => '02:00:5e:00:00:60', '192.0.2.61' => '02:00:5e:00:00:99', '192.0.2.62' => '02:00:5e:00:00:98']);
    app(LeaseReading::class)->read($server());
    expect(LostLeases::of($server())->count())->toBe(0);
});
