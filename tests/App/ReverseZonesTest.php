<?php

declare(strict_types=1);

use App\Acts\Name\MakeReverseZones;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Record;
use App\Models\Zone;
use App\Queries\Find;
use App\Queries\Reach;
use App\Queries\ReverseGaps;
use Tests\World;

/** @return list<string> "owner type data" of a zone without its NS at the top */
function below(Zone $zone): array
{
    return Record::query()->where('zone_id', $zone->id)->where('owner', '!=', $zone->name)->orderBy('owner_key')
        ->orderBy('type')->orderBy('data')->get()->map(fn (Record $r): string => "$r->owner {$r->typeName()} $r->data")
        ->all();
}

it('delegates an RFC 2317 child in one act: NS and CNAMEs above, what stood there moves down, hosts keep their PTR', function (): void {
    $w = World::make(false);
    $w->did(new ChangePrefix([$w->subnet->id], gateway: ''));
    $place = PlaceHost::fromInput([
        'prefix' => $w->subnet->id, 'name' => 'till', 'address' => '192.0.2.66', 'zone' => $w->zone->id, 'ptr' => '1',
    ]);
    $w->did($place);
    expect(below($w->reverse))->toBe(["66.2.0.192.in-addr.arpa. PTR till.{$w->zone->name}"]);
    $act = MakeReverseZones::fromInput([
        'nets' => ['192.0.2.64/30'], 'view' => $w->view, 'servers' => [$w->servers['ns1'], $w->servers['ns2']],
        'nameServers' => 'ns1.quay.example. ns2.quay.example.',
    ]);
    $w->did($act);
    $child = Zone::query()->where('name', '64/30.2.0.192.in-addr.arpa.')->firstOrFail();
    expect(below($child))->toBe(["66.64/30.2.0.192.in-addr.arpa. PTR till.{$w->zone->name}"])
        ->and(below($w->reverse))->toBe([
            '64.2.0.192.in-addr.arpa. CNAME 64.64/30.2.0.192.in-addr.arpa.',
            '64/30.2.0.192.in-addr.arpa. NS ns1.quay.example.',
            '64/30.2.0.192.in-addr.arpa. NS ns2.quay.example.',
            '65.2.0.192.in-addr.arpa. CNAME 65.64/30.2.0.192.in-addr.arpa.',
            '66.2.0.192.in-addr.arpa. CNAME 66.64/30.2.0.192.in-addr.arpa.',
            '67.2.0.192.in-addr.arpa. CNAME 67.64/30.2.0.192.in-addr.arpa.',
        ]);
    // A host that comes later finds its PTR's place in the child, and its record stays with it.
    $later = PlaceHost::fromInput([
        'prefix' => $w->subnet->id, 'name' => 'kiosk', 'address' => '192.0.2.65', 'zone' => $w->zone->id, 'ptr' => '1',
    ]);
    $w->did($later);
    expect(below($child)[0])->toBe("65.64/30.2.0.192.in-addr.arpa. PTR kiosk.{$w->zone->name}")
        ->and(Record::query()->where('zone_id', $child->id)->whereNotNull('address_id')->count())->toBe(2);
});

it('makes the zones of many prefixes at once and writes the PTRs of placed hosts', function (): void {
    $w = World::make(false);
    $net = $w->carve('198.51.100.0/23', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Far quay']);
    $subnet = $w->carve('198.51.100.0/24', ['name' => 'Gates', 'stage' => 'live']);
    $w->carve('2001:db8:77::/64', ['name' => 'Gates six', 'stage' => 'live']);
    $host = PlaceHost::fromInput(['prefix' => $subnet->id, 'name' => 'gate', 'address' => '198.51.100.9', 'zone' => $w->zone->id]);
    $w->did($host);
    $gaps = fn (): array => array_map(
        fn (array $g): string => (string) $g['prefix']->prefix(),
        ReverseGaps::of(Reach::of($w->people['planner'])),
    );
    expect(array_intersect($gaps(), ['198.51.100.0/24', '2001:db8:77::/64']))->toHaveCount(2);
    $outcome = $w->did(
        MakeReverseZones::fromInput([
            'nets' => '198.51.100.0/23, 2001:db8:77::/64', 'view' => $w->view, 'servers' => [$w->servers['ns1']], 'pointers' => '1',
        ]),
    );
    expect($outcome->made('zones'))->toBe(3)->and(array_intersect($gaps(), ['198.51.100.0/24', '2001:db8:77::/64']))->toBe([])
        ->and(Record::query()->where('owner', '9.100.51.198.in-addr.arpa.')->value('data'))->toBe("gate.{$w->zone->name}");
    $w->carve('198.51.101.0/26', ['name' => 'No zone yet', 'stage' => 'planned']);
    $w->carve('203.0.113.0/26', ['name' => 'No zone', 'stage' => 'live']);
    expect($gaps())->toContain('203.0.113.0/26')->not->toContain('198.51.101.0/26');
    $w->did(MakeReverseZones::fromInput(['gaps' => '1', 'view' => $w->view, 'servers' => [$w->servers['ns1']]]), $w->people['operator']);
    expect(Zone::query()->where('name', '0/26.113.0.203.in-addr.arpa.')->exists())->toBeTrue()
        ->and(ReverseGaps::of(Reach::of($w->people['planner'])))->toBe([]);
    $again = $w->acts()
        ->rehearse(
            $w->people['planner'],
            [MakeReverseZones::fromInput(['nets' => '198.51.100.0/23', 'view' => $w->view, 'servers' => [$w->servers['ns1']]])],
        );
    expect($again->blocked())->toBeFalse()->and($again->written())->toBe([]);
    $around = $w->did(
        MakeReverseZones::fromInput(['nets' => '203.0.112.0/20', 'view' => $w->view, 'servers' => [$w->servers['ns1']], 'cut' => 'around']),
    );
    expect($around->made('zones'))->toBe(1)->and(Zone::query()->where('name', '0.203.in-addr.arpa.')->exists())->toBeTrue();
    $this->actingAs($w->people['operator'])->get('/name/reverse?nets=198.51.100.0/23')->assertOk()->assertSee('2 zones')
        ->assertSee('51.198.in-addr.arpa');
    $this->get('/name/reverse?nets=nonsense')->assertSee('is no prefix');
});

it('refuses what is no prefix, and too many zones at once', function (string $nets, string $code): void {
    $w = World::make(false);
    $outcome = $w->acts()
        ->rehearse(
            $w->people['operator'],
            [MakeReverseZones::fromInput(['nets' => $nets, 'view' => $w->view, 'servers' => [$w->servers['ns1']]])],
        );
    expect($outcome->block()?->code)->toBe($code);
})->with([
    ['11.0.0.0/7', 'not-a-prefix'],
    ['192.0.2.1/24', 'not-a-prefix'],
    [
        '10.0.0.0/7 20.0.0.0/9 30.0.0.0/15 2001:db8::/33 10.16.0.0/15 11.128.0.0/9 13.0.0.0/9 14.0.0.0/9 15.0.0.0/9 16.0.0.0/9 '
            .'17.0.0.0/9 18.0.0.0/9 19.0.0.0/9',
        'several-zones',
    ],
    ['', 'no-prefix'],
]);

it('reads an unfinished address as the network it begins', function (string $text, string $net): void {
    $w = World::make(false);
    expect((string) Find::text($text, Reach::of($w->people['planner']))->net)->toBe($net);
})->with([['192.0.2', '192.0.2.0/24'], ['192.0.', '192.0.0.0/16'], ['192.0.2/23', '192.0.2.0/23']]);
