<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\CopyGrants;
use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\KeepRightTest;
use App\Acts\Directory\KeepTeam;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\RemoveGrant;
use App\Acts\Directory\RemoveTeam;
use App\Acts\Engine\Act;
use App\Acts\Lease\AddReservation;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangeHost;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\MergePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\ReleaseHosts;
use App\Acts\Plan\RemovePrefix;
use App\Acts\Plan\ResizePrefix;
use App\Acts\Plan\SplitPrefix;
use App\Domain\Directory\Rights;
use App\Models\Ability;
use App\Models\Grant;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Team;
use App\Queries\Granted;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->steward = $this->w->people['steward'];
    $this->guest = $this->w->person('guest-'.bin2hex(random_bytes(3)), ['guest']);
    $this->holding = $this->w->carve('198.51.100.0/25', ['kind' => 'supernet', 'name' => 'Given', 'stage' => 'live']);
    $this->beside = $this->w->carve('198.51.100.128/26', ['name' => 'Beside', 'stage' => 'live']);
    $this->inner = $this->w->carve('198.51.100.0/27', ['name' => 'Inner', 'stage' => 'live']);
    $this->grant = function (string $where, array $does, ?Person $to = null, array $more = []): string {
        $act = KeepGrant::fromInput(['person' => ($to ?? $this->guest)->id, 'does' => $does, 'where' => $where] + $more);
        $this->w->did($act, $this->steward);

        return $act->id;
    };
    $this->code = function (Act $act, ?Person $by = null): ?string {
        foreach ($this->w->acts()->rehearse($by ?? $this->guest, [$act])->notes() as $note) {
            if ($note->blocks()) {
                return $note->code;
            }
        }

        return null;
    };
    $this->sees = fn (?Person $who = null): array => Reach::of($who ?? $this->guest)->prefixes()->orderBy('first')->orderBy('length')->get()
        ->map(fn (Prefix $p): string => (string) $p->prefix())->all();
});

it('shows a guest nothing, and then what is granted with all that is inside, and no more', function (): void {
    expect(($this->sees)())->toBe([]);
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->inner->id}")->assertNotFound();
    $this->actingAs($this->guest)->get('/plan')->assertOk();
    ($this->grant)('198.51.100.0/25', ['look']);
    expect(($this->sees)())->toBe(['198.51.100.0/25', '198.51.100.0/27']);
    $page = $this->actingAs($this->guest)->get("/plan/prefix/{$this->inner->id}")->assertOk();
    $page->assertDontSee('Place a host')->assertDontSee('Edit this prefix')->assertReads('Given');
    $this->actingAs($this->guest)->get("/plan/{$this->w->space->id}")->assertOk()->assertSee('198.51.100.0/25')->assertDontSee('Beside');
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->beside->id}")->assertNotFound();
    $this->actingAs($this->guest)->get('/directory/people')->assertForbidden();
    $this->actingAs($this->guest)->get('/directory/grants')->assertForbidden();
    foreach (['/bridge', '/name', '/lease', '/find?q=198.51.100.130', '/lease/leases', '/ship/drafts', '/directory/sites'] as $page) {
        $this->actingAs($this->guest)->get($page)->assertOk()->assertDontSee('Beside')->assertDontSee('Ticketing');
    }
});

it('lets nobody write by looking, whatever they may elsewhere', function (): void {
    $admin = $this->w->bound();
    ($this->grant)('198.51.100.0/25', ['look']);
    ($this->grant)('198.51.100.0/25', ['look'], $admin);
    expect(($this->sees)($admin))->toContain('198.51.100.0/27')
        ->and(($this->code)(PlaceHost::fromInput(['prefix' => $this->inner->id, 'address' => '198.51.100.9'])))->toBe('not-allowed')
        ->and(($this->code)(PlaceHost::fromInput(['prefix' => $this->inner->id, 'address' => '198.51.100.9']), $admin))
        ->toBe('row-not-yours')
        ->and(($this->code)(CarvePrefix::fromInput(['space' => $this->w->space->id, 'prefix' => '198.51.100.64/27']), $admin))
        ->toBe('not-allowed');
    $this->actingAs($admin)->get("/plan/prefix/{$this->inner->id}")->assertOk()->assertDontSee('Place a host');
});

it('lets hosts be placed, changed and released inside, and not moved out', function (): void {
    ($this->grant)('198.51.100.0/25', ['hosts']);
    $place = PlaceHost::fromInput(['prefix' => $this->inner->id, 'address' => '198.51.100.9']);
    $this->w->did($place, $this->guest);
    $host = Host::query()->where('prefix_id', $this->inner->id)->sole();
    $theirs = PlaceHost::fromInput(['prefix' => $this->beside->id, 'address' => '198.51.100.140']);
    $this->w->did($theirs);
    $other = Host::query()->where('prefix_id', $this->beside->id)->sole();
    expect(($this->code)(PlaceHost::fromInput(['prefix' => $this->beside->id, 'address' => '198.51.100.141'])))->toBe('not-available')
        ->and(($this->code)(ChangeHost::fromInput(['host' => $host->id, 'address' => '198.51.100.150'])))->not->toBeNull()
        ->and(($this->code)(ChangeHost::fromInput(['host' => $host->id, 'description' => 'mine'])))->toBeNull()
        ->and(($this->code)(ChangeHost::fromInput(['host' => $other->id, 'description' => 'mine'])))->toBe('not-available')
        ->and(($this->code)(ReleaseHosts::fromInput(['hosts' => [$other->id]])))->toBe('not-available')
        ->and(($this->code)(ReleaseHosts::fromInput(['hosts' => [$host->id]])))->toBeNull()
        ->and(($this->code)(ChangePrefix::fromInput(['prefixes' => [$this->inner->id], 'name' => 'Mine'])))->toBe('not-allowed');
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->inner->id}")->assertOk()->assertSee('Place a host')
        ->assertDontSee('Edit this prefix');
    // A name is its zone's: hosts in a prefix are no right on names.
    $named = PlaceHost::fromInput(['prefix' => $this->inner->id, 'address' => '198.51.100.10', 'name' => 'x.'.$this->w->zone->name]);
    $wrote = array_map(fn ($w) => $w->noun, $this->w->acts()->rehearse($this->guest, [$named])->ledgers[0]->written);
    expect($wrote)->not->toContain('record');
});

it('lets space be planned strictly inside: what is granted neither grows nor goes', function (): void {
    ($this->grant)('198.51.100.0/25', ['space']);
    $space = $this->w->space->id;
    $carve = fn (string $prefix, array $more = []): ?string => ($this->code)(
        CarvePrefix::fromInput(['space' => $space, 'prefix' => $prefix] + $more),
    );
    expect($carve('198.51.100.64/27'))->toBeNull()
        ->and($carve('198.51.100.64/26', ['kind' => 'supernet']))->toBeNull()
        ->and($carve('198.51.100.0/27'))->toBe('duplicate')
        // Of what lies outside nothing is told, be it open or taken.
        ->and($carve('198.51.100.128/26'))->toBe('place-not-yours')
        ->and($carve('198.51.100.192/26'))->toBe('place-not-yours')
        ->and($carve('198.51.100.0/24', ['kind' => 'supernet']))->toBe('place-not-yours')
        ->and($carve('203.0.113.0/24'))->toBe('place-not-yours');
    foreach (['name' => 'Mine', 'stage' => 'retiring', 'kind' => 'subnet'] as $field => $value) {
        expect(($this->code)(ChangePrefix::fromInput(['prefixes' => [$this->holding->id], $field => $value])))->not->toBeNull();
    }
    expect(($this->code)(RemovePrefix::fromInput(['prefix' => $this->holding->id])))->toBe('row-not-yours')
        ->and(($this->code)(ResizePrefix::fromInput(['prefix' => $this->holding->id, 'to' => '198.51.100.0/24'])))->not->toBeNull()
        ->and(($this->code)(ResizePrefix::fromInput(['prefix' => $this->inner->id, 'to' => '198.51.100.0/26'])))->toBeNull()
        ->and(($this->code)(ResizePrefix::fromInput(['prefix' => $this->inner->id, 'to' => '198.51.100.0/24'])))->not->toBeNull()
        ->and(($this->code)(ChangePrefix::fromInput(['prefixes' => [$this->inner->id], 'name' => 'Mine'])))->toBeNull()
        ->and(($this->code)(SplitPrefix::fromInput(['prefix' => $this->inner->id, 'length' => 28])))->toBeNull()
        ->and(($this->code)(RemovePrefix::fromInput(['prefix' => $this->inner->id])))->toBeNull();
    $this->w->did(CarvePrefix::fromInput(['space' => $space, 'in' => $this->holding->id, 'length' => 27, 'name' => 'Next']), $this->guest);
    expect(Prefix::query()->where('name', 'Next')->sole()->parent_id)->toBe($this->holding->id);
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->holding->id}")->assertOk()->assertSee('Carve a subnet')
        ->assertDontSee('Edit this prefix');
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->inner->id}/panel/change-form")->assertOk();
    $this->actingAs($this->guest)->get("/plan/prefix/{$this->holding->id}/panel/change-form")->assertForbidden();
});

it('tells nothing of a neighbour of another site when two are merged', function (): void {
    $site = MakeSite::fromInput(['name' => 'Mine']);
    $this->w->did($site);
    foreach ([$this->holding, $this->inner] as $row) {
        $this->w->did(ChangePrefix::fromInput(['prefixes' => [$row->id], 'site' => $site->id]));
    }
    ($this->grant)('site Mine', ['space']);
    $merge = MergePrefix::fromInput(['prefix' => $this->inner->id]);
    // Whether the sibling is open or somebody else's, the answer is the same.
    expect(($this->code)($merge))->toBe('place-not-yours');
    $beside = $this->w->carve('198.51.100.32/27', ['name' => 'Secret', 'stage' => 'live']);
    expect(($this->code)($merge))->toBe('place-not-yours');
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$beside->id], 'site' => $site->id]));
    expect(($this->code)($merge))->toBeNull();
});

it('does not reach the supernet of the same size that stands above a granted subnet', function (): void {
    $above = $this->w->carve('198.51.100.0/27', ['kind' => 'supernet', 'name' => 'Around']);
    $act = KeepGrant::fromInput(['person' => $this->guest->id, 'does' => ['space'], 'where' => '198.51.100.0/27']);
    $this->w->did($act, $this->steward);
    // Both are called alike: the outer one is meant, and said.
    expect(Grant::query()->sole()->place_id)->toBe($above->id);
    $this->w->did(new RemoveGrant($act->id), $this->steward);
    DB::table('grants')->insert(['id' => $act->id, 'person_id' => $this->guest->id, 'does' => '["space"]', 'place' => 'prefix',
        'place_id' => $this->inner->id]);
    app()->forgetInstance(Granted::class);
    expect(($this->sees)())->toBe(['198.51.100.0/27'])
        ->and(Reach::of($this->guest)->prefixes()->sole()->id)->toBe($this->inner->id)
        ->and(($this->code)(ChangePrefix::fromInput(['prefixes' => [$above->id], 'name' => 'Mine'])))->not->toBeNull();
});

it('gives reservations and names each by itself', function (): void {
    $scope = $this->w->scope;
    ($this->grant)((string) $this->w->subnet->prefix(), ['leases']);
    $free = (string) $scope->ranges->first()?->first;
    $reserve = AddReservation::fromInput(['scope' => $scope->id, 'address' => $free, 'mac' => '02:00:00:00:00:71']);
    $record = AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'given', 'type' => 'TXT', 'data' => '"x"']);
    expect(($this->code)($reserve))->toBeNull()
        ->and(($this->code)(PlaceHost::fromInput(['prefix' => $this->w->subnet->id])))->toBe('not-allowed')
        ->and(($this->code)($record))->toBe('not-allowed');
    ($this->grant)('zone '.rtrim($this->w->zone->name, '.').' in '.$this->w->zone->view->name, ['names']);
    expect(($this->code)($record))->toBeNull()
        ->and(Reach::of($this->guest)->zones()->pluck('id')->all())->toBe([$this->w->zone->id]);
    $this->actingAs($this->guest)->get("/name/zone/{$this->w->zone->id}")->assertOk();
});

it('reaches people by teams, sites with those below, and ends with its time, its team and the person', function (): void {
    $area = MakeSite::fromInput(['name' => 'Area']);
    $hall = MakeSite::fromInput(['name' => 'Hall', 'parent' => $area->id]);
    $this->w->did($area);
    $this->w->did($hall);
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->inner->id], 'site' => $hall->id]));
    $team = KeepTeam::fromInput(['name' => 'Crew', 'people' => [$this->guest->id]]);
    $this->w->did($team, $this->steward);
    $until = now()->addDay()->format('Y-m-d H:i');
    $act = KeepGrant::fromInput(['team' => $team->id, 'does' => ['hosts'], 'where' => 'site Area', 'until' => $until]);
    $this->w->did($act, $this->steward);
    expect(($this->sees)())->toBe(['198.51.100.0/27'])
        ->and(($this->code)(PlaceHost::fromInput(['prefix' => $this->inner->id])))->toBeNull()
        ->and($this->w->refusal(RemoveTeam::class, ['team' => $team->id], $this->steward))->toBe('team-granted');
    $this->travel(2)->days();
    app()->forgetInstance(Granted::class);
    expect(($this->sees)())->toBe([])->and(($this->code)(PlaceHost::fromInput(['prefix' => $this->inner->id])))->toBe('not-allowed');
    $this->travelBack();
    app()->forgetInstance(Granted::class);
    $this->w->did(KeepTeam::fromInput(['name' => 'Crew', 'id' => $team->id, 'people' => []]), $this->steward);
    expect(($this->sees)())->toBe([])->and(Team::query()->whereKey($team->id)->exists())->toBeTrue();
});

it('says before it is saved who gains, what opens, and which tests turn', function (): void {
    $this->w->did(KeepRightTest::fromInput(['person' => $this->guest->id, 'object' => '198.51.100.0/27', 'does' => 'see']), $this->steward);
    $outcome = $this->w->acts()->rehearse(
        $this->steward,
        [KeepGrant::fromInput(['person' => $this->guest->id, 'does' => ['hosts'], 'where' => '198.51.100.0/25'])],
    );
    $codes = array_map(fn ($n) => $n->code, $outcome->notes());
    $later = implode(' ', array_map(fn ($l) => $l[0], $outcome->ledgers[0]->later));
    expect($codes)->toContain('test-turns')
        ->and($later)->toContain('sees 2 more prefixes')->toContain('begins to place hosts')
        ->and(Grant::query()->count())->toBe(0);
    // Rolled back, and forgotten with it.
    expect(($this->sees)())->toBe([]);
    $empty = KeepTeam::fromInput(['name' => 'Nobody']);
    $this->w->did($empty, $this->steward);
    $outcome = $this->w->acts()->rehearse(
        $this->steward,
        [KeepGrant::fromInput(['team' => $empty->id, 'does' => ['look'], 'where' => '198.51.100.0/25'])],
    );
    expect(array_map(fn ($n) => $n->code, $outcome->notes()))->toContain('nobody-gains');
});

it('understands where, and refuses what it does not', function (): void {
    $usual = ['person' => $this->guest->id, 'does' => ['look']];
    $refusal = fn (array $input): ?string => $this->w->refusal(KeepGrant::class, $input + $usual, $this->steward);
    expect($refusal(['where' => 'nowhere']))->toBe('place-not-found')
        ->and($refusal(['where' => '198.51.100.0/25', 'does' => ['names']]))->toBe('ability-elsewhere')
        ->and($refusal(['where' => '198.51.100.0/25', 'does' => ['everything']]))->toBe('no-ability')
        ->and($refusal(['where' => '198.51.100.0/25', 'does' => []]))->toBe('no-ability')
        ->and($refusal(['where' => '198.51.100.0/25', 'person' => '']))->toBe('one-holder')
        ->and($refusal(['where' => '198.51.100.0/25', 'until' => '2020-01-01']))->toBe('time-past')
        ->and($refusal(['where' => '198.51.100.0/25', 'until' => 'soon']))->toBe('bad-time');
    $this->w->did(MakeSite::fromInput(['name' => 'Twin']));
    $this->w->did(MakeTenant::fromInput(['name' => 'Twin']));
    expect($refusal(['where' => 'Twin']))->toBe('place-ambiguous')->and($refusal(['where' => 'site Twin']))->toBeNull();
    ($this->grant)('site Twin', ['look']);
    expect($refusal(['where' => 'site Twin', 'does' => ['hosts']]))->toBe('granted-twice');
    $operator = $this->w->people['operator'];
    expect($this->w->refusal(KeepGrant::class, ['person' => $operator->id, 'does' => ['space'], 'where' => 'site Twin'], $operator))
        ->toBe('not-allowed');
});

it('copies what is granted in one tenant to the next, for no longer than it was meant', function (): void {
    $one = MakeTenant::fromInput(['name' => 'One']);
    $two = MakeTenant::fromInput(['name' => 'Two']);
    $this->w->did($one);
    $this->w->did($two);
    $until = now()->addDays(9)->startOfMinute();
    ($this->grant)('tenant One', ['hosts'], null, ['until' => $until->format('Y-m-d H:i')]);
    ($this->grant)('tenant One', ['names'], $this->w->people['reader']);
    $next = $this->w->person('next-'.bin2hex(random_bytes(3)), ['guest']);
    $this->w->did(CopyGrants::fromInput(['from' => $one->id, 'to' => $two->id, 'person' => $next->id]), $this->steward);
    $copy = Grant::query()->where('person_id', $next->id)->sole();
    expect($copy->does)->toBe(['hosts', 'names'])->and($copy->place_id)->toBe($two->id)->and($copy->until?->equalTo($until))->toBeTrue()
        ->and($this->w->refusal(CopyGrants::class, ['from' => $two->id, 'to' => $two->id, 'person' => $next->id], $this->steward))
        ->toBe('same-tenant');
});

it('answers whether somebody may, with what says so or comes near', function (): void {
    ($this->grant)('198.51.100.0/25', ['hosts']);
    $yes = Rights::why($this->guest, Ability::Hosts, $this->inner);
    $no = Rights::why($this->guest, Ability::Space, $this->inner);
    $elsewhere = Rights::why($this->guest, Ability::Hosts, $this->beside);
    expect($yes['may'])->toBeTrue()->and($yes['says'][0])->toContain('may place hosts in 198.51.100.0/25 Given')
        ->and($no['may'])->toBeFalse()->and($no['near'][0])->toContain('not this')
        ->and($elsewhere['may'])->toBeFalse()->and($elsewhere['near'][0])->toContain('not here')
        ->and(Rights::why($this->w->people['operator'], Ability::Hosts, $this->beside)['says'])->toBe(['as operator, everywhere']);
    $url = "/directory/person/{$this->guest->id}?may=hosts&at=198.51.100.0/27";
    $this->actingAs($this->steward)->get($url)->assertOk()->assertReads('may place hosts in');
    $this->actingAs($this->steward)->get('/directory/grants')->assertOk()->assertReads('place hosts');
    $this->w->did(ChangePerson::fromInput(['person' => $this->guest->id, 'active' => '0']), $this->steward);
    expect(Rights::why($this->guest->refresh(), Ability::Hosts, $this->inner)['may'])->toBeFalse();
});

it('keeps a guest apart from roles', function (): void {
    expect($this->w->refusal(ChangePerson::class, ['person' => $this->guest->id, 'roles' => ['guest', 'planner']], $this->steward))
        ->toBe('guest-alone');
});

it('tells by statement what it tells by row, for any grants and prefixes', function (): void {
    mt_srand((int) (getenv('HPOST_SEED') ?: 7));
    $space = $this->w->space->id;
    $sites = [];
    foreach ([null, 0, 1, null] as $i => $parent) {
        $site = MakeSite::fromInput(['name' => "S$i", 'parent' => $parent === null ? '' : $sites[$parent]]);
        $this->w->did($site);
        $sites[] = $site->id;
    }
    $top = $this->w->carve('10.0.0.0/8', ['kind' => 'supernet']);
    for ($i = 0; $i < 40; $i++) {
        $length = mt_rand(9, 26);
        $net = long2ip((10 << 24 | mt_rand(0, 0x7FFFF) << 5) & (-1 << (32 - $length)));
        $this->w->acts()->commit($this->w->people['planner'], [CarvePrefix::fromInput([
            'space' => $space, 'prefix' => "$net/$length", 'kind' => ['supernet', 'supernet', 'subnet'][mt_rand(0, 2)],
            'site' => mt_rand(0, 1) === 1 ? $sites[mt_rand(0, 3)] : '',
        ])], reason: 'random');
    }
    $all = Prefix::query()->get();
    for ($case = 0; $case < 30; $case++) {
        DB::table('grants')->delete();
        foreach (range(0, mt_rand(0, 2)) as $n) {
            $prefix = mt_rand(0, 1) === 1;
            DB::table('grants')->insert([
                'id' => (string) Illuminate\Support\Str::ulid(), 'person_id' => $this->guest->id, 'does' => '["look"]',
                'place' => $prefix ? 'prefix' : 'site', 'place_id' => $prefix ? $all->random()->id : $sites[mt_rand(0, 3)],
            ]);
        }
        app()->forgetInstance(Granted::class);
        $byRow = $all->filter(fn (Prefix $p): bool => Granted::covers($this->guest, Ability::Look, Granted::values($p)))
            ->pluck('id')->sort()->values();
        expect(Reach::of($this->guest)->prefixes()->pluck('id')->sort()->values()->all())->toBe($byRow->all());
    }
    expect($top->id)->not->toBeEmpty();
});

it('grants where prefixes carry a tag or a stage, for as long as they do', function (): void {
    $this->w->did(new ChangePrefix([$this->inner->id], tags: 'kiosk'));
    $id = ($this->grant)('tag kiosk', ['hosts']);
    expect(Grant::query()->findOrFail($id)->sentence())->toBe("{$this->guest->name} may place hosts in prefixes tagged kiosk")
        ->and(($this->sees)())->toBe(['198.51.100.0/27']);
    $place = fn (Prefix $prefix): ?string => ($this->code)(PlaceHost::fromInput(['prefix' => $prefix->id, 'name' => 'till-1']));
    expect($place($this->inner))->toBeNull()->and($place($this->beside))->not->toBeNull();
    // Who was granted hosts there does not say which prefixes carry the tag.
    expect(($this->code)(new ChangePrefix([$this->inner->id], tags: 'kiosk more')))->not->toBeNull();
    $this->actingAs($this->steward)->get("/directory/grants?grant=$id")->assertOk()->assertSee('value="tag kiosk"', false);
    $this->w->did(new ChangePrefix([$this->inner->id], tags: 'quay'));
    expect(($this->sees)())->toBe([])->and($place($this->inner))->not->toBeNull();
    $planned = $this->w->carve('198.51.100.192/27', ['name' => 'Soon', 'stage' => 'planned']);
    ($this->grant)('stage planned', ['look']);
    expect(($this->sees)())->toContain('198.51.100.192/27')->not->toContain('198.51.100.0/27');
    $this->w->did(new ChangePrefix([$planned->id], stage: 'live'));
    expect(($this->sees)())->not->toContain('198.51.100.192/27');
    $refusal = fn (string $where, array $does): ?string => $this->w->refusal(KeepGrant::class, [
        'person' => $this->guest->id, 'does' => $does, 'where' => $where,
    ]);
    expect($refusal('tag nowhere', ['look']))->toBe('word-not-carried')->and($refusal('stage sunk', ['look']))->toBe('word-not-carried')
        ->and($refusal('tag quay', ['space']))->toBe('ability-elsewhere')->and($refusal('tag quay', ['names']))->toBe('ability-elsewhere')
        ->and($refusal('stage planned', ['hosts']))->toBe('granted-twice');
});
