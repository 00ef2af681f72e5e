<?php

declare(strict_types=1);

use App\Acts\Engine\Acts;
use App\Models\Host;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use App\Models\Vlan;
use App\Models\Zone;
use App\View\Level;
use Database\Scenario\Kittiwake;
use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\Zone\Zone as CoreZone;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\OpenSpace;
use Illuminate\Support\Facades\DB;
use Tests\Crawl;

it('loads the whole scenario by Actions, with what is wrong on purpose and nothing else', function (): void {
    config(['harbor.demo' => true]);
    config(['harbor.standins' => '/no/stand-ins']);
    (new Kittiwake(app(Acts::class)))->load();

    // The size that the scenario promises.
    expect(Prefix::query()->where('groups', false)->count())->toBeGreaterThan(200)
        ->and(Host::query()->count())->toBeGreaterThan(8000)
        ->and(Record::query()->count())->toBeGreaterThan(10000)
        ->and(Prefix::query()->where('groups', true)->count())->toBeGreaterThan(50)
        ->and(Zone::query()->count())->toBeGreaterThan(36)
        ->and(Scope::query()->count())->toBeGreaterThan(50)
        ->and(Person::query()->where('program', false)->pluck('sign_in')->sort()->values()->all())
        ->toBe(['ilke', 'maren', 'quill', 'sable', 'tobin', 'wick']);

    // A full subnet, and a top holding without headroom.
    $gates = Prefix::query()->where('name', 'like', 'Gates%')->get()->first(fn (Prefix $p): bool => Level::of($p)->percent >= 100);
    expect($gates)->not->toBeNull()
        ->and(Prefix::query()->where('name', 'Booking, outside')->sole()->carved)->toBe(1.0);

    // A scope whose router is off its subnet, and no other.
    $off = OptionValue::query()->where('layer', 'scope')->where('code', 3)->get()->filter(function (OptionValue $o): bool {
        $net = Scope::query()->findOrFail($o->layer_id)->prefix->prefix();

        return ! $net->contains(Address::parse($o->values[0]));
    });
    expect($off)->toHaveCount(1)
        ->and(Scope::query()->findOrFail($off->first()->layer_id)->name)->toBe('Ticketing, Ebb Cove');

    // One VLAN number and name in two domains at Tarbeck.
    expect(
        Vlan::query()->where('number', 110)->where('name', 'TICKETING')
            ->whereHas('domain', fn ($d) => $d->where('name', 'like', 'Tarbeck%'))->count(),
    )->toBe(2);

    // Two names for one address, with the PTR on one of them; an alias that leads nowhere.
    $desk = Record::query()->where('owner', 'like', 'information-desk.%')->sole();
    expect(Record::query()->where('type', 1)->where('data', $desk->data)->count())->toBe(2)
        ->and(Record::query()->where('owner', 'old-timetable.ops.kittiwake.example.')->exists())->toBeFalse()
        ->and(Record::query()->where('target', 'old-timetable.ops.kittiwake.example.')->count())->toBe(1);

    // Otherwise every zone is sound, and every supernet's open blocks are what the core computes.
    foreach (Zone::query()->get() as $zone) {
        $records = Record::query()->where('zone_id', $zone->id)->get()
            ->map(fn (Record $r): DnsRecord => $r->toRecord($zone->default_ttl))->all();
        $core = CoreZone::of($zone->origin(), [new DnsRecord($zone->origin(), 3600, $zone->soa()), ...$records]);
        $found = array_map(fn (Finding $f): string => "$f->code $f->owner", iterator_to_array(ZoneRules::check($core), false));
        expect(array_diff($found, ['below-delegation timetable.kittiwake.example.']))->each
            ->toMatch('/^(target-missing|below-delegation|glue-pointless) /', "$zone->name");
    }
    foreach (Prefix::query()->where('groups', true)->get() as $holder) {
        $children = Prefix::query()->where('parent_id', $holder->id)->get()->map(fn (Prefix $p): Net => $p->prefix());
        expect(DB::table('open_blocks')->where('parent_id', $holder->id)->count())->toBe(
            OpenSpace::in($holder->prefix(), $children)->count(),
            $holder->line(),
        );
    }

    // Only documentation and private space, only example names.
    expect(Zone::query()->where('name', 'not like', '%.example.')->where('name', 'not like', '%.arpa.')->count())->toBe(0);
    foreach (Prefix::query()->whereNull('parent_id')->get() as $top) {
        $allowed = array_filter(
            ['10.0.0.0/8', '198.51.100.0/24', '203.0.113.0/24', '192.0.2.0/24', '2001:db8::/32'],
            fn (string $p): bool => Net::parse($p)->contains($top->prefix()),
        );
        expect($allowed)->not->toBe([], $top->line());
    }

    // Every page that somebody is led to is there, and every form sends what its act asks for.
    config(['harbor.patience' => 0.05, 'harbor.glance' => 0.05]);
    $kinds = $tried = [];
    foreach (['maren', 'sable', 'tobin', 'quill', 'wick'] as $who) {
        $crawl = new Crawl($this, Person::query()->where('sign_in', $who)->sole());
        expect($crawl->faults)->toBe([], $who);
        array_push($kinds, ...$crawl->kinds());
        array_push($tried, ...$crawl->tried());
    }
    expect(count(array_unique($kinds)))->toBeGreaterThan(140)->and(count(array_unique($tried)))->toBeGreaterThan(400);
});
