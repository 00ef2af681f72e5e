<?php

declare(strict_types=1);

use App\Acts\Lease\AddReservation;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangeHosts;
use App\Acts\Plan\HoldRun;
use App\Acts\Plan\LetRunGo;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\PlaceSeveral;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Record;
use App\Models\Reservation;
use App\Queries\EvidencePage;
use App\Queries\FreeAddresses;
use App\Queries\PrefixPage;
use App\Queries\Reach;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\NextFree;
use HarborPost\Core\Planning\RunKind;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** @return list<string> */
function hostsOf(World $w): array
{
    return Host::query()->where('prefix_id', $w->subnet->id)->orderBy('address')->get()
        ->map(fn (Host $h): string => trim("$h->address $h->name"))->all();
}

it('finds the lowest row of neighbours, as trying each place does', function (): void {
    mt_srand(3);
    $net = Net::parse('10.0.0.0/26');
    for ($round = 0; $round < 200; $round++) {
        $used = array_values(array_filter(range(1, 62), fn (): bool => mt_rand(0, 9) < 3));
        $kept = mt_rand(0, 1) === 1 ? [AddressRange::parse('10.0.0.20-10.0.0.30')] : [];
        $count = mt_rand(1, 9);
        $page = fn (Address $from, int $limit): array => array_slice(
            array_values(
                array_filter(
                    array_map(fn (int $i): Address => Address::parse("10.0.0.$i"), $used),
                    fn (Address $a): bool => $a->compare($from) >= 0,
                ),
            ),
            0,
            $limit,
        );
        $free = array_fill_keys(
            array_filter(
                range(1, 62),
                fn (int $i): bool => $i !== 1 && ! in_array($i, $used, true) && ($kept === [] || $i < 20 || $i > 30),
            ),
            true,
        );
        $expected = null;
        for ($i = 1; $i + $count - 1 <= 62 && $expected === null; $i++) {
            $expected = array_filter(range($i, $i + $count - 1), fn (int $j): bool => ! isset($free[$j])) === [] ? $i : null;
        }
        $row = NextFree::row($net, Address::parse('10.0.0.1'), $kept, $page, $count);
        expect($row === [] ? null : (string) $row[0])->toBe($expected === null ? null : "10.0.0.$expected")
            ->and(count($row))->toBe($expected === null ? 0 : $count);
    }
});

it('holds a run with reason and end, and keeps it from the next free', function (): void {
    $w = World::make(false);
    $w->did(
        HoldRun::fromInput([
            'prefix' => $w->subnet->id, 'range' => '192.0.2.2-192.0.2.5', 'why' => 'for the new gates',
            'until' => now()->addDays(3)->format('Y-m-d'),
        ]),
    );
    expect((string) FreeAddresses::next($w->subnet)[0])->toBe('192.0.2.6');
    [$runs] = (new PrefixPage(Reach::of($w->people['planner'])))->runs($w->subnet, null);
    expect(array_values(array_filter($runs, fn ($r): bool => $r->kind === RunKind::Held))[0]->range->__toString())->toBe(
        '192.0.2.2-192.0.2.5',
    );
    $outcome = $w->acts()->rehearse(null, [PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.3'])]);
    expect(array_column($outcome->notes(), 'code'))->toContain('in-held-run');
    $this->travel(5)->days();
    expect((string) FreeAddresses::next($w->subnet)[0])->toBe('192.0.2.2');
    $this->travelBack();
    $w->did(new LetRunGo(HeldRun::query()->where('prefix_id', $w->subnet->id)->sole()->id));
    expect((string) FreeAddresses::next($w->subnet)[0])->toBe('192.0.2.2');
});

it('refuses runs that cannot be held', function (array $input, string $code): void {
    $w = World::make(false);
    $w->did(HoldRun::fromInput(['prefix' => $w->subnet->id, 'range' => '192.0.2.100-192.0.2.110', 'why' => 'x']));
    expect(
        $w->acts()
            ->rehearse(
                $w->people['operator'],
                [HoldRun::fromInput($input + ['prefix' => $w->subnet->id, 'range' => '192.0.2.9', 'why' => 'y'])],
            )
            ->block()?->code,
    )->toBe($code);
})->with([
    [['range' => '192.0.2.105'], 'run-overlap'], [['range' => '192.0.2.120-192.0.2.130'], 'range-outside'],
    [['range' => 'x'], 'bad-range'], [['why' => ' '], 'no-reason'], [['until' => '2020-01-01'], 'past-date'],
    [['until' => '2026-02-30'], 'bad-date'],
]);

it('gives the next N, N in a row, and one for each pasted name', function (): void {
    $w = World::make();
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.4']));
    $w->did(PlaceSeveral::fromInput(['prefix' => $w->subnet->id, 'count' => '3']));
    expect(hostsOf($w))->toBe(['192.0.2.2', '192.0.2.3', '192.0.2.4', '192.0.2.5']);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.8']));
    $w->did(
        PlaceSeveral::fromInput([
            'prefix' => $w->subnet->id, 'count' => '3', 'row' => '1', 'names' => 'cam-{n}', 'start' => '7', 'zone' => $w->zone->id,
            'ptr' => '1',
        ]),
    );
    expect(array_slice(hostsOf($w), 5))->toBe([
        "192.0.2.9 cam-7.{$w->zone->title()}",
        "192.0.2.10 cam-8.{$w->zone->title()}",
        "192.0.2.11 cam-9.{$w->zone->title()}",
    ]);
    $w->did(
        PlaceSeveral::fromInput([
            'prefix' => $w->subnet->id, 'names' => "printer 00:00:5e:00:53:21\n\nscanner,00-00-5e-00-53-22\nlobby",
            'zone' => $w->zone->id, 'ptr' => '1', 'reserve' => '1',
        ]),
    );
    expect(
        Reservation::query()->where('scope_id', $w->scope->id)->orderBy('address')->get()
            ->map(fn (Reservation $r): string => "$r->address $r->name")->all(),
    )
        ->toBe(['192.0.2.6 printer', '192.0.2.7 scanner'])
        ->and(Record::query()->where('zone_id', $w->reverse->id)->where('type', 12)->count())->toBe(6);
});

it('places all of a list or none', function (): void {
    $w = World::make(false);
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'two', 'type' => 'CNAME', 'data' => 'x']));
    $act = fn (array $more) => PlaceSeveral::fromInput($more + ['prefix' => $w->subnet->id, 'zone' => $w->zone->id]);
    expect($w->acts()->commit(null, [$act(['names' => "one\ntwo\nthree"])])->block()?->code)->toBe('cname-beside-data')
        ->and(hostsOf($w))->toBe([]);
    foreach (
        [
            ['names' => 'a b c'], ['names' => "a\nb", 'count' => '3'], ['count' => '0'], ['count' => '501'],
            ['count' => '126', 'row' => '1'],
        ] as $i => $input
    ) {
        expect($w->refusal(PlaceSeveral::class, $input + ['prefix' => $w->subnet->id]))->toBe(
            ['bad-line', 'count-differs', 'bad-input', 'bad-input', 'no-row'][$i],
        );
    }
});

it('chooses IPv6 addresses low, from the MAC, or stable', function (): void {
    $w = World::make(false);
    $six = $w->carve('2001:db8:5::/64', ['gateway' => '2001:db8:5::1']);
    $place = fn (array $more): string => (string) $w->did(PlaceHost::fromInput($more + ['prefix' => $six->id]))->made('address');
    expect($place([]))->toBe('2001:db8:5::2')->and($place(['choose' => 'eui64', 'mac' => '34:56:78:9a:bc:de']))
        ->toBe('2001:db8:5:0:3656:78ff:fe9a:bcde');
    $stable = $place(['choose' => 'stable', 'name' => 'kiosk']);
    expect(Net::parse('2001:db8:5::/64')->contains(Address::parse($stable)))->toBeTrue()
        ->and($w->acts()->rehearse(null, [PlaceHost::fromInput(['prefix' => $six->id, 'choose' => 'eui64'])])->block()?->code)
        ->toBe('no-mac');
    $other = $w->carve('2001:db8:6::/80');
    expect(
        $w->acts()->rehearse(null, [PlaceHost::fromInput(['prefix' => $other->id, 'choose' => 'stable', 'name' => 'x'])])->block()?->code,
    )->toBe('no-such-choice');
});

it('edits a selection of hosts, with the TTL of their records', function (): void {
    $w = World::make(false);
    $w->did(PlaceSeveral::fromInput(['prefix' => $w->subnet->id, 'names' => "a\nb\nc", 'zone' => $w->zone->id, 'ptr' => '1']));
    $ids = Host::query()->where('prefix_id', $w->subnet->id)->orderBy('address')->limit(2)->pluck('id')->all();
    $this->actingAs($w->people['operator'])
        ->post(
            '/act/change-hosts',
            [
                'hosts' => $ids, 'prefix' => $w->subnet->id, 'role' => 'service', 'owner' => 'Quay team', 'interface' => 'eth0',
                'ttl' => '600', 'then' => 'commit',
            ],
        )
        ->assertRedirect();
    expect(Host::query()->whereIn('id', $ids)->get()->map(fn (Host $h): array => [$h->role, $h->owner, $h->interface])->unique()->all())
        ->toBe([['service', 'Quay team', 'eth0']])
        ->and(Record::query()->whereIn('address_id', $ids)->pluck('ttl')->unique()->all())->toBe([600]);
    $w->did(ChangeHosts::fromInput(['hosts' => $ids, 'owner' => '-', 'ttl' => '-']));
    expect(Host::query()->whereIn('id', $ids)->pluck('owner')->unique()->all())->toBe([''])
        ->and(Record::query()->whereIn('address_id', $ids)->whereNotNull('ttl')->count())->toBe(0);
    expect($w->acts()->rehearse($w->people['reader'], [new ChangeHosts($ids, owner: 'x')])->block()?->code)
        ->toBe('not-allowed')
        ->and($w->acts()->rehearse(null, [new ChangeHosts([...$ids, 'x'], owner: 'x')])->block()?->code)
        ->toBe('not-available');
});

it('lays the evidence of each address side by side', function (): void {
    $w = World::make();
    $w->did(PlaceSeveral::fromInput(['prefix' => $w->subnet->id, 'names' => "good 00:00:5e:00:53:01\nother "
        ."00:00:5e:00:53:02\nsilent 00:00:5e:00:53:03", 'zone' => $w->zone->id, 'ptr' => '1']));
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'stray', 'type' => 'A', 'data' => '192.0.2.50']));
    $w->did(new AddReservation($w->scope->id, '192.0.2.51', '00:00:5e:00:53:51'));
    $see = fn (string $address, string $mac, string $when) => DB::table('sightings')->insert([
        'space_id' => $w->space->id, 'family' => 4, 'address' => Address::parse($address)->bytes,
        'mac' => hex2bin(str_replace(':', '', $mac)), 'first_seen' => now()->subDays(9), 'last_seen' => $when,
    ]);
    $see('192.0.2.2', '00:00:5e:00:53:01', (string) now());
    $see('192.0.2.3', '00:00:5e:00:53:99', (string) now());
    $see('192.0.2.4', '00:00:5e:00:53:03', (string) now()->subDays(5));
    $see('192.0.2.55', '00:00:5e:00:53:55', (string) now());
    DB::table('scans')->insert([
        'id' => '01SCAN00000000000000000000', 'space_id' => $w->space->id, 'prefixes' => json_encode([$w->subnet->id]),
        'left_out' => '[]', 'state' => 'done', 'finished_at' => now(),
    ]);
    $page = EvidencePage::of($w->subnet, '');
    expect(
        array_combine(
            array_map(fn (array $r): string => (string) $r['address'], $page['rows']),
            array_map(fn (array $r): string => $r['verdict']['code'], $page['rows']),
        ),
    )
        ->toBe([
            '192.0.2.2' => 'agrees', '192.0.2.3' => 'other-mac', '192.0.2.4' => 'silent', '192.0.2.51' => 'reserved-only',
            '192.0.2.55' => 'unknown',
        ]);
    expect(count(EvidencePage::of($w->subnet, '', true)['rows']))->toBe(4);
    $this->actingAs($w->people['operator'])->get("/plan/prefix/{$w->subnet->id}?show=evidence")->assertOk()
        ->assertSee('another device answers')->assertSee('answers and is not planned')->assertSee('in use as planned');
    $this->get("/plan/prefix/{$w->subnet->id}?show=conflicts")->assertOk()->assertDontSee('in use as planned');
});

it('pages through the evidence without losing an address', function (): void {
    $w = World::make(false);
    $big = $w->carve('10.60.0.0/22', ['name' => 'Big']);
    foreach (range(1, 300) as $i) {
        DB::table('sightings')->insert([
            'space_id' => $w->space->id, 'family' => 4, 'address' => Address::parse('10.60.0.0')->plus($i * 3)->bytes,
            'first_seen' => now(), 'last_seen' => now(),
        ]);
    }
    $w->did(PlaceSeveral::fromInput(['prefix' => $big->id, 'count' => '90']));
    $seen = [];
    for ($from = '', $pages = 0; $from !== null && $pages < 20; $pages++) {
        $page = EvidencePage::of($big, $from);
        $seen = [...$seen, ...array_map(fn (array $r): string => (string) $r['address'], $page['rows'])];
        $from = $page['next'];
    }
    // Next free passes over what answered.
    expect(count($seen))->toBe(count(array_unique($seen)))
        ->and(count($seen))->toBe(DB::table('sightings')->where('space_id', $w->space->id)->count() + 90);
});

it('holds a run from the form of the page', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['operator'])
        ->post('/act/hold-run', ['prefix' => $w->subnet->id, 'range' => '192.0.2.40-192.0.2.49', 'why' => 'spare', 'then' => 'commit'])
        ->assertRedirect();
    $run = HeldRun::query()->where('prefix_id', $w->subnet->id)->sole();
    $this->get("/plan/prefix/{$w->subnet->id}")->assertSee('spare')->assertSee('192.0.2.40-192.0.2.49');
    $this->post('/act/let-run-go', ['run' => $run->id, 'then' => 'commit'])->assertRedirect();
    expect(HeldRun::query()->where('prefix_id', $w->subnet->id)->exists())->toBeFalse();
});
