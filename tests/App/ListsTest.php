<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\MakeDevice;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeSite;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeZone;
use App\Models\Person;
use App\Models\Scope;
use App\Models\Server;
use App\Models\Vlan;
use App\Models\Zone;
use App\Queries\DirectoryList;
use App\Queries\Reach;
use App\Queries\ServerList;
use App\Queries\ZoneList;
use Illuminate\Support\Facades\DB;
use Tests\World;

/*
 * Lists of zones, servers and the directory: filtered by words, sorted, read page by page, edited in the row.
 */

beforeEach(function (): void {
    $this->w = World::make();
    $this->reach = Reach::of($this->w->people['planner']);
    $this->one = fn (string $path, string $who = 'planner') => $this->actingAs($this->w->people[$who])->get($path)->assertOk();
    $this->zones = function (string $filter, string $sort = ''): array {
        $view = App\Models\View::query()->findOrFail($this->w->view)->name;

        return (new ZoneList($this->reach, "view:$view $filter"))->page($sort, 1)->rows->map(fn (Zone $z): string => $z->title())->all();
    };
});

it('finds zones by parts of their names and by what they are', function (): void {
    $w = $this->w;
    $forward = $w->zone->title();
    expect(($this->zones)(''))->toBe([$forward, '2.0.192.in-addr.arpa'])->and(($this->zones)('', '-zone'))
        ->toBe(['2.0.192.in-addr.arpa', $forward])
        ->and(($this->zones)('is:forward'))->toBe([$forward])->and(($this->zones)('is:reverse'))->toBe(['2.0.192.in-addr.arpa'])
        ->and(($this->zones)('.example'))->toBe([$forward])->and(($this->zones)('UAY'))->toBe([$forward])
        ->and(($this->zones)('%'))->toBe([])->and(($this->zones)('is:silenced'))->toBe([])->and(($this->zones)('is:signed'))->toBe([])
        ->and(($this->zones)('is:unserved'))->toBe([]);
    $ns1 = Server::query()->findOrFail($w->servers['ns1'])->name;
    expect(($this->zones)("server:$ns1"))->toBe([$forward, '2.0.192.in-addr.arpa'])->and(($this->zones)('server:elsewhere'))->toBe([]);
    $w->did(new ChangeZone($w->reverse->id, silenced: '1'));
    expect(($this->zones)('is:silenced'))->toBe(['2.0.192.in-addr.arpa']);
    // Both wait: they were never shipped. A stamped serial waits no more.
    DB::table('record_changes')->where('zone_id', $w->zone->id)->update(['serial' => 1]);
    expect(($this->zones)('is:waiting'))->not->toContain($forward);
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'new', 'type' => 'A', 'data' => '192.0.2.9']));
    expect(($this->zones)('is:waiting'))->toContain($forward);
    ($this->one)('/name?filter=is:lost')->assertReads('is:lost&quot; is not understood');
});

it('changes a zone in its row, and leads to the next one', function (): void {
    $w = $this->w;
    $filter = 'view:'.App\Models\View::query()->findOrFail($w->view)->name;
    $page = ($this->one)('/name?'.http_build_query(['filter' => $filter, 'edit' => $w->zone->id]));
    $page->assertSee('data-was="1h"', false)
        ->assertSee('data-next="/name?'.e(http_build_query(['filter' => $filter, 'edit' => $w->reverse->id])).'"', false);
    $this->post('/act/change-zone', ['then' => 'commit', 'zone' => $w->zone->id, 'defaultTtl' => '2h', 'silenced' => '0',
        'reason' => 'wanted', 'stay' => '/name'])->assertRedirect('/name');
    expect($w->zone->refresh()->default_ttl)->toBe(7200);
    ($this->one)('/name?'.http_build_query(['filter' => $filter, 'edit' => $w->zone->id]), 'reader')->assertDontSee('data-was', false);
});

it('reads the directory page by page, however long it is', function (): void {
    $w = $this->w;
    $own = 'zq'.bin2hex(random_bytes(3));
    $site = MakeSite::fromInput(['name' => "Quay $own"]);
    $w->did($site);
    $domain = MakeDomain::fromInput(['name' => "Hall $own", 'site' => $site->id]);
    $w->did($domain);
    $rows = array_map(static fn (int $n): array => [
        'id' => sprintf('01TESTVLANS%s%04d', strtoupper(substr(bin2hex($own), 0, 11)), $n), 'domain_id' => $domain->id, 'number' => $n,
        'name' => "$own-$n", 'description' => '', 'version' => 1,
    ], range(100, 420));
    DB::table('vlans')->insert($rows);
    $numbers = fn (string $filter, string $sort = '', int $page = 1): array => (new DirectoryList('vlans', $this->reach, $filter))
        ->page($sort, $page)->rows->pluck('number')->all();
    expect($numbers("domain:\"Hall $own\""))->toBe(range(100, 199))->and($numbers("domain:\"Hall $own\"", '', 4))->toBe(range(400, 420))
        ->and($numbers("domain:\"Hall $own\"", '-number'))->toBe(range(420, 321))
        ->and($numbers("site:\"Quay $own\" 150-152"))->toBe([150, 151, 152])->and($numbers("$own-41"))->toBe(range(410, 419))
        ->and($numbers("domain:\"Hall $own\" is:wrong", '', 4))->toBe(range(400, 420));
    ($this->one)('/directory/vlans?filter='.urlencode("domain:\"Hall $own\"").'&page=4')->assertReads('321')
        ->assertReads('301 to 321 of 321 VLANs')
        ->assertSee("$own-420")->assertDontSee("$own-150");
    ($this->one)('/directory/vlans?filter=is:right')->assertReads('is:right&quot; is not understood');
    // Sorted and paged, a row is still edited in its place and keeps it.
    $last = Vlan::query()->where('name', "$own-420")->firstOrFail();
    $query = ['filter' => "domain:\"Hall $own\"", 'page' => '4', 'edit' => $last->id, 'row' => '1'];
    ($this->one)('/directory/vlans?'.http_build_query($query))->assertSee('data-was="420"', false)
        ->assertSee('data-next="/directory/vlans?'.e(http_build_query(array_slice($query, 0, 2))).'"', false);
});

it('understands each word of each list, and names what it does not', function (): void {
    $w = $this->w;
    $own = 'zq'.bin2hex(random_bytes(3));
    $site = MakeSite::fromInput(['name' => "Pier $own"]);
    $w->did($site);
    $w->did(MakeDomain::fromInput(['name' => "Cells $own", 'site' => $site->id]));
    $w->did(MakeDevice::fromInput(['name' => "Old $own", 'kind' => "crane-$own", 'site' => $site->id]));
    $bound = $w->bound();
    $names = fn (string $list, string $filter): array => (new DirectoryList($list, $this->reach, $filter))->page('', 1)->rows
        ->pluck('name')->all();
    expect($names('domains', "site:\"Pier $own\""))->toBe(["Cells $own"])->and($names('domains', $own))->toBe(["Cells $own"])
        ->and($names('devices', "site:\"Pier $own\""))->toBe(["Old $own"])->and($names('devices', "kind:crane-$own"))->toBe(["Old $own"])
        ->and($names('devices', "kind:crane-$own site:nowhere"))->toBe([])
        ->and($names('people', "role:tenant-admin $bound->sign_in"))->toBe([$bound->name])
        ->and($names('people', "role:reader $bound->sign_in"))->toBe([])
        ->and($names('people', 'tenant:"'.App\Models\Tenant::query()->findOrFail($bound->tenant_id)->name.'"'))->toBe([$bound->name])
        ->and($names('people', "is:open $bound->sign_in"))->toBe([$bound->name])->and($names('people', "is:closed $bound->sign_in"))
        ->toBe([])
        ->and($names('spaces', $w->space->name))->toBe([$w->space->name]);
    foreach (['tenants', 'spaces', 'vlans', 'domains', 'devices', 'people'] as $list) {
        $found = new DirectoryList($list, $this->reach, 'moon:full');
        expect($found->page('', 1)->total)->toBe(0)->and($found->misread)->toHaveCount(1);
        foreach ([...array_keys($found->words()), 'x'] as $word) {
            $found = new DirectoryList($list, $this->reach, str_ends_with($word, ':') ? $word.($word === 'role:' ? 'reader' : 'x') : $word);
            $found->page('', 1);
            expect($found->misread)->toBe([]);
        }
    }
    expect(DirectoryList::has('sites'))->toBeFalse();
});

it('changes a person in their row and on their page', function (): void {
    $w = $this->w;
    $someone = $w->person('someone-'.bin2hex(random_bytes(3)), ['reader']);
    $steward = $w->people['steward'];
    $before = $someone->epoch;
    $page = "/directory/people?filter=$someone->sign_in&edit=$someone->id&row=1";
    ($this->one)($page, 'steward')->assertSee('data-was="'.$someone->name.'"', false);
    // Nobody changes themselves there.
    ($this->one)("/directory/people?filter=$steward->sign_in&edit=$steward->id&row=1", 'steward')->assertDontSee('data-was', false);
    $change = ['then' => 'commit', 'person' => $someone->id, 'name' => 'Somebody Else', 'roles' => ['', 'operator', 'approver'],
        'active' => '1',
        'stay' => '/directory/people'];
    $this->post('/act/change-person', $change)->assertRedirect('/directory/people');
    $someone->refresh();
    expect($someone->name)->toBe('Somebody Else')->and($someone->roles)->toBe(['operator', 'approver'])->and($someone->epoch)
        ->toBe($before);
    $this->post('/act/change-person', ['active' => '0', 'roles' => ['', 'operator']] + $change)->assertRedirect('/directory/people');
    expect($someone->refresh()->active)->toBeFalse()->and($someone->epoch)->toBe($before + 1);
    // Closed already: nobody is signed out once more.
    $this->post('/act/change-person', ['active' => '0', 'roles' => ['', 'reader']] + $change)->assertRedirect('/directory/people');
    expect($someone->refresh()->epoch)->toBe($before + 1);
    $refused = fn (array $with): ?string => $w->refusal(ChangePerson::class, $with + ['person' => $someone->id], $steward);
    expect($refused(['name' => ' ']))->toBe('no-name')->and($refused(['roles' => ['']]))->toBe('no-role')
        ->and($refused(['roles' => ['guest', 'reader']]))->toBe('guest-alone')->and($refused(['roles' => ['tenant-admin']]))
        ->toBe('bad-roles');
    ($this->one)("/directory/person/$someone->id", 'steward')->assertSee('changeperson')->assertSee('value="Somebody Else"', false);
    expect(Person::query()->findOrFail($someone->id)->roles)->toBe(['reader']);
});

it('changes a scope and a server in their rows', function (): void {
    $w = $this->w;
    $at = fn (array $query): string => http_build_query($query);
    ($this->one)('/lease?'.$at(['filter' => $w->scope->name, 'edit' => $w->scope->id]), 'operator')
        ->assertSee('data-was="'.$w->scope->name.'"', false)->assertSee('data-was="8h"', false);
    $this->post('/act/change-scope', ['then' => 'commit', 'scope' => $w->scope->id, 'name' => 'Named anew', 'leaseTime' => '4h',
        'stage' => 'live',
        'reason' => 'wanted', 'stay' => '/lease'])->assertRedirect('/lease');
    $scope = Scope::query()->with('ranges')->findOrFail($w->scope->id);
    expect($scope->name)->toBe('Named anew')->and($scope->lease_time)->toBe(14400)->and($scope->ranges)->toHaveCount(2);
    $server = Server::query()->findOrFail($w->servers['ns1']);
    ($this->one)('/ship?'.$at(['filter' => $server->name, 'edit' => $server->id]), 'steward')
        ->assertSee('data-was="'.$server->name.'"', false);
    ($this->one)('/ship?'.$at(['filter' => $server->name, 'edit' => $server->id]), 'operator')->assertDontSee('data-was', false);
    $own = 'zq'.bin2hex(random_bytes(3));
    $this->actingAs($w->people['steward'])->post('/act/change-server', ['then' => 'commit', 'server' => $server->id, 'name' => $own,
        'site' => '-',
        'stay' => '/ship'])->assertRedirect('/ship');
    expect($server->refresh()->name)->toBe($own)->and($server->control)->toBe('127.0.0.1:9');
});

it('finds servers by what they do and how they are', function (): void {
    $w = $this->w;
    $suffix = substr(Server::query()->findOrFail($w->servers['ns1'])->name, 4);
    $names = fn (string $filter, string $sort = ''): array => (new ServerList($filter))->page($sort, 1)->rows->pluck('name')
        ->filter(fn (string $n): bool => str_ends_with($n, $suffix))->map(fn (string $n): string => explode('-', $n)[0])->values()->all();
    expect($names(''))->toBe(['dh1', 'dh2', 'ns1', 'ns2'])->and($names('', '-name'))->toBe(['ns2', 'ns1', 'dh2', 'dh1'])
        ->and($names('does:dns'))->toBe(['ns1', 'ns2'])->and($names("ns2-$suffix"))->toBe(['ns2'])
        ->and($names('is:held'))->toBe([])->and($names('is:drifted'))->toBe([])->and($names('is:silent'))->toBe([])
        ->and($names('site:nowhere'))->toBe([]);
    DB::table('server_states')->updateOrInsert(['server_id' => $w->servers['dh1']], ['problem' => 'silent', 'problem_since' => now()]);
    DB::table('drifts')->insert(['server_id' => $w->servers['ns2'], 'kind' => 'zone', 'object_id' => $w->zone->id, 'title' => 'x',
        'state' => 'differs', 'removed' => '[]', 'added' => '[]', 'removed_count' => 0, 'added_count' => 0, 'found_at' => now()]);
    DB::table('servers')->where('id', $w->servers['dh2'])->update(['held' => true]);
    expect($names('is:silent'))->toBe(['dh1'])->and($names('is:drifted'))->toBe(['ns2'])->and($names('is:held'))->toBe(['dh2']);
    ($this->one)('/ship?filter=does:dishes')->assertReads('does:dishes&quot; is not understood');
});
