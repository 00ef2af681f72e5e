<?php

declare(strict_types=1);

use App\Acts\Engine\Act;
use App\Acts\Lease\AddReservation;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\MergePrefix;
use App\Acts\Plan\MoveSubnet;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\RemovePrefix;
use App\Acts\Plan\ResizePrefix;
use App\Acts\Plan\SplitPrefix;
use App\Models\Host;
use App\Models\OptionValue;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\ScopeRange;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\OpenSpace;
use Illuminate\Support\Facades\DB;
use Tests\World;

function code(World $w, Act $act): ?string
{
    return $w->acts()->rehearse($w->people['planner'], [$act])->block()?->code;
}

/** Every node's open blocks, children and carved share are what the core computes from its children. */
function treeHolds(World $w): void
{
    foreach (Prefix::query()->where('space_id', $w->space->id)->where('groups', true)->get() as $node) {
        $children = Prefix::query()->where('parent_id', $node->id)->get();
        $open = array_map(
            strval(...),
            OpenSpace::in($node->prefix(), $children->map(fn (Prefix $p): Net => $p->prefix())->all())->blocks(),
        );
        $kept = DB::table('open_blocks')->where('parent_id', $node->id)->orderBy('first')->get()
            ->map(fn (object $b): string => (string) Net::of(Address::fromBytes((string) $b->first), (int) $b->length))
            ->all();
        expect($kept)->toBe($open)->and($node->children)->toBe($children->count())->and($node->carved)
            ->toBe((float) $children->sum(fn (Prefix $p): float => 2.0 ** ($node->length - $p->length)));
    }
}

/** @return list<string> */
function nets(World $w, ?string $parent): array
{
    return Prefix::query()->where('space_id', $w->space->id)->where('parent_id', $parent)->orderBy('first')->get()
        ->map(fn (Prefix $p): string => (string) $p->prefix())->all();
}

it('splits a subnet: hosts stay where their address is, the piece with the gateway stays the same', function (): void {
    $w = World::make(false);
    foreach (['192.0.2.9', '192.0.2.70', '192.0.2.71'] as $address) {
        $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => $address]));
    }
    $w->did(new SplitPrefix($w->subnet->id, 27));
    expect(nets($w, $w->top->id))->toBe(['192.0.2.0/27', '192.0.2.32/27', '192.0.2.64/27', '192.0.2.96/27'])
        ->and((string) $w->subnet->refresh()->prefix())->toBe('192.0.2.0/27')->and((string) $w->subnet->gateway)
        ->toBe('192.0.2.1');
    $third = Prefix::query()->where('space_id', $w->space->id)->where('first', Address::parse('192.0.2.64')->bytes)->sole();
    expect(Host::query()->where('prefix_id', $third->id)->count())->toBe(2)->and($third->stage->value)->toBe('live')
        ->and($third->name)->toBe('Ticketing')->and((string) $third->gateway)->toBe('192.0.2.65');
    treeHolds($w);
});

it('does not split across what would break', function (): void {
    $w = World::make();
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.31']));
    expect(code($w, new SplitPrefix($w->subnet->id, 27)))->toBe('range-crosses')
        ->and(code($w, new SplitPrefix($w->subnet->id, 25)))->toBe('bad-length')
        ->and(code($w, new SplitPrefix($w->top->id, 26)))->toBe('child-crosses');
    $bare = World::make(false);
    $bare->did(PlaceHost::fromInput(['prefix' => $bare->subnet->id, 'address' => '192.0.2.31']));
    expect(code($bare, new SplitPrefix($bare->subnet->id, 27)))->toBe('host-at-end');
});

it('keeps the piece of the scope the same object', function (): void {
    $w = World::make(false);
    $w->did(new ChangePrefix([$w->subnet->id], gateway: '-'));
    $w->did(
        App\Acts\Lease\MakeScope::fromInput([
            'prefix' => $w->subnet->id,
            'ranges' => ['192.0.2.70-192.0.2.90'],
            'servers' => [$w->servers['dh1']],
        ]),
    );
    $w->did(new SplitPrefix($w->subnet->id, 26));
    expect((string) $w->subnet->refresh()->prefix())->toBe('192.0.2.64/26');
    treeHolds($w);
});

it('splits a supernet and takes its children along', function (): void {
    $w = World::make(false);
    $gates = $w->carve('192.0.2.128/26', ['name' => 'Gates']);
    $w->did(new SplitPrefix($w->top->id, 25));
    expect(nets($w, null))->toBe(['192.0.2.0/25', '192.0.2.128/25'])->and((string) $gates->refresh()->parent?->prefix())
        ->toBe('192.0.2.128/25');
    treeHolds($w);
});

it('merges siblings with hosts and scopes', function (): void {
    $w = World::make();
    $other = $w->carve('192.0.2.128/25', ['name' => 'Gates', 'stage' => 'planned']);
    $w->did(
        App\Acts\Lease\MakeScope::fromInput([
            'prefix' => $other->id,
            'ranges' => ['192.0.2.160-192.0.2.170'],
            'servers' => [$w->servers['dh1']],
        ]),
    );
    $w->did(PlaceHost::fromInput(['prefix' => $other->id, 'address' => '192.0.2.140']));
    $outcome = $w->did(new MergePrefix($w->subnet->id));
    expect((string) $w->subnet->refresh()->prefix())->toBe('192.0.2.0/24')
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(1)
        ->and(ScopeRange::query()->where('scope_id', $w->scope->id)->whereNotNull('server_id')->count())->toBe(3)
        ->and(array_column($outcome->notes(), 'code'))->toContain('scopes-merge')->toContain('other-stage')
        ->and(Prefix::query()->whereKey($other->id)->exists())->toBeFalse();
    treeHolds($w);
});

it('says why siblings do not merge', function (): void {
    $w = World::make(false);
    expect(code($w, new MergePrefix($w->subnet->id)))->toBe('no-sibling');
    $w->carve('192.0.2.128/26', ['name' => 'Gates']);
    expect(code($w, new MergePrefix($w->subnet->id)))->toBe('no-sibling');
    $w->did(new SplitPrefix($w->top->id, 25));
    $low = Prefix::query()->where('space_id', $w->space->id)->where('groups', true)->where('length', 25)->orderBy('first')->firstOrFail();
    $w->did(new MergePrefix($low->id));
    expect(nets($w, null))->toBe(['192.0.2.0/24']);
    treeHolds($w);
});

it('grows into open space and shrinks to a part', function (): void {
    $w = World::make(false);
    $small = $w->carve('192.0.2.192/27', ['name' => 'Small', 'gateway' => '192.0.2.193']);
    $w->did(new ResizePrefix($small->id));
    expect((string) $small->refresh()->prefix())->toBe('192.0.2.192/26');
    treeHolds($w);
    $w->did(new ResizePrefix($small->id, '192.0.2.128/25'));
    expect((string) $small->refresh()->prefix())->toBe('192.0.2.128/25')->and($small->parent_id)->toBe($w->top->id);
    expect(code($w, new ResizePrefix($small->id, '192.0.2.0/24')))->toBe('not-open')
        ->and(code($w, new ResizePrefix($small->id, '192.0.2.128/27')))->toBe('gateway-outside')
        ->and(code($w, new ResizePrefix($small->id, '192.0.3.0/25')))->toBe('not-around')
        ->and(code($w, new ResizePrefix($small->id, '192.0.0.0/16')))->toBe('beyond-parent');
    $w->did(new ResizePrefix($small->id, '192.0.2.192/27'));
    treeHolds($w);
    $w->did(PlaceHost::fromInput(['prefix' => $small->id, 'address' => '192.0.2.220']));
    expect(code($w, new ResizePrefix($small->id, '192.0.2.192/28')))->toBe('hosts-outside');
    expect(code($w, new ResizePrefix($w->top->id, '192.0.2.0/25')))->toBe('child-outside');
    $w->did(new ResizePrefix($w->top->id, '192.0.2.0/23'));
    expect((string) $w->top->refresh()->prefix())->toBe('192.0.2.0/23');
    treeHolds($w);
});

it('keeps the tree and its open blocks whole through many acts', function (): void {
    mt_srand(31);
    $w = World::make(false);
    $did = ['split' => 0, 'merge' => 0, 'resize' => 0];
    for ($i = 0; $i < 200; $i++) {
        $row = Prefix::query()->where('space_id', $w->space->id)->whereNotNull('parent_id')->inRandomOrder(mt_rand())->first();
        $act = match (mt_rand(0, 5)) {
            0 => $row === null ? null : new SplitPrefix($row->id, $row->length + mt_rand(1, 2)),
            1, 5 => $row === null ? null : new MergePrefix($row->id),
            2 => $row === null ? null : new ResizePrefix($row->id),
            3 => $row === null ? null : new ResizePrefix($row->id, (string) $row->prefix()->halves()[mt_rand(0, 1)]),
            default => App\Acts\Plan\CarvePrefix::fromInput([
                'space' => $w->space->id, 'in' => $w->top->id, 'length' => mt_rand(26, 30),
                'kind' => mt_rand(0, 2) === 0 ? 'supernet' : 'subnet', 'fit' => 'first',
            ]),
        };
        if ($act === null || $row !== null && $row->length > 29) {
            continue;
        }
        $outcome = $w->acts()->commit(null, [$act]);
        $outcome->blocked() || ! isset($did[explode('-', $act::key())[0]]) ?: $did[explode('-', $act::key())[0]]++;
        $i % 6 === 0 && treeHolds($w);
    }
    treeHolds($w);
    expect(min($did))->toBeGreaterThan(1);
    foreach (Prefix::query()->where('space_id', $w->space->id)->whereNotNull('parent_id')->orderByDesc('length')->get() as $row) {
        $w->did(new RemovePrefix($row->id));
    }
    treeHolds($w);
});

it('moves a subnet with hosts, names both ways, reservations, scope and gateway, and back again', function (): void {
    $w = World::make();
    $w->did(new AddReservation($w->scope->id, '192.0.2.99', '00:00:5e:00:53:77'));
    foreach (range(1, 5) as $i) {
        $w->did(
            PlaceHost::fromInput([
                'prefix' => $w->subnet->id, 'name' => "till-$i", 'zone' => $w->zone->id, 'mac' => "00:00:5e:00:53:0$i", 'ptr' => '1',
                'reserve' => '1',
            ]),
        );
    }
    $w->carve('198.51.100.0/24', ['kind' => 'supernet', 'name' => 'Elsewhere']);
    $state = fn (): array => [
        Host::query()->where('prefix_id', $w->subnet->id)->orderBy('address')->get()
            ->map(fn (Host $h): string => "$h->address $h->name")->all(),
        Record::query()->whereNotNull('address_id')->orderBy('owner')->get()->map(fn (Record $r): string => $r->line())->all(),
        Reservation::query()->where('scope_id', $w->scope->id)->orderBy('address')->get()
            ->map(fn (Reservation $r): string => "$r->address $r->mac")->all(),
        ScopeRange::query()->where('scope_id', $w->scope->id)->get()->map(fn (ScopeRange $r): string => (string) $r->range())->all(),
        OptionValue::query()->where('layer_id', $w->scope->id)->where('code', 3)->value('values'),
        (string) $w->subnet->refresh()->gateway,
        (string) $w->subnet->prefix(),
    ];
    $before = $state();
    $move = new MoveSubnet($w->subnet->id, '198.51.100.0/25');
    expect(code($w, $move))->toBe('conflicts');
    $page = $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->subnet->id}/move?to=198.51.100.0/25")->assertOk();
    $page->assertSee('no reverse zone in 198.51.100.0/25')->assertSee('198.51.100.4')
        ->assertSee('198.51.100.60-198.51.100.91')->assertSee('leave out PTRs');
    $w->zone('100.51.198.in-addr.arpa');
    $outcome = $w->did($move);
    $after = $state();
    expect($after[0])->toBe(array_map(fn (string $l): string => str_replace('192.0.2.', '198.51.100.', $l), $before[0]))
        ->and($after[2])
        ->toBe(array_map(fn (string $l): string => str_replace('192.0.2.', '198.51.100.', $l), $before[2]))
        ->and($after[3])->toBe(['198.51.100.60-198.51.100.91', '198.51.100.92-198.51.100.100'])->and($after[4])
        ->toBe(['198.51.100.1'])->and($after[5])->toBe('198.51.100.1')->and($after[1])
        ->toContain("PTR 2.100.51.198.in-addr.arpa. → till-1.{$w->zone->name}")
        ->toContain("A till-1.{$w->zone->name} → 198.51.100.2")
        ->and($outcome->made('from'))->toBe('192.0.2.0/25');
    treeHolds($w);
    // What was journalled is what goes to the servers.
    expect(
        DB::table('record_changes')->where('zone_id', $w->zone->id)->whereNull('serial')->where('op', '-')
            ->where('data', '192.0.2.2')->count(),
    )->toBe(1);
    $w->did(new MoveSubnet($w->subnet->id, '192.0.2.0/25'));
    expect($state())->toBe($before);
    treeHolds($w);
});

it('moves two hundred hosts in one act', function (): void {
    $w = World::make(false);
    $w->carve('198.51.100.0/24', ['kind' => 'supernet']);
    $big = $w->carve('10.50.0.0/24', ['name' => 'Big', 'gateway' => '10.50.0.1']);
    $w->zone('0.50.10.in-addr.arpa');
    $w->zone('100.51.198.in-addr.arpa');
    $w->did(
        new App\Acts\Plan\PlaceMany(
            array_map(
                fn (int $i): array => [
                    'prefix' => $big->id, 'address' => "10.50.0.$i", 'name' => "h$i", 'zone' => $w->zone->id,
                    'reverse' => App\Models\Zone::query()->where('name', '0.50.10.in-addr.arpa.')->value('id'),
                ],
                range(2, 201),
            ),
        ),
    );
    $w->did(new MoveSubnet($big->id, '198.51.100.0/24'));
    expect(Host::query()->where('prefix_id', $big->id)->where('address', '>=', Address::parse('198.51.100.2')->bytes)->count())
        ->toBe(200)
        ->and(
            Record::query()
                ->where('zone_id', App\Models\Zone::query()->where('name', '100.51.198.in-addr.arpa.')->value('id'))
                ->where('type', 12)->count(),
        )
        ->toBe(200);
});

it('refuses a move that cannot be', function (string $to, string $code): void {
    $w = World::make(false);
    $w->carve('192.0.2.192/26', ['name' => 'Gates']);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.70']));
    expect(code($w, new MoveSubnet($w->subnet->id, $to)))->toBe($code);
})->with([
    ['192.0.2.64/26', 'bad-target'], ['2001:db8::/64', 'bad-target'], ['192.0.2.192/27', 'inside-link'],
    ['192.0.2.130/26', 'not-a-prefix'], ['192.0.2.128/28', 'conflicts'], ['192.0.2.128/25', 'overlap'], ['x', 'not-a-prefix'],
]);

it('warns of names that point into the target already', function (): void {
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']));
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'old', 'type' => 'A', 'data' => '192.0.2.201']));
    $w->carve('192.0.2.192/29', ['kind' => 'supernet']);
    expect($w->acts()->rehearse(null, [new MoveSubnet($w->subnet->id, '192.0.2.200/29')])->block()?->code)->toBe('conflicts');
});

it('keeps hands off for readers', function (): void {
    $w = World::make(false);
    foreach (
        [
            new SplitPrefix($w->subnet->id, 26), new MergePrefix($w->subnet->id), new ResizePrefix($w->subnet->id),
            new MoveSubnet($w->subnet->id, '192.0.2.128/25'),
        ] as $act
    ) {
        expect($w->acts()->rehearse($w->people['operator'], [$act])->block()?->code)->toBe('not-allowed');
    }
});
