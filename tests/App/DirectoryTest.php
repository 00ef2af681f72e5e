<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeSpace;
use App\Acts\Directory\MakeView;
use App\Acts\Directory\MakeVlan;
use App\Acts\Lease\RemoveReservations;
use App\Acts\Lease\RemoveScope;
use App\Acts\Name\RemoveZone;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Server;
use App\Models\ZoneServer;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->code = fn (string $role, App\Acts\Engine\Act $act): ?string => $this->w->acts()
        ->rehearse($this->w->people[$role], [$act])->block()?->code;
});

it('keeps a VLAN number once in its domain', function (): void {
    $domain = MakeDomain::fromInput(['name' => 'Slip '.bin2hex(random_bytes(3))]);
    $other = MakeDomain::fromInput(['name' => 'Slip '.bin2hex(random_bytes(3))]);
    $this->w->did($domain);
    $this->w->did($other);
    $this->w->did(MakeVlan::fromInput(['domain' => $domain->id, 'number' => '110', 'name' => 'TICKETING']));
    $again = $this->w->acts()
        ->rehearse($this->w->people['planner'], [MakeVlan::fromInput(['domain' => $domain->id, 'number' => '110', 'name' => 'X'])])
        ->block();
    expect($again?->code)->toBe('vlan-twice')
        ->and($again->message)->toContain('110 TICKETING')
        ->and(($this->code)('planner', MakeVlan::fromInput(['domain' => $other->id, 'number' => '110', 'name' => 'X'])))->toBeNull();
});

it('refuses VLAN numbers that are none', function (string $number): void {
    $domain = MakeDomain::fromInput(['name' => 'Slip '.bin2hex(random_bytes(3))]);
    $this->w->did($domain);
    expect(
        $this->w->refusal(MakeVlan::class, ['domain' => $domain->id, 'number' => $number, 'name' => 'X'], $this->w->people['planner']),
    )->toBe('bad-input');
})->with(['0', '4095', 'x', '-1', '1e2']);

it('warns when a subnet takes the VLAN of another site', function (): void {
    $site = MakeSite::fromInput(['name' => 'Slip '.bin2hex(random_bytes(3))]);
    $far = MakeSite::fromInput(['name' => 'Far '.bin2hex(random_bytes(3))]);
    $domain = MakeDomain::fromInput(['name' => 'Far '.bin2hex(random_bytes(3)), 'site' => $far->id]);
    $vlan = MakeVlan::fromInput(['domain' => $domain->id, 'number' => '7', 'name' => 'X']);
    foreach ([$site, $far, $domain, $vlan] as $act) {
        $this->w->did($act);
    }
    $outcome = $this->w->acts()->rehearse(null, [new ChangePrefix([$this->w->subnet->id], site: $site->id, vlan: $vlan->id)]);
    expect(array_column($outcome->notes(), 'code'))->toContain('vlan-other-site');
});

it('refuses a name that is taken or missing', function (): void {
    expect(($this->code)('planner', MakeSpace::fromInput(['name' => $this->w->space->name])))->toBe('name-taken')
        ->and(($this->code)('planner', MakeSpace::fromInput(['name' => ' '])))->toBe('no-name')
        ->and(($this->code)('planner', MakeSpace::fromInput(['name' => 'New', 'routeDistinguisher' => 'x'])))->toBe('bad-rd')
        ->and(($this->code)('planner', MakeSpace::fromInput(['name' => 'New', 'routeDistinguisher' => '64512:10'])))->toBeNull();
});

it('checks the clients of a view', function (): void {
    expect(($this->code)('operator', MakeView::fromInput(['name' => 'x', 'clients' => '10.0.0.1/8'])))->toBe('not-a-prefix')
        ->and(($this->code)('operator', MakeView::fromInput(['name' => 'x', 'clients' => "10.0.0.0/8\n2001:db8::/32"])))->toBeNull();
});

it('lets only a steward write down servers and people', function (): void {
    $server = MakeServer::fromInput(['name' => 'new', 'kind' => 'dns', 'endpoint' => '127.0.0.1:53']);
    expect(($this->code)('steward', $server))->toBeNull()
        ->and(($this->code)('operator', $server))->toBe('not-allowed')
        ->and(($this->code)('operator', new ChangeServer($this->w->servers['ns1'], endpoint: '127.0.0.1:1')))->toBe('not-allowed')
        ->and(($this->code)('operator', new ChangeServer($this->w->servers['ns1'], held: '1')))->toBeNull();
});

it('checks a server', function (array $input, string $code): void {
    expect(
        $this->w->refusal(
            MakeServer::class,
            $input + ['name' => 'new', 'kind' => 'dns', 'endpoint' => '127.0.0.1:53'],
            $this->w->people['steward'],
        ),
    )->toBe($code);
})->with([
    [['kind' => 'mail'], 'bad-input'],
    [['endpoint' => 'nowhere'], 'bad-endpoint'],
    [['endpoint' => ''], 'bad-endpoint'],
    [['control' => 'http://x/'], 'bad-endpoint'],
    [['address' => '10.0.0.256'], 'bad-address'],
]);

it('keeps a server\'s token out of sight', function (): void {
    $act = MakeServer::fromInput([
        'name' => 'tokened-'.bin2hex(random_bytes(3)), 'kind' => 'dns', 'endpoint' => '127.0.0.1:53', 'token' => 'very-secret-token',
    ]);
    $this->w->did($act);
    $server = Server::query()->findOrFail($act->id);
    expect($server->token)->toBe('very-secret-token')
        ->and(json_encode($server))->not->toContain('very-secret-token')
        ->and((string) $server->getRawOriginal('token'))->not->toContain('very-secret-token');
});

it('refuses weak passwords, and roles that do not fit', function (array $input, string $code): void {
    expect(
        ($this->code)(
            'steward',
            MakePerson::fromInput($input + ['signIn' => 'somebody', 'name' => 'S', 'password' => 'a-long-password', 'roles' => ['reader']]),
        ),
    )->toBe($code);
})->with([
    [['password' => 'short'], 'short-password'], [['password' => 'harbour-demo'], 'weak-password'],
    [['password' => 'abcdefghijklm'], 'weak-password'], [['password' => '123456789012'], 'weak-password'],
    [['signIn' => 'longsigninname', 'password' => 'LongSignInName-1'], 'weak-password'],
    [['signIn' => 'Some Body'], 'bad-sign-in'],
    [['roles' => ['emperor']], 'bad-roles'],
    [['roles' => ['tenant-admin']], 'bad-roles'],
]);

it('keeps passwords as hashes', function (): void {
    expect($this->w->people['planner']->password)->toStartWith('$2y$')
        ->and(password_verify('a-long-password', $this->w->people['planner']->password))->toBeTrue();
});

it('closes a sign-in, and nobody their own', function (): void {
    $this->w->did(new ChangePerson($this->w->people['reader']->id, active: '0'), $this->w->people['steward']);
    $this->post('/sign-in', ['sign_in' => $this->w->people['reader']->sign_in, 'password' => 'a-long-password'])->assertSessionHas('bad');
    $this->assertGuest();
    expect(($this->code)('steward', new ChangePerson($this->w->people['steward']->id, active: '0')))->toBe('yourself')
        ->and(($this->code)('steward', new ChangePerson($this->w->people['steward']->id, roles: ['reader'])))->toBe('yourself');
});

it('changes every field of a selection at once', function (): void {
    $more = $this->w->carve('192.0.2.128/26');
    $site = MakeSite::fromInput(['name' => 'Slip '.bin2hex(random_bytes(3))]);
    $this->w->did($site);
    $this->w->did(
        new ChangePrefix([$this->w->subnet->id, $more->id], stage: 'retiring', site: $site->id, role: 'ticketing'),
        $this->w->people['planner'],
    );
    foreach ([$this->w->subnet, $more] as $row) {
        $row->refresh();
        expect([$row->stage->value, $row->site_id, $row->role])->toBe(['retiring', $site->id, 'ticketing']);
    }
    expect($this->w->subnet->name)->toBe('Ticketing');
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: '-'));
    expect($this->w->subnet->refresh()->site_id)->toBeNull();
});

it('removes a scope with all it has', function (): void {
    $this->w->did(new App\Acts\Lease\AddReservation($this->w->scope->id, '192.0.2.9', '00:00:5e:00:53:01'));
    $this->w->did(new RemoveScope($this->w->scope->id), $this->w->people['operator']);
    expect(Reservation::query()->where('scope_id', $this->w->scope->id)->exists())->toBeFalse()
        ->and(OptionValue::query()->where('layer_id', $this->w->scope->id)->exists())->toBeFalse();
});

it('removes chosen reservations only', function (): void {
    foreach ([9, 10, 11] as $i) {
        $this->w->did(
            new App\Acts\Lease\AddReservation(
                $this->w->scope->id,
                "192.0.2.$i",
                "00:00:5e:00:53:0$i" === '00:00:5e:00:53:09' ? '00:00:5e:00:53:09' : "00:00:5e:00:53:$i",
            ),
        );
    }
    $ids = Reservation::query()->where('scope_id', $this->w->scope->id)->orderBy('address')->pluck('id')->all();
    $this->w->did(new RemoveReservations([$ids[0], $ids[2]], $this->w->scope->id));
    expect((string) Reservation::query()->where('scope_id', $this->w->scope->id)->sole()->address)->toBe('192.0.2.10');
});

it('keeps a zone while hosts have their names in it, then removes it whole', function (): void {
    $host = $this->w
        ->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'x', 'zone' => $this->w->zone->id]))
        ->made('host');
    expect(($this->code)('planner', new RemoveZone($this->w->zone->id)))->toBe('has-hosts');
    $this->w->did(new App\Acts\Plan\ReleaseHosts([$host], $this->w->subnet->id));
    $this->w->did(new RemoveZone($this->w->zone->id), $this->w->people['planner']);
    expect(Record::query()->where('zone_id', $this->w->zone->id)->exists())->toBeFalse()
        ->and(ZoneServer::query()->where('zone_id', $this->w->zone->id)->exists())->toBeFalse();
});

it('counts people', function (): void {
    Illuminate\Support\Facades\Artisan::call('people:count');
    expect((int) trim(Illuminate\Support\Facades\Artisan::output()))->toBe(Person::query()->count());
});
