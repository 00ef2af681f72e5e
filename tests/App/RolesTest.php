<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\KeepRole;
use App\Acts\Directory\MakeToken;
use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\OfOneself;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Acts\Watch\TakeBack;
use App\Models\Host;
use App\Models\Person;
use App\Models\Role;
use App\Models\RoleLimit;
use App\Queries\RoleLimits;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** @return list<class-string<Act>> every act that there is */
function everyAct(): array
{
    $acts = [];
    foreach ((new Symfony\Component\Finder\Finder)->files()->name('*.php')->in(base_path('app/Acts'))->notPath('Engine') as $file) {
        $class = 'App\\Acts\\'.strtr(substr($file->getRelativePathname(), 0, -4), '/', '\\');
        is_subclass_of($class, Act::class) && ! (new ReflectionClass($class))->isAbstract() && $acts[] = $class;
    }

    return $acts;
}

beforeEach(function (): void {
    $this->w = World::make();
    $this->steward = $this->w->people['steward'];
    $this->does = fn (string $role, array $does) => $this->w->acts()->commit(
        $this->steward, [KeepRole::fromInput(['role' => $role, 'does' => $does])], reason: 'agreed in the team',
    );
    /** What the role comes with, less these. */
    $this->without = fn (string $role, string ...$powers) => ($this->does)($role, array_values(array_diff(
        array_column(Role::from($role)->powers(), 'value'), $powers,
    )));
    $this->place = fn (Person $person, string $name = 'till-9') => $this->w->acts()->commit(
        $person, [PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => $name])], reason: 'tried',
    );
});

it('comes with what acts ask of it, and with nothing else', function (): void {
    foreach (Role::cases() as $role) {
        $person = new Person(['roles' => [$role->value], 'tenant_id' => $role === Role::TenantAdmin ? 'T' : null]);
        $person->id = '01AAAAAAAAAAAAAAAAAAAAAAAA';
        $has = [];
        foreach (everyAct() as $act) {
            $power = $act::power();
            $power !== null && $act::may($person) && $has[$power->value] = true;
        }
        $comes = array_column($role->powers(), 'value');
        sort($comes);
        ksort($has);
        expect(array_keys($has))->toBe($comes, $role->value);
    }
});

it('asks every act for a power, but those of oneself and of drafts', function (): void {
    $free = array_filter(everyAct(), fn (string $a): bool => $a::power() === null && ! in_array(OfOneself::class, class_uses($a), true)
        && ! str_starts_with($a, 'App\\Acts\\Drafts\\'));
    expect(collect($free)->map(class_basename(...))->sort()->values()->all())->toBe([
        'EndSessions', 'EnterFromOutside', 'NoteAccess', 'TakeBack',
    ]);
});

it('takes a power away from everybody who has the role, on every way there is', function (): void {
    $operator = $this->w->people['operator'];
    expect(($this->place)($operator, 'till-1')->committed)->toBeTrue();
    $outcome = ($this->without)('operator', 'hosts', 'ship');
    expect($outcome->committed)->toBeTrue()
        ->and(implode("\n", $outcome->later()))->toContain("$operator->name: may not place hosts as operator any more");
    // By an act, rehearsed or not, by a form, by a program, in a draft, as a part of several.
    expect(($this->place)($operator)->block()?->code)->toBe('not-allowed')
        ->and($this->w->acts()->rehearse($operator, [PlaceHost::fromInput(['prefix' => $this->w->subnet->id])])->blocked())->toBeTrue();
    $this->actingAs($operator)->post('/act/place-host', ['prefix' => $this->w->subnet->id, 'name' => 'till-2', 'then' => 'commit']);
    $token = (string) $this->w->acts()->commit($operator, [MakeToken::fromInput(['name' => 'meter', 'writes' => '1'])])->made('once');
    $this->app['auth']->forgetGuards();
    $this->postJson('/api/v1/acts/place-host', ['prefix' => $this->w->subnet->id, 'name' => 'till-2'], ['Authorization' => "Bearer $token"])
        ->assertForbidden();
    $record = AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'www', 'type' => 'A', 'data' => '192.0.2.9']);
    $several = [$record, PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'till-2'])];
    expect($this->w->acts()->commit($operator, $several, reason: 'tried')->committed)->toBeFalse()
        ->and(Host::query()->where('prefix_id', $this->w->subnet->id)->pluck('name')->all())->toBe(['till-1'])
        ->and($this->w->acts()->commit($operator, [$record], reason: 'tried')->committed)->toBeTrue('what was left to them stays');
    $this->actingAs($operator)->post("/ship/server/{$this->w->servers['ns1']}");
    expect(DB::table('shipments')->count())->toBe(0);
    // A planner places hosts still, and so does an operator who is a planner too.
    expect(($this->place)($this->w->people['planner'], 'till-3')->committed)->toBeTrue();
    $this->w->did(ChangePerson::fromInput(['person' => $operator->id, 'roles' => ['operator', 'planner']]));
    expect(($this->place)($operator->refresh(), 'till-4')->committed)->toBeTrue();
});

it('is no way around by taking back what somebody else did', function (): void {
    $planner = $this->w->people['planner'];
    ($this->place)($planner, 'till-1');
    $placed = (string) DB::table('history')->where('action', 'place-host')->orderByDesc('id')->value('act_id');
    $back = fn (Person $who) => $this->w->acts()->commit($who, [new TakeBack([$placed])], reason: 'tried');
    ($this->without)('operator', 'hosts');
    $operator = $this->w->people['operator'];
    expect($back($operator)->block()?->code)->toBe('not-allowed')->and(Host::query()->where('name', 'till-1')->exists())->toBeTrue();
    ($this->without)('planner', 'hosts');
    expect($back($planner)->block()?->code)->toBe('not-allowed');
    ($this->without)('operator');
    expect($back($operator)->committed)->toBeTrue()->and(Host::query()->where('name', 'till-1')->exists())->toBeFalse();
});

it('leaves what is granted to somebody, and asks in the roles that are left for all that an act does', function (): void {
    $operator = $this->w->people['operator'];
    ($this->without)('operator', 'hosts', 'names');
    $this->w->did(KeepGrant::fromInput(['person' => $operator->id, 'does' => ['hosts'], 'where' => '192.0.2.0/25']));
    expect(($this->place)($operator, 'till-1')->committed)->toBeTrue();
    // A colleague still places hosts by the role, and gives them neither names nor reservations when those were taken away.
    ($this->without)('planner', 'names', 'leases');
    $planner = $this->w->people['planner'];
    $with = fn (array $more): bool => $this->w->acts()->commit($planner, [PlaceHost::fromInput($more + [
        'prefix' => $this->w->subnet->id, 'name' => 'till-7', 'address' => '192.0.2.70', 'mac' => '02:00:5e:00:53:77',
    ])], reason: 'tried')->committed;
    expect($with(['zone' => $this->w->zone->id]))->toBeFalse()->and($with(['reserve' => '1']))->toBeFalse()->and($with([]))->toBeTrue();
    // The name in the zone was the role's to give.
    $named = $this->w->acts()->commit($operator, [PlaceHost::fromInput([
        'prefix' => $this->w->subnet->id, 'name' => 'till-2', 'zone' => $this->w->zone->id,
    ])], reason: 'tried');
    expect($named->committed)->toBeFalse()->and(Host::query()->where('name', 'like', 'till-2%')->exists())->toBeFalse();
});

it('says it where somebody would do it, and where a steward asks', function (): void {
    $operator = $this->w->people['operator'];
    $page = fn (): string => $this->actingAs($operator)->get(at('plan.prefix', $this->w->subnet->id))->getContent();
    expect($page())->not->toContain('your roles do not include this here')->toContain('id="place"');
    ($this->without)('operator', 'hosts');
    expect($page())->toContain('your roles do not include this here')->not->toContain('id="place"');
    $this->actingAs($this->steward)->get("/directory/person/$operator->id?may=hosts&at=192.0.2.0/25")->assertOk()
        ->assertReads('as operator: a steward took that away from the role');
    $this->actingAs($this->steward)->get(at('directory.roles').'?role=operator')->assertOk()->assertSee('was taken away')
        ->assertReads('What operators do');
    $this->actingAs($this->w->people['reader'])->get(at('directory.roles'))->assertOk()->assertDontSee('keep-role');
    $this->actingAs($this->w->bound())->get(at('directory.roles'))->assertForbidden();
});

it('gives no role what it does not come with, and locks nobody out', function (): void {
    $refused = fn (string $role, array $does): ?string => ($this->does)($role, $does)->block()?->code;
    expect($refused('operator', ['hosts', 'people']))->toBe('role-power')->and($refused('operator', ['fish']))->toBe('role-power')
        ->and($refused('approver', []))->toBe('role-empty')->and($refused('steward', ['places']))->toBe('role-locks-out')
        ->and(fn () => $refused('reader', ['hosts']))->toThrow(BadInput::class)
        ->and($this->w->acts()->commit($this->w->people['planner'], [KeepRole::fromInput(['role' => 'operator', 'does' => ['hosts']])])
            ->block()?->code)->toBe('not-allowed')
        ->and(DB::table('role_limits')->count())->toBe(0);
    // Two who change it at once: the second is told.
    ($this->without)('operator', 'ship');
    $row = RoleLimit::query()->sole();
    ($this->without)('operator', 'ship', 'keys');
    $late = $this->w->acts()->commit(
        $this->steward, [KeepRole::fromInput(['role' => 'operator', 'does' => ['hosts']])], [["role:$row->id" => $row->version]], 'late',
    );
    expect($late->block()?->code)->toBe('changed-meanwhile')->and(RoleLimit::query()->sole()->withheld)->toBe(['keys', 'ship']);
    // All of it comes back.
    ($this->without)('operator');
    expect(RoleLimits::of(Role::Operator))->toBe(Role::Operator->powers());
});

it('writes nobody who was asked about in fewer roles', function (): void {
    $asked = $this->w->people['planner']->inRoles([]);
    expect($asked->does(Role::Planner))->toBeFalse()->and($this->w->people['planner']->does(Role::Planner))->toBeTrue()
        ->and(fn () => $asked->save())->toThrow(LogicException::class);
});
