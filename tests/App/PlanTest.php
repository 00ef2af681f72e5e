<?php

declare(strict_types=1);

use App\Acts\Lease\ChangeScope;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangeHost;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\ReleaseHosts;
use App\Acts\Plan\RemovePrefix;
use App\Domain\Plan\Counter;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Queries\Ancestors;
use App\Queries\FreeAddresses;
use App\Queries\OpenBlocks;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Fit;
use HarborPost\Core\Planning\OpenSpace;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** The maintained table of open blocks says what the core computes from the children. */
function expectOpenInStep(Prefix $holder): void
{
    $children = Prefix::query()->where('parent_id', $holder->id)->get();
    $computed = array_map(strval(...), OpenSpace::in($holder->prefix(), $children->map(fn (Prefix $p): Net => $p->prefix()))->blocks());
    $kept = DB::table('open_blocks')->where('parent_id', $holder->id)->orderBy('first')->get()
        ->map(fn ($b): string => (string) Net::of(Address::fromBytes($b->first), $b->length))->all();
    $holder->refresh();
    expect($kept)->toBe($computed)->and($holder->children)->toBe($children->count())->and(round($holder->carved, 9))
        ->toBe(round($children->sum(fn (Prefix $p): float => 2.0 ** ($holder->length - $p->length)), 9));
}

it('keeps tree and open blocks in step through any carving and giving back', function (): void {
    $w = World::make(false);
    $top = $w->carve('10.0.0.0/16', ['kind' => 'supernet']);
    mt_srand(16);
    for ($i = 0; $i < 120; $i++) {
        $all = Prefix::query()->where('space_id', $w->space->id)->where('family', 4)
            ->whereBetween('first', [$top->first->bytes, $top->prefix()->last()->bytes])->whereKeyNot($top->id)->get();
        if ($all->isNotEmpty() && mt_rand(0, 3) === 0) {
            $w->acts()->commit(null, [new RemovePrefix($all->random()->id)]);
        } else {
            $net = Address::parse('10.0.0.0')->plus(mt_rand(0, 65535))->in(mt_rand(18, 26));
            $w->acts()
                ->commit(
                    null,
                    [
                        CarvePrefix::fromInput([
                            'space' => $w->space->id,
                            'prefix' => (string) $net,
                            'kind' => mt_rand(0, 1) === 0 ? 'supernet' : 'subnet',
                        ]),
                    ],
                );
        }
    }
    foreach (Prefix::query()->where('space_id', $w->space->id)->where('groups', true)->get() as $holder) {
        expectOpenInStep($holder);
        foreach (Prefix::query()->where('parent_id', $holder->id)->get() as $child) {
            expect(Ancestors::holder($w->space->id, $child->prefix(), $child->groups)?->id)->toBe($holder->id);
        }
    }
});

it('refuses what cannot stand, and names what is in the way', function (string $prefix, string $kind, string $code, string $named): void {
    $w = World::make(false);
    $block = $w->acts()
        ->rehearse($w->people['planner'], [CarvePrefix::fromInput(['space' => $w->space->id, 'prefix' => $prefix, 'kind' => $kind])])
        ->block();
    expect($block?->code)->toBe($code)->and($block->message)->toContain($named);
})->with([
    'host bits' => ['192.0.2.1/25', 'subnet', 'not-a-prefix', '192.0.2.0/25'],
    'duplicate' => ['192.0.2.0/25', 'subnet', 'duplicate', 'Ticketing'],
    'inside a subnet' => ['192.0.2.64/26', 'subnet', 'inside-link', 'Ticketing'],
    'over a subnet' => ['192.0.2.0/24', 'pool', 'overlap', 'Ticketing'],
    'supernet twice' => ['192.0.2.0/24', 'supernet', 'duplicate', 'Quay'],
    'malformed mask' => ['192.0.2.0 255.255.250', 'subnet', 'not-a-prefix', 'character'],
]);

it('lets one subnet fill a supernet exactly, and no second', function (): void {
    $w = World::make(false);
    $holder = $w->carve('192.0.2.128/26', ['kind' => 'supernet']);
    $link = $w->carve('192.0.2.128/26');
    expect($link->parent_id)->toBe($holder->id)
        ->and(
            $w->acts()
                ->rehearse(null, [CarvePrefix::fromInput(['space' => $w->space->id, 'prefix' => '192.0.2.128/26', 'kind' => 'pool'])])
                ->block()?->code,
        )
        ->toBe('duplicate');
    expectOpenInStep($holder);
});

it('allows the same prefix in another space', function (): void {
    $w = World::make(false);
    $other = App\Acts\Directory\MakeSpace::fromInput(['name' => 'Guest '.bin2hex(random_bytes(3))]);
    $w->did($other);
    expect(
        $w->acts()->rehearse(null, [CarvePrefix::fromInput(['space' => $other->id, 'prefix' => '192.0.2.0/25'])])->blocked(),
    )->toBeFalse();
});

it('proposes by first, best and room', function (): void {
    $w = World::make(false);
    $w->carve('192.0.2.192/27');
    expect((string) OpenBlocks::next($w->top, 28, Fit::First))->toBe('192.0.2.128/28')
        ->and((string) OpenBlocks::next($w->top, 28, Fit::Best))->toBe('192.0.2.224/28')
        ->and((string) OpenBlocks::next($w->top, 28, Fit::Room))->toBe('192.0.2.128/28')
        ->and((string) OpenBlocks::largest($w->top))->toBe('192.0.2.128/26');
});

it('hands a tenant down the tree and back', function (): void {
    $w = World::make(false);
    $tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => 'Harbour '.bin2hex(random_bytes(3))]);
    $w->did($tenant);
    $w->did(new App\Acts\Plan\ChangePrefix([$w->top->id], tenant: $tenant->id));
    expect($w->subnet->refresh()->effective_tenant_id)->toBe($tenant->id)->and($w->subnet->tenant_id)->toBeNull()
        ->and($w->carve('192.0.2.128/26')->effective_tenant_id)->toBe($tenant->id);
    $w->did(new App\Acts\Plan\ChangePrefix([$w->top->id], tenant: '-'));
    expect($w->subnet->refresh()->effective_tenant_id)->toBeNull();
});

it('refuses to give back what is in use', function (): void {
    $w = World::make();
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']));
    expect($w->acts()->rehearse(null, [new RemovePrefix($w->subnet->id)])->block()?->code)->toBe('has-hosts');
});

it('places a host with its name both ways and its reservation, as one act', function (): void {
    $w = World::make();
    $outcome = $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'Till-1', 'zone' => $w->zone->id, 'mac' => '0000.5e00.5301', 'ptr' => '1',
            'reserve' => '1', 'ttl' => '5m',
        ]),
        $w->people['operator'],
    );
    $host = Host::query()->findOrFail($outcome->made('host'));
    expect((string) $host->address)->toBe('192.0.2.2')->and($host->name)->toBe('till-1.'.$w->zone->title())
        ->and(
            Record::query()->where('address_id', $host->id)->orderBy('type')->get()
                ->map(fn (Record $r): string => "{$r->typeName()} $r->owner $r->ttl $r->data")->all(),
        )->toBe(["A till-1.{$w->zone->name} 300 192.0.2.2", "PTR 2.2.0.192.in-addr.arpa. 300 till-1.{$w->zone->name}"])
        ->and((string) Reservation::query()->where('address_id', $host->id)->sole()->mac)->toBe('00:00:5e:00:53:01');
});

it('says before saving what stands against a host', function (array $input, string $code): void {
    $w = World::make();
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'address' => '192.0.2.9',
            'mac' => '00:00:5e:00:53:01', 'reserve' => '1', 'ptr' => '1',
        ]),
    );
    $w->did(App\Acts\Name\AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'alias', 'type' => 'CNAME', 'data' => 'till-1']));
    $outcome = $w->acts()
        ->rehearse(
            $w->people['operator'],
            [PlaceHost::fromInput(['prefix' => $w->subnet->id, 'zone' => $w->zone->id, 'ptr' => '1'] + $input)],
        );
    expect(array_column($outcome->notes(), 'code'))->toContain($code);
})->with([
    'taken address' => [['name' => 'x', 'address' => '192.0.2.9'], 'address-taken'],
    'taken name' => [['name' => 'till-1'], 'name-used'],
    'an alias has the name' => [['name' => 'alias'], 'cname-beside-data'],
    'MAC reserved' => [['name' => 'x', 'mac' => '00:00:5e:00:53:01', 'reserve' => '1'], 'mac-reserved'],
    'network address' => [['name' => 'x', 'address' => '192.0.2.0'], 'address-unusable'],
    'gateway' => [['name' => 'x', 'address' => '192.0.2.1'], 'address-is-gateway'],
    'outside' => [['name' => 'x', 'address' => '192.0.2.200'], 'address-outside'],
    'dynamic range' => [['name' => 'x', 'address' => '192.0.2.70'], 'in-dynamic-range'],
    'reservation without MAC' => [['name' => 'x', 'reserve' => '1'], 'no-mac'],
    'bad MAC' => [['name' => 'x', 'mac' => '00:00'], 'bad-mac'],
    'bad name' => [['name' => 'a..b'], 'bad-name'],
    'TTL zero' => [['name' => 'x', 'ttl' => '0'], 'ttl-zero'],
]);

it('says when no reverse zone covers the address', function (): void {
    $w = World::make(false);
    $link = $w->carve('198.51.100.0/26');
    $outcome = $w->acts()
        ->rehearse(null, [PlaceHost::fromInput(['prefix' => $link->id, 'name' => 'x', 'zone' => $w->zone->id, 'ptr' => '1'])]);
    expect(array_column($outcome->notes(), 'code'))->toContain('no-reverse-zone')->and($outcome->blocked())->toBeFalse();
});

it('moves a host with its names and reservation', function (): void {
    $w = World::make();
    $host = $w
        ->did(
            PlaceHost::fromInput([
                'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'address' => '192.0.2.9',
                'mac' => '00:00:5e:00:53:01', 'reserve' => '1', 'ptr' => '1',
            ]),
        )
        ->made('host');
    $outcome = $w->did(new ChangeHost($host, address: '192.0.2.30', name: 'till-9'));
    expect(Record::query()->where('address_id', $host)->orderBy('type')->pluck('data')->all())
        ->toBe(['192.0.2.30', "till-9.{$w->zone->name}"])
        ->and(Record::query()->where('address_id', $host)->where('type', 12)->value('owner'))
        ->toBe('30.2.0.192.in-addr.arpa.')
        ->and((string) Reservation::query()->where('address_id', $host)->sole()->address)->toBe('192.0.2.30')
        ->and(implode(' ', $outcome->later()))->toContain('1 h');
});

it('releases a host with all it had', function (): void {
    $w = World::make();
    $host = $w
        ->did(
            PlaceHost::fromInput([
                'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'reserve' => '1',
                'ptr' => '1',
            ]),
        )
        ->made('host');
    $w->did(new ReleaseHosts([$host], $w->subnet->id));
    expect(Host::query()->find($host))->toBeNull()->and(Record::query()->where('address_id', $host)->exists())
        ->toBeFalse()->and(Reservation::query()->where('address_id', $host)->exists())->toBeFalse();
});

it('proposes free addresses that are for hosts', function (): void {
    $w = World::make();
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.3']));
    expect(array_map(strval(...), FreeAddresses::next($w->subnet, 3)))->toBe(['192.0.2.2', '192.0.2.4', '192.0.2.5']);
    $w->did(new ChangeScope($w->scope->id, ranges: ['192.0.2.2-192.0.2.120'], divide: true));
    expect(array_map(strval(...), FreeAddresses::next($w->subnet, 2)))->toBe(['192.0.2.121', '192.0.2.122']);
});

it('folds use into the counters', function (): void {
    $w = World::make(false);
    foreach (range(1, 3) as $i) {
        $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id]));
    }
    Counter::fold();
    expect($w->subnet->refresh()->used)->toBe(3)->and(DB::table('use_deltas')->where('prefix_id', $w->subnet->id)->count())->toBe(0);
});
