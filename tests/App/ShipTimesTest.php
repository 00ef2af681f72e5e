<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeResolving;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeSite;
use App\Acts\Name\AddRecord;
use App\Acts\Ship\EndFreeze;
use App\Acts\Ship\KeepFreeze;
use App\Acts\Ship\KeepShipment;
use App\Acts\Ship\KeepWindow;
use App\Acts\Ship\RemoveWindow;
use App\Acts\Ship\SetShipping;
use App\Acts\Ship\StartShipment;
use App\Jobs\ShipServer;
use App\Links\Names\DnsClient;
use App\Models\Freeze;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Models\ShipsWhen;
use App\Models\ShipWindow;
use App\Queries\ShipTimes;
use App\Shipping\Convoy;
use App\Shipping\ShipOrder;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    DB::table('windows')->delete();
    DB::table('freezes')->delete();
    DB::table('servers')->update(['ships' => 'hand']);
    $this->w = World::make();
    ['operator' => $this->operator, 'planner' => $this->planner, 'reader' => $this->reader] = $this->w->people;
    $this->s = null;
    $this->standins = function (): void {
        $this->s = new Standins(['ns1' => 'dns', 'ns2' => 'dns', 'dh1' => 'dhcp']);
        foreach ($this->s->settings as $name => $own) {
            $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
        }
        config(['harbor.patience' => 1.0]);
    };
    $this->server = fn (string $name): Server => Server::query()->findOrFail($this->w->servers[$name]);
    $this->window = function (array $more = []): ShipWindow {
        $act = KeepWindow::fromInput($more + [
            'name' => 'Night', 'starts' => '22:00', 'minutes' => '90', 'days' => ['1', '2', '3', '4', '5'], 'zone' => 'Europe/London',
        ]);
        $this->w->did($act);

        return ShipWindow::query()->findOrFail($act->id);
    };
    $this->freeze = function (string $from, string $to, array $more = []): Freeze {
        $act = KeepFreeze::fromInput($more + ['why' => 'Regatta', 'from' => $from, 'to' => $to]);
        $this->w->did($act);

        return Freeze::query()->findOrFail($act->id);
    };
    $this->answers = function (string $name): array {
        $text = RecordType::parse('TXT');
        $answer = (new DnsClient('ns1', $this->s->endpoint('ns1')))->ask(Name::parse($name), $text, null, false);

        return array_map(fn ($r): string => $r->data->text(), $answer->message->answers);
    };
    $this->due = fn (): array => ShipServer::ofAll(app(Convoy::class)->due()['started']);
});

it('keeps windows and freezes, and refuses what is none', function (array $more, string $code): void {
    $given = ['name' => 'Night', 'starts' => '22:00', 'minutes' => '90', 'days' => ['1'], 'zone' => 'Europe/London'];
    expect($this->w->refusal(KeepWindow::class, $more + $given))->toBe($code);
})->with([
    'no name' => [['name' => ' '], 'no-name'], 'no days' => [['days' => []], 'bad-window'],
    'a ninth day' => [['days' => ['9']], 'bad-window'],
    'a word as a day' => [['days' => ['1', 'Tue']], 'bad-window'], 'no time' => [['starts' => '25:00'], 'bad-window'],
    'too short' => [['minutes' => '1'], 'bad-window'], 'no zone' => [['zone' => 'Mars/Base'], 'bad-window'],
]);

it('refuses freezes that are none', function (string $from, string $to, string $zone, string $code): void {
    $this->travelTo('2026-03-01 12:00:00');
    expect($this->w->refusal(KeepFreeze::class, ['why' => 'x', 'from' => $from, 'to' => $to, 'zone' => $zone]))->toBe($code);
})->with([
    ['2026-03-02 10:00', '2026-03-02 10:00', 'UTC', 'bad-freeze'], ['2026-02-02 10:00', '2026-02-03 10:00', 'UTC', 'bad-freeze'],
    ['soon', '2026-03-03 10:00', 'UTC', 'bad-time'], ['2026-02-30 10:00', '2026-03-03 10:00', 'UTC', 'bad-time'],
    ['2026-03-02 10:00', '2026-03-29 01:30', 'Europe/London', 'no-such-time'],
    ['2026-03-02 10:00', '2026-03-03 10:00', 'Nowhere', 'bad-zone'],
]);

it('knows a window and a freeze of a server, of its site, and of all', function (): void {
    $this->travelTo('2026-11-30 22:30:00');
    $outer = MakeSite::fromInput(['name' => 'Outer '.bin2hex(random_bytes(3))]);
    $inner = MakeSite::fromInput(['name' => 'Inner '.bin2hex(random_bytes(3)), 'parent' => $outer->id]);
    $this->w->did($outer);
    $this->w->did($inner);
    DB::table('servers')->where('id', $this->w->servers['ns1'])->update(['site_id' => $inner->id]);
    ($this->window)(['site' => $outer->id]);
    $open = fn (string $name): ?string => ShipTimes::now()->open(($this->server)($name))?->to->format('H:i');
    expect($open('ns1'))->toBe('23:30')->and($open('ns2'))->toBeNull();
    ($this->window)(['server' => $this->w->servers['ns2'], 'minutes' => '120']);
    expect($open('ns2'))->toBe('00:00');
    $freeze = ($this->freeze)('2026-11-30 22:00', '2026-12-02 12:00', ['site' => $outer->id]);
    $times = ShipTimes::now();
    expect($times->frozen(($this->server)('ns1'))?->id)->toBe($freeze->id)->and($times->frozen(($this->server)('ns2')))->toBeNull()
        // Openings that lie in the freeze are passed over.
        ->and($times->next(($this->server)('ns1'))?->from->format('D H:i'))->toBe('Wed 22:00');
    $this->w->did(new EndFreeze($freeze->id));
    expect(ShipTimes::now()->frozen(($this->server)('ns1')))->toBeNull();
});

it('ships nothing in a freeze: not by hand, not by a job that was asked for before, not by itself', function (): void {
    ($this->standins)();
    $start = StartShipment::fromInput(['server' => $this->w->servers['ns1']]);
    $this->w->did($start);
    $this->w->did(SetShipping::fromInput(['servers' => [$this->w->servers['ns1']], 'when' => 'once']));
    ($this->freeze)(now()->subHour()->format('Y-m-d H:i'), now()->addHour()->format('Y-m-d H:i'), ['server' => $this->w->servers['ns1']]);
    ShipServer::dispatchSync($start->id);
    $row = Shipment::query()->findOrFail($start->id);
    expect($row->state)->toBe(ShipmentState::Failed)->and($row->steps[0]['message'])->toContain('Regatta')
        ->and($this->w->refusal(StartShipment::class, ['server' => $this->w->servers['ns1']], $this->operator))->toBe('frozen')
        ->and(($this->due)())->toBe([]);
    $this->actingAs($this->operator)->post("/ship/server/{$this->w->servers['ns1']}")->assertSessionHas('bad');
    $this->get("/ship/server/{$this->w->servers['ns1']}")->assertOk()->assertReads('Frozen until')->assertReads('Regatta');
});

it('ships at once what waits, and neither what somebody changed there nor what would be taken away', function (): void {
    ($this->standins)();
    app(Shipping::class)->ship(null, ($this->server)('ns1'));
    app(Shipping::class)->ship(null, ($this->server)('ns2'));
    $name = ($this->server)('ns1')->name;
    $this->w->did(SetShipping::fromInput(['servers' => [$this->w->servers['ns1']], 'when' => 'once']));
    expect(($this->due)())->toBe([]);
    $this->w->did(new AddRecord($this->w->zone->id, 'TXT', 'by-itself', '', 'a'));
    expect(($this->due)())->toBe([$name])->and(($this->answers)("a.{$this->w->zone->name}"))->toBe(['"by-itself"'])
        ->and(($this->due)())->toBe([]);
    // What the plan does not place there any more is taken away by a person, and so is what somebody changed.
    $zone = $this->w->zone("gone-{$this->w->zone->name}");
    expect(($this->due)())->toBe([$name]);
    DB::table('zone_servers')->where('zone_id', $zone->id)->where('server_id', $this->w->servers['ns1'])->delete();
    expect(($this->due)())->toBe([]);
    $hints = ".\t3600000\tNS\ta.roots.example.\na.roots.example.\t3600000\tA\t192.0.2.201\n";
    $this->w->did(new ChangeResolving([$this->w->servers['ns1']], 'on', '192.0.2.54', 'stop', $hints));
    expect(($this->due)())->toBe([$name]);
    $this->s->tell('ns1', 'resolving', ['recursion' => false] + $this->s->tell('ns1', 'resolved')['resolving']);
    expect(($this->due)())->toBe([]);
    // A server by hand waits.
    $this->w->did(SetShipping::fromInput(['servers' => [$this->w->servers['ns1']], 'when' => 'hand']));
    $this->w->did(new AddRecord($this->w->zone->id, 'TXT', 'by-hand', '', 'b'));
    expect(($this->due)())->toBe([]);
});

it('ships in a window only, and says at the page when the next one is', function (): void {
    ($this->standins)();
    app(Shipping::class)->ship(null, ($this->server)('ns1'));
    $id = $this->w->servers['ns1'];
    expect($this->w->refusal(SetShipping::class, ['servers' => [$id], 'when' => 'windows']))->toBe('no-window');
    $this->travelTo(now()->next('Wednesday')->setTime(12, 0));
    $window = ($this->window)(['zone' => 'UTC']);
    $this->w->did(SetShipping::fromInput(['servers' => [$id], 'when' => 'windows']));
    $this->w->did(new AddRecord($this->w->zone->id, 'TXT', 'tonight', '', 'a'));
    expect(($this->due)())->toBe([]);
    // By hand it needs a reason.
    $page = $this->actingAs($this->operator)->get("/ship/server/$id")->assertOk()->assertReads('No window of it is open');
    $this->post("/ship/server/$id")->assertSessionHas('bad');
    $this->get('/ship/times')->assertOk()->assertReads('in its windows')->assertReads('next Wed');
    $this->get('/ship')->assertOk()->assertReads('in its window, from Wed');
    $this->travelTo(now()->setTime(22, 5));
    expect(($this->due)())->toBe([($this->server)('ns1')->name])->and(($this->answers)("a.{$this->w->zone->name}"))->toBe(['"tonight"']);
    $row = Shipment::query()->where('server_id', $id)->orderByDesc('id')->first();
    expect($row->ends_by?->format('H:i'))->toBe('23:30')->and($row->state)->toBe(ShipmentState::Done);
    $removed = $this->w->acts()->rehearse($this->operator, [new RemoveWindow($window->id)]);
    expect($removed->notes()[0]->code)->toBe('no-window');
});

it('ends with the window: what is left waits for the next one', function (): void {
    ($this->standins)();
    $start = StartShipment::fromInput([
        'server' => $this->w->servers['ns1'], 'endsBy' => now()->addMinutes(5)->utc()->format('Y-m-d H:i:s'),
    ]);
    $this->w->did($start);
    // The clock passes the end while the first zone is brought.
    $begun = false;
    Illuminate\Support\Facades\Event::listen(function (Illuminate\Database\Events\QueryExecuted $e) use (&$begun): void {
        if (! $begun && str_contains($e->sql, 'update `zone_servers`')) {
            $begun = true;
            $this->travel(10)->minutes();
        }
    });
    ShipServer::dispatchSync($start->id);
    $row = Shipment::query()->findOrFail($start->id);
    expect($row->state)->toBe(ShipmentState::Partial)->and($row->message)->toContain('The window ended')->and(count($row->steps))->toBe(1)
        ->and($row->steps[0]['state'])->toBe('done');
    // The rest is there to go on with, and a window's end is no failure to pause after.
    $this->w->did(SetShipping::fromInput(['servers' => [$this->w->servers['ns1']], 'when' => 'once']));
    expect(($this->due)())->toBe([($this->server)('ns1')->name])
        ->and(Shipment::query()->where('server_id', $this->w->servers['ns1'])->orderByDesc('id')->first()->state)
        ->toBe(ShipmentState::Done);
});

it('pauses longer each time when a shipment by itself fails', function (): void {
    ($this->standins)();
    $id = $this->w->servers['ns1'];
    $this->w->did(SetShipping::fromInput(['servers' => [$id], 'when' => 'once']));
    Queue::fake();
    $fail = function () use ($id): int {
        $made = count(app(Convoy::class)->due()['started']);
        foreach (Shipment::query()->where('server_id', $id)->whereIn('state', ['waiting', 'running'])->get() as $row) {
            $this->w->did(new KeepShipment($row->id, ShipmentState::Failed));
        }

        return $made;
    };
    expect($fail())->toBe(1)->and($fail())->toBe(0);
    $this->travel(3)->minutes();
    expect($fail())->toBe(1);
    $this->travel(3)->minutes();
    expect($fail())->toBe(0);
    $this->travel(3)->minutes();
    expect($fail())->toBe(1);
    $this->travel(20)->minutes();
    expect($fail())->toBe(1);
});

it('ships the primary before its secondary, and what waits for it not before it ended well', function (): void {
    $w = $this->w;
    $w->did(new AddRecord($w->zone->id, 'TXT', 'x', '', 'a'));
    $order = ShipOrder::of([$w->servers['ns2'], $w->servers['ns1']]);
    expect(array_keys($order))->toBe([$w->servers['ns1'], $w->servers['ns2']])->and($order[$w->servers['ns2']])->toBe([$w->servers['ns1']]);
    Queue::fake();
    $servers = Server::query()->whereIn('id', array_keys($order))->get();
    $made = app(Convoy::class)->start(null, $servers)['started'];
    [$first, $second] = array_keys($made);
    $rows = fn (string $id): Shipment => Shipment::query()->findOrFail($id);
    expect($rows($second)->behind)->toBe([$first])->and($rows($first)->behind)->toBeNull();
    $run = fn () => app()->call([new ShipServer($second), 'handle']);
    $run();
    expect($rows($second)->state)->toBe(ShipmentState::Waiting);
    Queue::assertPushed(ShipServer::class, fn (ShipServer $j): bool => $j->shipment === $second && $j->delay !== null);
    $w->did(new KeepShipment($first, ShipmentState::Partial));
    $run();
    expect($rows($second)->state)->toBe(ShipmentState::Failed)->and($rows($second)->message)
        ->toContain('comes before it, ended as partial');
});

it('ships a child that is new before the parent that delegates it, from another server', function (): void {
    $w = $this->w;
    foreach ([$w->zone->id => 'ns1'] as $zone => $server) {
        DB::table('zone_servers')->where('zone_id', $zone)->delete();
    }
    $child = $w->zone('cranes.'.$w->zone->name);
    DB::table('zone_servers')->where('zone_id', $child->id)->delete();
    $place = fn (string $zone, string $server) => DB::table('zone_servers')->insert([
        'id' => (string) Illuminate\Support\Str::ulid(), 'zone_id' => $zone, 'server_id' => $w->servers[$server], 'part' => 'primary',
    ]);
    $place($w->zone->id, 'ns1');
    $place($child->id, 'ns2');
    expect(ShipOrder::of([$w->servers['ns1'], $w->servers['ns2']])[$w->servers['ns1']])->toBe([$w->servers['ns2']]);
    // Once the child answers, the parent waits for it no more.
    DB::table('zone_servers')->where('zone_id', $child->id)->update(['shipped_serial' => 1]);
    expect(ShipOrder::of([$w->servers['ns1'], $w->servers['ns2']])[$w->servers['ns1']])->toBe([]);
});

it('ships a new scope before the switch that relays to it, and holds no switch up for a server that has its scopes', function (): void {
    $w = $this->w;
    $switch = App\Acts\Directory\MakeServer::fromInput([
        'name' => 'sw-'.bin2hex(random_bytes(3)), 'kind' => 'network', 'endpoint' => '127.0.0.1:9', 'control' => '127.0.0.1:9',
        'token' => 't',
    ]);
    $w->did($switch);
    $behind = fn (): array => ShipOrder::of([$switch->id, $w->servers['dh1']])[$switch->id];
    // A scope that is only planned is on no server yet.
    $w->did(App\Acts\Lease\ChangeScope::fromInput(['scope' => $w->scope->id, 'stage' => 'planned']));
    expect($behind())->toBe([]);
    $w->did(App\Acts\Lease\ChangeScope::fromInput(['scope' => $w->scope->id, 'stage' => 'live']));
    expect($behind())->toBe([$w->servers['dh1']]);
    DB::table('scope_servers')->where('scope_id', $w->scope->id)->update(['shipped_digest' => str_repeat('a', 64)]);
    expect($behind())->toBe([]);
});

it('is for those who run the servers, and shows itself to others', function (): void {
    $window = ($this->window)();
    $this->actingAs($this->reader)->get('/ship/times')->assertOk()->assertReads('Night')->assertDontSee('Make a window');
    foreach (['remove-window' => ['window' => $window->id],
        'set-shipping' => ['servers' => [$this->w->servers['ns1']], 'when' => 'once']] as $act => $input) {
        $this->post("/act/$act", $input + ['then' => 'commit']);
    }
    expect(ShipWindow::query()->find($window->id))->not->toBeNull()->and(($this->server)('ns1')->ships)->toBe(ShipsWhen::Hand);
    $this->actingAs($this->w->bound())->get('/ship/times')->assertForbidden();
});
