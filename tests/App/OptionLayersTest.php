<?php

declare(strict_types=1);

use App\Acts\Directory\MakeSite;
use App\Acts\Directory\SetSetting;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeClass;
use App\Acts\Lease\KeepRange;
use App\Acts\Lease\MakeClass;
use App\Acts\Lease\MakeScope;
use App\Acts\Lease\RemoveClass;
use App\Acts\Lease\RemoveReservations;
use App\Acts\Lease\SetOption;
use App\Acts\Plan\ChangePrefix;
use App\Links\ScopeForm;
use App\Models\ClientClass;
use App\Models\OptionValue;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use App\Models\Site;
use App\Queries\Called;
use App\Queries\OptionLayers;
use App\Queries\OptionReach;
use App\View\Follows;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->scope = fn (): Scope => Scope::query()->with(['prefix', 'optionValues', 'placements'])->findOrFail($this->w->scope->id);
    $this->server = fn (string $name): Server => Server::query()->findOrFail($this->w->servers[$name]);
    $this->site = MakeSite::fromInput(['name' => 'Tarbeck '.bin2hex(random_bytes(3))]);
    $this->w->did($this->site);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $this->site->id));
    $this->class = function (string $name = 'Callboxes', array $more = []): ClientClass {
        $act = MakeClass::fromInput([
            'name' => $name, 'fields' => ['vendor-class'], 'comparisons' => ['starts'], 'values' => ['callbox-'],
        ] + $more);
        $this->w->did($act);

        return ClientClass::query()->findOrFail($act->id);
    };
    $this->sent = function (int $code, array $classes = [], ?Reservation $reservation = null, string $server = 'dh1'): ?string {
        $nearest = app(OptionLayers::class)->of(($this->scope)(), ($this->server)($server), $classes, $reservation)
            ->nearest()[$code] ?? null;

        return $nearest === null ? null : "{$nearest->layer->value}: {$nearest->words()}";
    };
});

it('sends the value of the nearest of seven layers', function (): void {
    $class = ($this->class)();
    $this->w->did(new AddReservation($this->w->scope->id, '192.0.2.70', '00:00:5e:00:53:70', 'till-7'));
    $reservation = Reservation::query()->where('scope_id', $this->w->scope->id)->sole();
    $layers = [
        'organisation' => [['layer' => 'organisation'], [], null],
        'server' => [['layer' => 'server', 'of' => $this->w->servers['dh1']], [], null],
        'site' => [['layer' => 'site', 'of' => $this->site->id], [], null],
        'scope' => [['scope' => $this->w->scope->id], [], null],
        'class' => [['layer' => 'class', 'of' => $class->id], [$class], null],
        'reservation' => [['layer' => 'reservation', 'of' => $reservation->id], [$class], $reservation],
    ];
    $n = 0;
    foreach ($layers as $layer => [$where, $classes, $held]) {
        $n++;
        $this->w->did(SetOption::fromInput($where + ['code' => 42, 'value' => "192.0.2.$n"]));
        $class->load('optionValues');
        $held?->load('optionValues');
        expect(($this->sent)(42, $classes, $held))->toBe("$layer: 192.0.2.$n");
    }
    // What is not of the client is not sent to it; what is of another server neither.
    expect(($this->sent)(42))->toBe('scope: 192.0.2.4');
    $this->w->did(SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 42, 'value' => '']));
    $this->w->did(SetOption::fromInput(['layer' => 'site', 'of' => $this->site->id, 'code' => 42, 'value' => '']));
    expect(($this->sent)(42))->toBe('server: 192.0.2.2')->and(($this->sent)(42, server: 'dh2'))->toBe('organisation: 192.0.2.1');
});

it('takes settings as options of their layer, and a scope without one of its own inherits', function (): void {
    $this->w->did(SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 15, 'value' => '']));
    $this->w->did(new SetSetting('site', 'domain', $this->site->id, 'tarbeck.example'));
    expect(($this->sent)(15))->toBe('site: tarbeck.example');
    $this->w->did(new SetSetting('prefix', 'domain', $this->w->subnet->id, 'quay.tarbeck.example'));
    expect(($this->sent)(15))->toBe('prefix: quay.tarbeck.example');
    $this->w->did(SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 15, 'empty' => '1']));
    expect(($this->sent)(15))->toBe('scope: empty on purpose')
        ->and(ScopeForm::payloads(($this->scope)(), ($this->server)('dh1')))->not->toHaveKey(15);
});

it('refuses what belongs elsewhere', function (array $input, string $code): void {
    $input = array_map(fn (mixed $v): mixed => $v === 'SITE' ? $this->site->id : $v, $input);
    expect($this->w->refusal(SetOption::class, $input))->toBe($code);
})->with([
    'a router of the organisation' => [['layer' => 'organisation', 'code' => 3, 'value' => '192.0.2.1'], 'router-of-one-link'],
    'resolvers of the organisation' => [['layer' => 'organisation', 'code' => 6, 'value' => '192.0.2.53'], 'is-a-setting'],
    'a domain of a site' => [['layer' => 'site', 'of' => 'SITE', 'code' => 15, 'value' => 'x.example'], 'is-a-setting'],
    'a lease time' => [['layer' => 'organisation', 'code' => 51, 'value' => '60'], 'not-by-hand'],
    'rapid commit' => [['layer' => 'organisation', 'code' => 80, 'value' => 'present'], 'not-by-hand'],
    'an object that is none' => [['layer' => 'site', 'of' => '01ARZ3NDEKTSV4RRFFQ69G5FAV', 'code' => 42, 'value' => '192.0.2.1'], 'gone'],
    'a server that is none' => [['layer' => 'server', 'of' => 'SITE', 'code' => 42, 'value' => '192.0.2.1'], 'gone'],
    'values that are none' => [['layer' => 'organisation', 'code' => 42, 'value' => 'noon'], 'bad-option'],
    'empty with a value' => [['layer' => 'organisation', 'code' => 42, 'value' => '192.0.2.1', 'empty' => '1'], 'empty-and-values'],
]);

it('says whom an outer value reaches before it is saved', function (): void {
    $later = fn (array $input): string => implode(' | ', $this->w->acts()->rehearse(null, [SetOption::fromInput($input)])->later());
    expect($later(['layer' => 'organisation', 'code' => 42, 'value' => '192.0.2.9']))
        ->toContain('Reaches')->toContain($this->w->scope->name);
    $this->w->did(SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 42, 'value' => '192.0.2.8']));
    expect($later(['layer' => 'organisation', 'code' => 42, 'value' => '192.0.2.9']))
        ->toContain('keep a nearer value')->not->toContain("Reaches 1 scope with 0 clients that have a lease now: {$this->w->scope->name}");
    // Removing says what is lost, from what was there.
    $this->w->did(SetOption::fromInput(['layer' => 'server', 'of' => $this->w->servers['dh1'], 'code' => 66, 'value' => 'boot']));
    expect($later(['layer' => 'server', 'of' => $this->w->servers['dh1'], 'code' => 66, 'value' => '']))->toContain('Reaches 1 scope');
    $class = ($this->class)();
    expect($later(['layer' => 'class', 'of' => $class->id, 'code' => 66, 'value' => 'boot']))->toContain('clients of Callboxes');
});

it('counts only scopes that live', function (): void {
    $this->w->did(SetOption::fromInput(['layer' => 'organisation', 'code' => 42, 'value' => '192.0.2.9']));
    $before = count(OptionReach::of(OptionLayer::Organisation, '', 42)['reached']);
    Scope::query()->whereKey($this->w->scope->id)->toBase()->update(['stage' => 'planned']);
    expect(count(OptionReach::of(OptionLayer::Organisation, '', 42)['reached']))->toBe($before - 1);
});

it('sets an option in many scopes at once, all of them or none', function (): void {
    $other = $this->w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'live']);
    $act = MakeScope::fromInput(['prefix' => $other->id, 'name' => 'Gates', 'servers' => [$this->w->servers['dh1']]]);
    $this->w->did($act);
    $both = [$this->w->scope->id, $act->id];
    $this->w->did(SetOption::fromInput(['scopes' => $both, 'code' => 42, 'value' => '192.0.2.9']));
    expect(OptionValue::query()->where('code', 42)->whereIn('layer_id', $both)->count())->toBe(2);
    $gone = [...$both, '01ARZ3NDEKTSV4RRFFQ69G5FAV'];
    expect($this->w->refusal(SetOption::class, ['scopes' => $gone, 'code' => 66, 'value' => 'boot']))->toBe('not-available')
        ->and(OptionValue::query()->where('code', 66)->count())->toBe(0);
});

it('makes, changes, orders and removes classes', function (): void {
    $one = ($this->class)('One');
    $two = ($this->class)('Two');
    $three = ($this->class)('Three');
    $order = fn (): string => ClientClass::query()->whereKey([$one->id, $two->id, $three->id])->orderBy('position')->pluck('name')
        ->implode(' ');
    expect($order())->toBe('One Two Three');
    $this->w->did(ChangeClass::fromInput(['class' => $three->id, 'position' => (string) $one->position]));
    expect($order())->toBe('Three One Two');
    $this->w->did(ChangeClass::fromInput(['class' => $three->id, 'position' => '9999']));
    expect($order())->toBe('One Two Three');
    $this->w->did(ChangeClass::fromInput([
        'class' => $one->id, 'name' => 'Radios', 'holds' => 'any', 'fields' => ['mac', 'user-class', 'mac'],
        'comparisons' => ['starts', 'is', 'starts'], 'values' => ['00:00:5e', '', '02:00'],
    ]));
    $one->refresh();
    expect($one->name)->toBe('Radios')->and($one->any)->toBeTrue()->and(array_column($one->conditions, 'value'))
        ->toBe(['00:00:5e', '02:00']);
    $this->w->did(SetOption::fromInput(['layer' => 'class', 'of' => $one->id, 'code' => 66, 'value' => 'boot']));
    $outcome = $this->w->acts()->rehearse(null, [new RemoveClass($one->id)]);
    expect(array_column($outcome->notes(), 'code'))->toContain('with-options');
    $this->w->did(new RemoveClass($one->id));
    expect(OptionValue::query()->where('layer_id', $one->id)->count())->toBe(0)->and(ClientClass::query()->find($one->id))->toBeNull();
});

it('refuses classes that say nothing or are called twice', function (array $input, string $code): void {
    ($this->class)('Taken');
    expect($this->w->refusal(MakeClass::class, $input + [
        'fields' => ['mac'], 'comparisons' => ['starts'], 'values' => ['00:00'], 'name' => 'x',
    ]))->toBe($code);
})->with([
    'no row' => [['values' => ['', '']], 'bad-condition'], 'no name' => [['name' => ''], 'no-name'],
    'the same name' => [['name' => 'Taken'], 'name-taken'], 'a field that is none' => [['fields' => ['shoe']], 'bad-condition'],
    'fewer fields than values' => [['values' => ['00:00', '00:01']], 'bad-condition'],
]);

it('keeps a range for a class, and says when nobody else finds one', function (): void {
    $class = ($this->class)();
    $ranges = $this->w->scope->ranges()->orderBy('first')->get();
    $input = ['scope' => $this->w->scope->id, 'range' => $ranges[0]->id, 'for' => 'only', 'class' => $class->id];
    $outcome = $this->w->acts()->rehearse(null, [KeepRange::fromInput($input)]);
    expect(array_column($outcome->notes(), 'code'))->not->toContain('no-open-range');
    $this->w->did(KeepRange::fromInput($input));
    $outcome = $this->w->acts()->rehearse(null, [KeepRange::fromInput(['range' => $ranges[1]->id] + $input)]);
    expect(array_column($outcome->notes(), 'code'))->toContain('no-open-range')
        ->and($this->w->refusal(RemoveClass::class, ['class' => $class->id]))->toBe('class-in-use')
        ->and($this->w->refusal(KeepRange::class, ['class' => ''] + $input))->toBe('no-class')
        ->and($this->w->refusal(KeepRange::class, ['range' => $this->w->subnet->id] + $input))->toBe('not-available');
    $form = ScopeForm::of(($this->scope)(), ($this->server)('dh1'));
    expect($form['kept'])->toBe([(string) $ranges[0]->range() => ['class' => $class->id, 'only' => true]])
        ->and(array_column($form['classes'], 'name'))->toBe(['Callboxes']);
    $this->w->did(KeepRange::fromInput(['for' => 'all'] + $input));
    expect(ScopeForm::of(($this->scope)(), ($this->server)('dh1'))['kept'])->toBe([]);
});

it('computes who answers a client, with what, and why', function (): void {
    $class = ($this->class)();
    $this->w->did(SetOption::fromInput(['layer' => 'class', 'of' => $class->id, 'code' => 66, 'value' => 'boot.quay.example']));
    $of = fn (ClientSketch $client, array $down = []): App\Queries\ServedClient => App\Queries\ServedClient::of(
        Scope::query()->with(['prefix', 'placements.server', 'ranges', 'exclusions', 'reservations.optionValues', 'optionValues'])
            ->findOrFail($this->w->scope->id),
        $client,
        $down,
    );
    $box = new ClientSketch(MacAddress::parse('02:00:5e:00:53:01'), '', [3, 66, 42], 'callbox-7');
    expect($of($box)->answering())->toBe([])->and($of($box)->servers[0]['silent'])->toContain('ship it');
    Illuminate\Support\Facades\DB::table('scope_servers')->update(['shipped_at' => now()]);
    $found = $of($box);
    expect($found->answering())->toHaveCount(2)
        ->and((string) $found->servers[0]['address'])->toBe('192.0.2.60')
        ->and($found->servers[0]['why'])->toContain('next free')
        ->and($found->servers[0]['stack']->nearest()[66]->name)->toBe('Callboxes')
        ->and($found->without($found->servers[0]['stack']))->toBe(['42 NTP servers'])
        ->and(array_column($found->classes, 'holds'))->toBe([true])
        ->and($of($box, [$this->w->servers['dh1']])->answering())->toHaveCount(1);
    $other = new ClientSketch(MacAddress::parse('02:00:5e:00:53:02'), requested: Address::parse('192.0.2.66'));
    expect($of($other)->servers[0]['stack']->nearest())->not->toHaveKey(66)
        ->and((string) $of($other)->servers[0]['address'])->toBe('192.0.2.66')
        ->and($of($other)->servers[0]['why'])->toBe('it asks for it');
    $this->w->did(new AddReservation($this->w->scope->id, '192.0.2.80', '02:00:5e:00:53:02', 'till-8'));
    expect((string) $of($other)->servers[0]['address'])->toBe('192.0.2.80')->and($of($other)->servers[0]['why'])->toBe('reserved for it')
        ->and($of($other)->servers[0]['stack']->nearest()[12]->values)->toBe(['till-8']);
});

it('reserves by client identifier, and removes the options of a reservation with it', function (): void {
    $this->w->did(new AddReservation($this->w->scope->id, '192.0.2.70', '0xff00000001', 'boat-1'));
    $reservation = Reservation::query()->where('scope_id', $this->w->scope->id)->sole();
    expect($reservation->mac)->toBeNull()->and($reservation->client())->toBe('0xff00000001');
    expect($this->w->refusal(AddReservation::class, [
        'scope' => $this->w->scope->id, 'address' => '192.0.2.71', 'mac' => '0xff00000001',
    ]))->toBe('mac-reserved');
    $this->w->did(SetOption::fromInput(['layer' => 'reservation', 'of' => $reservation->id, 'code' => 66, 'value' => 'boot']));
    $form = ScopeForm::of(Scope::query()->findOrFail($this->w->scope->id), ($this->server)('dh1'));
    expect($form['reservations'][0])->toMatchArray(['mac' => '', 'client' => 'ff00000001', 'options' => [66 => bin2hex('boot')]]);
    $this->w->did(new RemoveReservations([$reservation->id], $this->w->scope->id));
    expect(OptionValue::query()->where('layer', 'reservation')->count())->toBe(0);
});

it('shows layers, classes and bytes on their pages', function (): void {
    $class = ($this->class)();
    $this->w->did(SetOption::fromInput(['layer' => 'organisation', 'code' => 42, 'value' => '192.0.2.9']));
    $this->actingAs($this->w->people['operator']);
    $this->get('/lease/options')->assertOk()->assertSee('192.0.2.9')->assertReads('1 scope, 0 clients now');
    $this->get("/lease/options/class/$class->id")->assertOk()->assertSee('vendor class (60) starts with callbox-');
    $this->get('/lease/options/prefix/x')->assertNotFound();
    $this->get('/lease/options/nothing/x')->assertNotFound();
    $sketch = new ClientSketch(MacAddress::parse('02:00:5e:00:53:01'), vendorClass: 'callbox-9');
    $packet = bin2hex($sketch->discover(1, Address::parse('192.0.2.1'))->wire());
    $this->get("/lease/classes?packet=$packet")->assertOk()->assertReads('is in it')->assertReads('callbox-9');
    $this->get('/lease/classes?packet=zz')->assertOk()->assertReads('Byte 0');
    $this->get('/lease/bytes?bytes=0304c0000201ff')->assertOk()->assertSee('192.0.2.1');
    $this->get("/lease/bytes?bytes=$packet")->assertOk()->assertSee('callbox-9');
    $this->get('/lease/bytes?code=3&bytes=c00002')->assertOk()->assertSee('byte');
    $this->get('/lease/bytes?code=300&bytes=00')->assertOk()->assertReads('an option code from 1 to 254');
    $this->get("/lease/scope/{$this->w->scope->id}")->assertOk()->assertSee('in force, from Organisation');
    $this->get('/lease/exchange?'.http_build_query(['scope' => $this->w->scope->id, 'vendor' => 'callbox-1', 'mac' => '02:00:5e:00:00:01']))
        ->assertOk()->assertReads('is in it')->assertReads('ship it');
    $this->get('/lease/exchange?'.http_build_query(['scope' => $this->w->scope->id, 'client' => '0xz']))->assertOk()
        ->assertReads('Nothing was sent');
});

it('tells the same of options whether what stands above is read ahead or one by one', function (): void {
    $w = $this->w;
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => 'Pier '.bin2hex(random_bytes(3))]);
    $w->did($site);
    $inner = $w->carve('192.0.2.192/26', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Inner']);
    $nets = [$w->carve('192.0.2.192/28', ['name' => 'One']), $w->carve('192.0.2.208/28', ['name' => 'Two']), $w->subnet];
    $six = $w->carve('2001:db8:7::/48', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Six']);
    $nets[] = $w->carve('2001:db8:7:1::/64', ['name' => 'Link']);
    $w->did(App\Acts\Plan\ChangePrefix::fromInput(['prefixes' => [$inner->id], 'site' => $site->id]));
    foreach (['organisation' => '', 'site' => $site->id, 'prefix' => $inner->id] as $layer => $id) {
        $w->did(App\Acts\Directory\SetSetting::fromInput(['layer' => $layer, 'object' => $id, 'key' => 'domain',
            'value' => "$layer.example"]));
    }
    $told = static fn (App\Queries\Inherited $by): array => array_map(static fn (App\Models\Prefix $p): array => $by->chain($p), $nets);
    $ahead = new App\Queries\Inherited;
    $ahead->ahead($nets);
    expect($told($ahead))->toBe($told(new App\Queries\Inherited))->and(count($told($ahead)[0]))->toBeGreaterThan(3);
    $n = 0;
    DB::listen(function () use (&$n): void {
        $n++;
    });
    $ahead->ahead($nets);
    expect($n)->toBe(2);
});

it('says where each option stands that an edit writes', function (): void {
    $w = $this->w;
    $of = fn (array $to, string $value = '192.0.2.9'): SetOption => SetOption::fromInput(['code' => '42', 'value' => $value] + $to);
    $said = function (SetOption $act) use ($w): array {
        $outcome = $w->acts()->rehearse($w->people['planner'], [$act]);
        $follows = new Follows($outcome, 0, new Called(...Follows::toCall($outcome, 0)));

        return array_map(
            fn ($w) => $follows->called->home($w->noun, $w->within),
            array_merge(...array_values($follows->groups)),
        );
    };
    $inScope = $of(['scope' => $w->scope->id]);
    expect($said($inScope))->toBe([($this->scope)()->line()])
        ->and($said($of(['layer' => 'organisation'])))->toBe(['the organisation'])
        ->and($said($of(['layer' => 'site', 'of' => $this->site->id])))->toBe([Site::query()->findOrFail($this->site->id)->line()])
        ->and($said($of(['layer' => 'server', 'of' => $w->servers['dh1']])))->toBe([($this->server)('dh1')->line()]);
    // One that stands already is turned: what it stands at is not among the columns that change.
    $w->did($inScope);
    expect($said($of(['scope' => $w->scope->id], '192.0.2.8')))->toBe([($this->scope)()->line()])
        ->and($said(SetOption::fromInput(['scope' => $w->scope->id, 'code' => '42', 'value' => ''])))->toBe([($this->scope)()->line()]);
});

it('tells no id of an object in a change', function (): void {
    $called = new Called([]);
    // A share is a group of records without a name of its own; an option says where it stands by its home.
    $without = ['share_id', 'layer_id', 'object_id', 'series_id', 'place_id', 'target_id', 'within_id', 'report_id'];
    $raw = [];
    foreach (App\Models\Nouns::words() as $noun) {
        $model = App\Models\Nouns::query($noun)?->getModel();
        foreach (Schema::getColumns($model?->getTable() ?? '') as ['name' => $column, 'type' => $type]) {
            $id = str_ends_with($column, '_id') && $type === 'char(26)' && ! in_array($column, $without, true);
            if ($id && $called->value($column, '01J00000000000000000000000') !== 'one that is gone') {
                $raw[] = "$noun.$column";
            }
        }
    }
    expect($raw)->toBe([]);
});
