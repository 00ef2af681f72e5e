<?php

declare(strict_types=1);

use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeVlan;
use App\Acts\Directory\SetTable;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeReservation;
use App\Acts\Lease\SetOption;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Host;
use App\Models\Person;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Vlan;
use App\View\Heads;
use Illuminate\Support\Facades\DB;
use Tests\World;

/*
 * Rows that are edited where they stand, and tables as somebody wants them.
 */

beforeEach(function (): void {
    $this->w = World::make();
    $this->one = fn (string $path, string $who = 'planner') => $this->actingAs($this->w->people[$who])->get($path)->assertOk();
});

it('opens a record in its row, leads to the next one, and keeps what was filtered for', function (): void {
    foreach (['till-1' => '192.0.2.11', 'till-2' => '192.0.2.12'] as $name => $address) {
        $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => $name, 'type' => 'A', 'data' => $address]));
    }
    [$first, $second] = Record::query()->where('zone_id', $this->w->zone->id)->where('owner', 'like', 'till-%')->orderBy('owner')
        ->get()->all();
    $at = "/name/zone/{$this->w->zone->id}?filter=till";
    $page = ($this->one)("$at&edit=$first->id");
    $page->assertSee('data-was="till-1"', false)->assertSee('data-next="'.e("$at&edit=$second->id").'"', false)
        ->assertSee('name="stay" value="'.e($at).'"', false)->assertDontSee('class="addrow"', false);
    // The last one leads back to the list; a reader gets no fields.
    ($this->one)("$at&edit=$second->id")->assertSee('data-next="'.e($at).'"', false);
    ($this->one)("$at&edit=$first->id", 'reader')->assertDontSee('class="editing"', false)->assertDontSee('class="addrow"', false);
    ($this->one)("/name/zone/{$this->w->zone->id}")->assertSee('class="addrow"', false)->assertSee('form="rowadd"', false);
});

it('writes a row and says where to go on', function (): void {
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'gate', 'mac' => '00:00:5e:00:53:01']));
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'lamp']));
    [$gate, $lamp] = Host::query()->where('prefix_id', $this->w->subnet->id)->orderBy('address')->get()->all();
    $at = "/plan/prefix/{$this->w->subnet->id}";
    ($this->one)("$at?edit=$gate->id", 'operator')->assertSee('data-was="00:00:5e:00:53:01"', false)
        ->assertSee('data-next="'.e("$at?edit=$lamp->id").'"', false);
    $this->actingAs($this->w->people['operator'])->withHeaders(['HX-Request' => 'true'])->post('/act/change-host', [
        '_form' => 'changehost', 'then' => 'commit', 'host' => $gate->id, 'mac' => '00:00:5e:00:53:02', 'stay' => "$at?edit=$lamp->id",
    ])->assertHeader('HX-Redirect', url("$at?edit=$lamp->id"));
    expect((string) $gate->refresh()->mac)->toBe('00:00:5e:00:53:02');
});

it('edits prefixes, sites and VLANs in their rows', function (): void {
    $site = MakeSite::fromInput(['name' => 'Slip '.bin2hex(random_bytes(2))]);
    $this->w->did($site);
    $at = "/plan/prefix/{$this->w->top->id}";
    ($this->one)("$at?edit={$this->w->subnet->id}")->assertSee('data-was="Ticketing"', false)->assertSee('id="rowform"', false)
        ->assertSee("name=\"stay\" value=\"$at\"", false);
    ($this->one)($at, 'reader')->assertDontSee('data-inrow', false);
    ($this->one)("/directory/sites?edit=$site->id&row=1")->assertSee("data-row=\"$site->id\"", false)
        ->assertSee('action="/act/change-site"', false);
    ($this->one)("/directory/sites?edit=$site->id&row=1", 'reader')->assertDontSee('action="/act/change-site"', false);
    $this->actingAs($this->w->people['planner'])->post('/act/change-prefix', [
        'then' => 'commit', 'prefixes' => [$this->w->subnet->id], 'name' => 'Gates', 'site' => $site->name, 'vlan' => '-', 'stay' => $at,
    ])->assertRedirect($at);
    expect($this->w->subnet->refresh()->name)->toBe('Gates')->and($this->w->subnet->site_id)->toBe($site->id);
});

it('changes a reservation and keeps its options', function (): void {
    $add = fn (string $address, string $mac) => $this->w->did(new AddReservation($this->w->scope->id, $address, $mac, 'printer'));
    $add('192.0.2.61', '00:00:5e:00:53:01');
    $add('192.0.2.62', '00:00:5e:00:53:02');
    $row = Reservation::query()->where('scope_id', $this->w->scope->id)->orderBy('address')->firstOrFail();
    $this->w->did(SetOption::fromInput(['layer' => 'reservation', 'of' => $row->id, 'code' => '42', 'value' => '192.0.2.9']));
    $change = fn (array $more): ?string => $this->w->refusal(ChangeReservation::class, ['reservation' => $row->id] + $more);
    expect($change(['mac' => '00:00:5e:00:53:02']))->toBe('mac-reserved')
        ->and($change(['address' => '192.0.2.62']))->toBe('address-reserved')
        ->and($change(['address' => '198.51.100.1']))->toBe('reservation-outside')->and($change(['mac' => 'quay']))->toBe('bad-mac')
        ->and($change(['address' => 'quay']))->toBe('bad-address')->and($change([]))->toBeNull()
        ->and($this->w->refusal(ChangeReservation::class, ['reservation' => str_repeat('0', 26)], $this->w->people['operator']))
        ->toBe('not-available')
        // Of what a tenant does not see the same is said as of what is not there.
        ->and($this->w->refusal(ChangeReservation::class, ['reservation' => $row->id, 'name' => 'x'], $this->w->bound()))
        ->toBe('not-available');
    $this->w->did(new ChangeReservation($row->id, '192.0.2.63', '0x01aabb', ''), $this->w->people['operator']);
    $row->refresh();
    expect("$row->address {$row->client()} '$row->name'")->toBe("192.0.2.63 0x01aabb ''")->and($row->mac)->toBeNull()
        ->and($row->optionValues()->count())->toBe(1);
    // What is not given stays.
    $this->w->did(new ChangeReservation($row->id, mac: '00:00:5e:00:53:07'));
    expect("{$row->refresh()->address} {$row->client()}")->toBe('192.0.2.63 00:00:5e:00:53:07')->and($row->client_id)->toBeNull();
    $page = "/lease/scope/{$this->w->scope->id}";
    ($this->one)("$page?edit=$row->id", 'operator')->assertSee('data-was="00:00:5e:00:53:07"', false)->assertSee('id="changeres"', false);
    ($this->one)($page, 'reader')->assertDontSee('id="reserve"', false);
});

it('says nothing of names when a row changes the MAC alone', function (): void {
    $this->w->did(PlaceHost::fromInput([
        'prefix' => $this->w->subnet->id, 'name' => 'till', 'address' => '192.0.2.7', 'zone' => $this->w->zone->id, 'ptr' => '1',
    ]));
    $host = Host::query()->where('prefix_id', $this->w->subnet->id)->sole();
    // A second name of the host stays when the first one is sent as it stands.
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'second', 'type' => 'A', 'data' => '192.0.2.7']));
    DB::table('records')->where('owner', 'like', 'second.%')->where('zone_id', $this->w->zone->id)->update(['address_id' => $host->id]);
    $row = fn (array $more): array => $this->w->acts()->rehearse($this->w->people['operator'], [
        App\Acts\Plan\ChangeHost::fromInput($more + ['host' => $host->id, 'address' => '192.0.2.7', 'name' => "$host->name."]),
    ])->ledgers;
    $ledger = $row(['mac' => '00:00:5e:00:53:09'])[0];
    expect($ledger->later)->toBe([])->and(array_map(fn ($w): string => $w->noun, $ledger->written))->toBe(['address'])
        ->and($row([])[0]->written)->toBe([])
        ->and(array_column($row(['name' => 'other'])[0]->later, 0))->toContain('The old answer may linger 1 h, its TTL')
        ->and(array_column($row(['address' => '192.0.2.8'])[0]->later, 0))->toContain('The old answer may linger 1 h, its TTL');
});

it('says when a host loses its reservation by the change, and takes it back as it was', function (): void {
    $this->w->did(PlaceHost::fromInput([
        'prefix' => $this->w->subnet->id, 'name' => 'till', 'address' => '192.0.2.7', 'mac' => '00:00:5e:00:53:07', 'reserve' => '1',
    ]));
    $row = Reservation::query()->where('scope_id', $this->w->scope->id)->sole();
    $was = array_diff_key((array) DB::table('reservations')->where('id', $row->id)->first(), ['version' => 0]);
    $done = $this->w->did(new ChangeReservation($row->id, '192.0.2.62'), $this->w->people['operator']);
    expect(array_column($done->ledgers[0]->later, 0))->toBe(['192.0.2.7 till has no reservation any more'])
        ->and($row->refresh()->address_id)->toBeNull();
    $this->w->did(new App\Acts\Watch\TakeBack([$done->ledgers[0]->actId]), $this->w->people['operator']);
    expect(array_diff_key((array) DB::table('reservations')->where('id', $row->id)->first(), ['version' => 0]))->toBe($was);
    // The client's name alone changes nothing for the host.
    expect($this->w->acts()->rehearse(null, [new ChangeReservation($row->id, name: 'x')])->ledgers[0]->later)->toBe([]);
    $this->w->did(App\Acts\Lease\RemoveScope::fromInput(['scope' => $this->w->scope->id]));
    expect(DB::table('words')->where('row_id', $row->id)->count())->toBe(0);
});

it('leads from row to row as they stand, and keeps what the list was asked for', function (): void {
    $in = fn (mixed $edit) => App\View\InRow::of(['a', 'b', 'c'], $edit, '/x', ['filter' => 'f&g', 'after' => null], ['row' => '1']);
    expect($in('a')->next())->toBe('/x?filter=f%26g&edit=b&row=1')->and($in('c')->next())->toBe('/x?filter=f%26g')
        ->and($in('a')->is('a'))->toBeTrue()->and($in('a')->is('b'))->toBeFalse()
        ->and(array_map(fn (mixed $e) => $in($e)->id, ['z', '', null, ['a'], 0, 'b']))->toBe([null, null, null, null, null, 'b'])
        ->and($in(null)->out())->toBe('/x?filter=f%26g')->and($in(null)->next())->toBe($in(null)->out())
        ->and(App\View\InRow::of([], 'a', '/x')->out())->toBe('/x');
    // Sites: the next one is the one below, not the next by name.
    $made = [];
    foreach (['Zz' => '', 'Aa' => 'Zz', 'Bb' => ''] as $name => $under) {
        $act = MakeSite::fromInput(['name' => "$name ".bin2hex(random_bytes(3)), 'parent' => $made[$under] ?? '']);
        $this->w->did($act);
        $made[$name] = $act->id;
    }
    ($this->one)("/directory/sites?edit={$made['Zz']}&row=1")
        ->assertSee('data-next="'.e("/directory/sites?edit={$made['Aa']}&row=1").'"', false);
});

it('says that somebody else changed the reservation meanwhile', function (): void {
    $this->w->did(new AddReservation($this->w->scope->id, '192.0.2.61', '00:00:5e:00:53:01'));
    $row = Reservation::query()->where('scope_id', $this->w->scope->id)->firstOrFail();
    $this->w->did(new ChangeReservation($row->id, name: 'first'));
    $this->actingAs($this->w->people['operator'])->post('/act/change-reservation', [
        'then' => 'commit', 'reservation' => $row->id, 'name' => 'second', 'seen' => ["reservation:$row->id" => (string) $row->version],
    ])->assertStatus(409);
    expect($row->refresh()->name)->toBe('first');
});

it('leaves out the columns that somebody does not want, for them alone', function (): void {
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'gate']));
    $at = "/plan/prefix/{$this->w->subnet->id}";
    $columns = ['Name', 'MAC', 'Role', 'In DNS', 'Reserved', 'Device'];
    ($this->one)($at, 'reader')->assertDontSee('data-hide=', false);
    $this->actingAs($this->w->people['reader'])->post('/act/set-table', [
        'then' => 'commit', 'table' => 'hosts', 'columns' => $columns, 'show' => ['Name', 'In DNS', 'Reserved', 'Device'], 'stay' => $at,
    ])->assertRedirect($at);
    $this->w->people['reader']->refresh();
    // A reader has no boxes to pick: MAC is the third column; a planner has them.
    ($this->one)($at, 'reader')->assertSee('data-hide="3 4"', false)->assertSee('Columns: MAC, Role not shown');
    ($this->one)($at)->assertDontSee('data-hide=', false);
    $this->actingAs($this->w->people['reader'])->post('/act/set-table', [
        'then' => 'commit', 'table' => 'hosts', 'columns' => $columns, 'show' => $columns, 'dense' => '1', 'stay' => $at,
    ]);
    expect($this->w->people['reader']->refresh()->tables)->toBe(['hide' => [], 'dense' => true]);
    ($this->one)($at, 'reader')->assertSee('data-dense', false)->assertDontSee('data-hide=', false);
});

it('knows a table by its heads, and hides neither the first nor what is not there', function (): void {
    $person = new Person;
    $person->tables = ['hide' => ['leases' => ['Address', 'Client', 'Gone', 'A & B']], 'dense' => false];
    $drawn = '<thead><tr><th class="pickcell"><input></th><th>Address</th><th class="num">
        <a href="?sort=x">Client</a> </th><th>A &amp; B</th><th>Until</th></tr></thead><tbody><tr><th>Gone</th></tr></tbody>';
    $heads = Heads::of($drawn, 'leases', $person);
    expect($heads->choices())->toBe(['Client', 'A & B', 'Until'])->and($heads->hidden())->toBe('3 4')->and($heads->mayChoose())->toBeTrue()
        ->and(Heads::of($drawn, 'other', $person)->hidden())->toBe('')->and(Heads::of($drawn, 'leases', null)->hidden())->toBe('')
        ->and(Heads::of('<thead><tr><th>A</th><th>B</th><th>C</th></tr></thead>', 'x', null)->mayChoose())->toBeFalse()
        ->and(Heads::of(str_replace('<tr><th>Gone', '<tr><th rowspan="2">Gone', $drawn), 'leases', $person)->mayChoose())->toBeFalse();
});

it('forgets the table that was set longest ago, and takes no list that is too long', function (): void {
    $person = $this->w->people['reader'];
    for ($i = 0; $i < 103; $i++) {
        $this->w->acts()->commit($person, [new SetTable("table-$i", ['A', 'B'], ['A'])]);
    }
    $kept = $person->refresh()->tables['hide'];
    expect($kept)->toHaveCount(100)->not->toHaveKey('table-2')->toHaveKey('table-3');
    $this->w->acts()->commit($person, [new SetTable('table-3', array_map(strval(...), range(1, 90)), [])]);
    expect($person->refresh()->tables['hide']['table-3'])->toHaveCount(40);
});

it('rolls the use of sites up to those that they lie in', function (): void {
    $made = [];
    foreach (['Area' => '', 'Town' => 'Area', 'Hall' => 'Town'] as $name => $in) {
        $act = MakeSite::fromInput(['name' => "$name ".bin2hex(random_bytes(2)), 'parent' => $made[$in] ?? '']);
        $this->w->did($act);
        $made[$name] = $act->id;
    }
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $made['Hall']));
    $this->w->did(new ChangePrefix([$this->w->carve('192.0.2.128/31', ['name' => 'Link', 'stage' => 'live'])->id], site: $made['Area']));
    $gates = $this->w->carve('192.0.2.192/27', ['name' => 'Gates', 'kind' => 'supernet']);
    $this->w->did(new ChangePrefix([$gates->id], site: $made['Town']));
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'gate']));
    $reach = App\Queries\Reach::of($this->w->people['planner']);
    DB::table('prefixes')->where('id', $this->w->subnet->id)->update(['used' => 1]);
    $use = App\Queries\SiteUse::of($reach->sites()->get()->toBase(), $reach);
    $site = fn (string $name) => App\Models\Site::query()->findOrFail($made[$name]);
    // One host and the gateway of 126, and two of a /31; a supernet counts as a prefix and has no hosts.
    expect($use->use($site('Hall')))->toMatchArray(['used' => 2, 'usable' => 126])
        ->and($use->use($site('Town')))->toMatchArray(['used' => 2, 'usable' => 126])->and($use->prefixes($site('Town')))->toBe(2)
        ->and($use->use($site('Area')))->toMatchArray(['used' => 2, 'usable' => 128])->and($use->prefixes($site('Area')))->toBe(3)
        ->and($use->depth($site('Hall')))->toBe(2);
    $order = array_map(fn ($s): string => $s->id, $use->sites());
    expect(array_values(array_intersect($order, $made)))->toBe(array_values($made));
    ($this->one)('/directory/sites')->assertReads('with those of all sites inside');
});

it('edits the number and name of a VLAN in its row', function (): void {
    $domain = App\Acts\Directory\MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(2))]);
    $this->w->did($domain);
    $make = MakeVlan::fromInput(['number' => '210', 'name' => 'GATES', 'domain' => $domain->id]);
    $this->w->did($make);
    ($this->one)("/directory/vlans?edit=$make->id&row=1")->assertSee('data-was="210"', false)
        ->assertSee('action="/act/change-vlan"', false);
    $this->actingAs($this->w->people['planner'])->post('/act/change-vlan', [
        'then' => 'commit', 'vlan' => $make->id, 'number' => '211', 'name' => 'GATES-2', 'stay' => '/directory/vlans',
    ])->assertRedirect('/directory/vlans');
    expect(Vlan::query()->findOrFail($make->id)->line())->toContain('211');
});
