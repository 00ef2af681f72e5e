<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeDevice;
use App\Acts\Directory\ChangeDomain;
use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\ChangeSite;
use App\Acts\Directory\ChangeSpace;
use App\Acts\Directory\ChangeTenant;
use App\Acts\Directory\ChangeVlan;
use App\Acts\Directory\KeepTeam;
use App\Acts\Directory\MakeDevice;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeSpace;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\MakeToken;
use App\Acts\Directory\MakeVlan;
use App\Acts\Directory\RemoveObject;
use App\Acts\Directory\RemovePerson;
use App\Acts\Directory\RemoveTeam;
use App\Acts\Drafts\DropDraft;
use App\Acts\Drafts\StartDraft;
use App\Acts\Plan\ChangePrefix;
use App\Domain\Directory\Hanging;
use App\Models\Device;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\Token;
use App\Models\Vlan;
use App\Queries\Owner;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->made = function (string $class, array $input): string {
        $act = $class::fromInput($input);
        $this->w->did($act);

        return $act->id;
    };
    $this->site = ($this->made)(MakeSite::class, ['name' => 'North']);
    $this->tenant = ($this->made)(MakeTenant::class, ['name' => 'Retail']);
});

it('gives objects of the directory other names and places, one name once', function (): void {
    $inner = ($this->made)(MakeSite::class, ['name' => 'Hall', 'parent' => $this->site]);
    $device = ($this->made)(MakeDevice::class, ['name' => 'sw1', 'kind' => 'switch']);
    $space = ($this->made)(MakeSpace::class, ['name' => 'Guests']);
    $domain = ($this->made)(MakeDomain::class, ['name' => 'North']);
    $this->w->did(ChangeSite::fromInput(['site' => $inner, 'name' => 'Hall A', 'parent' => '-']));
    $this->w->did(ChangeDevice::fromInput(['device' => $device, 'name' => 'sw2', 'site' => $inner]));
    $this->w->did(ChangeSpace::fromInput(['space' => $space, 'routeDistinguisher' => '64512:7', 'description' => 'them']));
    $this->w->did(ChangeTenant::fromInput(['tenant' => $this->tenant, 'name' => 'Shops']));
    $this->w->did(ChangeDomain::fromInput(['domain' => $domain, 'name' => 'North quay', 'site' => $this->site]));
    expect(Site::query()->findOrFail($inner))->name->toBe('Hall A')->parent_id->toBeNull()
        ->and(Device::query()->findOrFail($device))->name->toBe('sw2')->site_id->toBe($inner)
        ->and(Space::query()->findOrFail($space)->route_distinguisher)->toBe('64512:7')
        ->and(Tenant::query()->findOrFail($this->tenant)->name)->toBe('Shops')
        ->and(Layer2Domain::query()->findOrFail($domain)->site_id)->toBe($this->site);
    expect($this->w->refusal(ChangeSite::class, ['site' => $inner, 'name' => 'North']))->toBe('name-taken')
        ->and($this->w->refusal(ChangeSite::class, ['site' => $inner, 'name' => ' ']))->toBe('no-name')
        ->and($this->w->refusal(ChangeSpace::class, ['space' => $space, 'routeDistinguisher' => 'x']))->toBe('bad-rd');
    foreach (['sites', 'tenants', 'spaces', 'domains', 'devices'] as $list) {
        $this->actingAs($this->w->people['planner'])->get("/directory/$list")->assertOk();
    }
    $this->get("/directory/devices?edit=$device")->assertOk()->assertReads('Change sw2');
    $this->get("/directory/site/$inner")->assertOk()->assertReads('Change Hall A');
    $this->actingAs($this->w->people['reader'])->get("/directory/devices?edit=$device")->assertOk()->assertDontSee('Change sw2');
    $this->actingAs($this->w->bound())->get('/directory/spaces')->assertForbidden();
});

it('refuses a circle of sites, and says what moves with a site', function (): void {
    $hall = ($this->made)(MakeSite::class, ['name' => 'Hall', 'parent' => $this->site]);
    $rack = ($this->made)(MakeSite::class, ['name' => 'Rack', 'parent' => $hall]);
    foreach ([$this->site, $hall, $rack] as $into) {
        expect($this->w->refusal(ChangeSite::class, ['site' => $this->site, 'parent' => $into]))->toBe('site-circle');
    }
    $moved = $this->w->acts()->rehearse($this->w->people['planner'], [ChangeSite::fromInput(['site' => $rack, 'parent' => $this->site])]);
    expect(array_map(fn ($n) => $n->code, $moved->notes()))->toContain('site-moves');
});

it('hands owners down from site to site, VLAN, device and server, with where they come from', function (): void {
    $hall = ($this->made)(MakeSite::class, ['name' => 'Hall', 'parent' => $this->site]);
    $domain = ($this->made)(MakeDomain::class, ['name' => 'Hall', 'site' => $hall]);
    $vlan = ($this->made)(MakeVlan::class, ['domain' => $domain, 'number' => '110', 'name' => 'TILLS']);
    $device = ($this->made)(MakeDevice::class, ['name' => 'sw1', 'site' => $hall]);
    $server = $this->w->servers['ns1'];
    $this->w->did(ChangeServer::fromInput(['server' => $server, 'site' => $hall]));
    $words = fn (): array => [
        (new Owner)->words(Site::query()->findOrFail($hall)), (new Owner)->words(Vlan::query()->with('domain')->findOrFail($vlan)),
        (new Owner)->words(Device::query()->findOrFail($device)), (new Owner)->words(Server::query()->findOrFail($server)),
    ];
    expect($words())->toBe(['', '', '', '']);
    $this->w->did(ChangeSite::fromInput(['site' => $this->site, 'tenant' => $this->tenant]));
    expect($words())->toBe(array_fill(0, 4, 'Retail, from North'));
    $other = ($this->made)(MakeTenant::class, ['name' => 'Crew']);
    $this->w->did(ChangeVlan::fromInput(['vlan' => $vlan, 'tenant' => $other]));
    $this->w->did(ChangeDevice::fromInput(['device' => $device, 'tenant' => $other]));
    expect($words())->toBe(['Retail, from North', 'Crew', 'Crew', 'Retail, from North']);
    $this->w->did(ChangeVlan::fromInput(['vlan' => $vlan, 'tenant' => '-']));
    expect($words()[1])->toBe('Retail, from North');
    $this->actingAs($this->w->people['reader'])->get("/directory/vlan/$vlan")->assertOk()->assertReads('owner: Retail, from North');
});

it('removes what nothing hangs on, and names what does', function (): void {
    $device = ($this->made)(MakeDevice::class, ['name' => 'sw1']);
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->w->subnet->id], 'site' => $this->site, 'tenant' => $this->tenant]));
    $refusal = fn (string $noun, string $id, string $who = 'planner') => $this->w->refusal(
        RemoveObject::class,
        ['noun' => $noun, 'object' => $id],
        $this->w->people[$who],
    );
    expect($refusal('site', $this->site))->toBe('still-hangs')->and($refusal('tenant', $this->tenant))->toBe('still-hangs')
        ->and($refusal('space', $this->w->space->id))->toBe('still-hangs')->and($refusal('view', $this->w->view))->toBe('still-hangs')
        ->and($refusal('server', $this->w->servers['ns1'], 'steward'))->toBe('still-hangs')
        ->and($refusal('server', $this->w->servers['ns1']))->toBe('not-allowed')
        ->and($refusal('site', $this->site, 'operator'))->toBe('not-allowed')
        ->and($refusal('site', $device))->toBe('gone')
        ->and($refusal('device', $device, 'operator'))->toBeNull();
    $why = $this->w->acts()->rehearse($this->w->people['planner'], [new RemoveObject('site', $this->site)])->block()?->message;
    expect($why)->toContain('1 prefix (192.0.2.0/25');
    $this->w->did(new RemoveObject('device', $device));
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->w->subnet->id], 'site' => '-', 'tenant' => '-']));
    $this->w->did(new RemoveObject('site', $this->site));
    $this->w->did(new RemoveObject('tenant', $this->tenant));
    expect(Device::query()->whereKey($device)->exists())->toBeFalse()->and(Site::query()->whereKey($this->site)->exists())->toBeFalse()
        ->and(Tenant::query()->whereKey($this->tenant)->exists())->toBeFalse();
});

it('knows every key of the database that would keep an object from being removed', function (): void {
    $keys = DB::select('SELECT k.TABLE_NAME AS t, k.COLUMN_NAME AS c, k.REFERENCED_TABLE_NAME AS r
        FROM information_schema.KEY_COLUMN_USAGE k
        JOIN information_schema.REFERENTIAL_CONSTRAINTS x ON x.CONSTRAINT_SCHEMA = k.TABLE_SCHEMA AND x.CONSTRAINT_NAME = k.CONSTRAINT_NAME
        WHERE k.TABLE_SCHEMA = DATABASE() AND x.DELETE_RULE = ?', ['RESTRICT']);
    $missing = [];
    foreach (Hanging::ON as $class => $references) {
        $known = array_map(fn (array $ref): string => (new $ref[0])->getTable().'.'.$ref[1], $references);
        foreach ($keys as $key) {
            if ($key->r === (new $class)->getTable() && ! in_array("$key->t.$key->c", $known, true)) {
                $missing[] = "$key->t.$key->c";
            }
        }
    }
    expect($missing)->toBe([]);
});

it('removes a person from whom nothing hangs: no door is left, and history keeps the name', function (): void {
    $steward = $this->w->people['steward'];
    $id = ($this->made)(MakePerson::class, [
        'signIn' => 'gull', 'name' => 'Gull Ferrier', 'password' => 'three herrings swim', 'roles' => ['operator'],
    ]);
    $gull = Person::query()->findOrFail($id);
    $this->w->did(MakeToken::fromInput(['name' => 'meter']), $gull);
    $site = MakeSite::fromInput(['name' => 'Gull rock']);
    expect($this->w->acts()->commit($this->w->people['planner'], [$site])->blocked())->toBeFalse();
    $team = ($this->made)(KeepTeam::class, ['name' => 'Watch', 'people' => [$id]]);
    $refusal = fn (): ?string => $this->w->refusal(RemovePerson::class, ['person' => $id], $steward);
    $why = $this->w->acts()->rehearse($steward, [new RemovePerson($id)])->block()?->message;
    expect($refusal())->toBe('still-hangs')->and($why)->toContain('Gull Ferrier still has 1 team (')->toContain('Watch')
        ->and($this->w->refusal(RemovePerson::class, ['person' => $steward->id], $steward))->toBe('yourself')
        ->and($this->w->refusal(RemovePerson::class, ['person' => $id], $this->w->people['planner']))->toBe('not-allowed');
    $this->w->did(RemoveTeam::fromInput(['team' => $team]));
    $this->w->did($draft = StartDraft::fromInput(['name' => 'Half done']), $gull);
    expect($this->w->acts()->rehearse($steward, [new RemovePerson($id)])->block()?->message)->toContain('1 uncommitted draft (');
    $this->w->did(DropDraft::fromInput(['draft' => $draft->id]), $gull);
    $this->w->did(new RemovePerson($id), $steward);
    $row = $gull->refresh();
    expect($row->active)->toBeFalse()->and($row->removed_at)->not->toBeNull()->and($row->epoch)->toBe(2)
        ->and(Token::query()->where('person_id', $id)->whereNull('revoked_at')->exists())->toBeFalse()
        ->and(Hash::check('three herrings swim', $row->password))->toBeFalse();
    // On no list, on no page, and named by nothing that is done now; the sign-in is not given to somebody else.
    $this->actingAs($steward)->get('/directory/people')->assertOk()->assertDontSee('Gull Ferrier');
    $this->get("/directory/person/$id")->assertNotFound();
    $this->getJson('/pick/person?q=gull')->assertOk()->assertExactJson([]);
    expect($this->w->refusal(ChangePerson::class, ['person' => $id, 'active' => '1'], $steward))->toBe('not-available')
        ->and($this->w->refusal(RemovePerson::class, ['person' => $id], $steward))->toBe('not-available')
        ->and($this->w->refusal(KeepTeam::class, ['name' => 'Gulls', 'people' => [$id]], $steward))->not->toBeNull();
    $twin = ['signIn' => 'gull', 'name' => 'Another', 'password' => 'three herrings swim', 'roles' => ['operator']];
    expect($this->w->refusal(MakePerson::class, $twin, $steward))->not->toBeNull();
    $this->get("/watch?object=$id")->assertOk()->assertReads('Gull Ferrier');
    auth()->logout();
    $this->post('/sign-in', ['sign_in' => 'gull', 'password' => 'three herrings swim'])->assertRedirect();
    $this->assertGuest();
});
