<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Lease\DefineOption;
use App\Acts\Lease\RemoveOptionDefinition;
use App\Acts\Lease\SetOption;
use App\Links\Links;
use App\Links\ScopeForm;
use App\Live\Exchange;
use App\Models\OptionDefinition;
use App\Models\OptionValue;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Queries\OptionLayers;
use App\Shipping\ScopeDrift;
use App\Shipping\Shipping;
use App\View\Sounding;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\World;

/* Options that no standard defines: a code, a name and a shape of one's own. */

beforeEach(function (): void {
    $this->w = World::make();
    $this->define = fn (array $more = []): DefineOption => DefineOption::fromInput(
        $more + ['code' => '224', 'name' => 'ticket servers', 'shape' => 'addresses', 'description' => 'kiosks'],
    );
    $this->set = fn (string $value, array $more = []): SetOption => SetOption::fromInput(
        $more + ['scope' => $this->w->scope->id, 'code' => '224', 'value' => $value],
    );
    $this->value = fn (): ?OptionValue => OptionValue::query()->where('code', 224)->first();
    $this->operator = $this->w->people['operator'];
});

it('types and reads what it defines, on the page and in the scope', function (): void {
    $this->actingAs($this->operator);
    $this->get('/lease/options')->assertOk()->assertSee('None is defined')->assertSee('Define an option');
    $this->w->did(($this->define)(), $this->operator);
    $this->get('/lease/options')->assertOk()->assertReads('224 ticket servers addresses kiosks')->assertSee('<option value="224"', false);
    expect($this->w->refusal(SetOption::class, ['scope' => $this->w->scope->id, 'code' => '224', 'value' => '192.0.2.300']))
        ->toBe('bad-option');
    $this->w->did(($this->set)('192.0.2.21 192.0.2.22'), $this->operator);
    expect(($this->value)()->values)->toBe(['0xc0000215c0000216'])->and(($this->value)()->line())->toContain('ticket servers');
    $stack = app(OptionLayers::class)->of(Scope::query()->findOrFail($this->w->scope->id));
    $row = collect(Sounding::of($stack, App\Queries\OwnOptions::now()))->firstWhere('code', 224);
    expect($row->name)->toBe('ticket servers')->and($row->value->words())->toBe('192.0.2.21, 192.0.2.22')->and($row->standard)
        ->toBe('defined here');
    $this->get("/lease/scope/{$this->w->scope->id}")->assertOk()->assertReads('224 ticket servers')->assertReads('192.0.2.21, 192.0.2.22');
    $this->w->did(SetOption::fromInput(['layer' => 'organisation', 'code' => '224', 'value' => '192.0.2.9']), $this->operator);
    $this->get('/lease/options')->assertReads('192.0.2.9');
});

it('tells programs of it, within what they may see', function (): void {
    $this->w->did(($this->define)());
    $token = fn ($who): string => (function () use ($who): string {
        $made = $this->w->acts()->commit($who, [App\Acts\Directory\MakeToken::fromInput(['name' => 'script '.bin2hex(random_bytes(2))])]);

        return (string) $made->made('once');
    })();
    $get = fn ($who, string $filter = '') => $this->withToken($token($who))->getJson("/api/v1/option-definitions?$filter");
    $get($this->operator, 'code=224&family=4')->assertOk()->assertJsonPath('items.0.name', 'ticket servers')
        ->assertJsonPath('items.0.shape', 'addresses');
    expect($get($this->operator, 'code=225')->assertOk()->json('items'))->toBe([]);
    $this->app['auth']->forgetGuards();
    expect($get($this->w->bound())->json('items') ?? [])->toBe([]);
});

it('brings what was typed to clients, and reads what a server says', function (): void {
    config(['harbor.patience' => 1.0]);
    $s = new Standins(['dh1' => 'dhcp']);
    $own = $s->settings['dh1'];
    $dh1 = $this->w->servers['dh1'];
    $this->w->did(new ChangeServer($dh1, "127.0.0.1:{$own['port']}", "127.0.0.1:{$own['control']}", 'secret'));
    $server = fn (): Server => Server::query()->findOrFail($dh1);
    $this->w->did(($this->define)());
    $this->w->did(($this->set)('192.0.2.21'));
    expect(app(Shipping::class)->ship(null, $server())['state'])->toBe(ShipmentState::Done);
    $client = new ClientSketch(MacAddress::parse('02:00:5e:00:00:01'), asked: [3, 224]);
    $exchange = Exchange::run($this->w->scope, $server(), $client);
    expect(bin2hex($exchange->steps[3]['packet']->options[224]))->toBe('c0000215');
    $scope = fn (): Scope => Scope::query()->with(['prefix', 'placements', 'ranges', 'exclusions', 'reservations.optionValues',
        'optionValues'])
        ->findOrFail($this->w->scope->id);
    expect(ScopeForm::lines(ScopeForm::of($scope(), $server())))->toContain('option 224 ticket servers: 192.0.2.21');
    // Somebody changes it there: it is shown in its words, and taken in as the same bytes.
    $form = ScopeForm::of($scope(), $server());
    $form['options'][224] = 'c0000263';
    $s->tell('dh1', 'put', ['scope' => $form]);
    $drift = new ScopeDrift($scope(), $server(), Links::to($server())->running($this->w->scope->id));
    expect($drift->lines()['option:224']->there)->toBe('192.0.2.99');
    foreach ($drift->acts(['option:224']) as $act) {
        $this->w->did($act);
    }
    expect(($this->value)()->values)->toBe(['0xc0000263']);
});

it('reads values otherwise by another definition, and never sends them otherwise', function (): void {
    $this->w->did(($this->define)());
    $this->w->did(($this->set)('192.0.2.21'));
    $bytes = ($this->value)()->payload();
    $again = $this->w->acts()->rehearse($this->operator, [($this->define)(['shape' => 'text', 'name' => 'a word'])]);
    expect(implode(' ', array_column($again->ledgers[0]->later, 0)))->toContain('1 value of it is read so from now on');
    $this->w->did(($this->define)(['shape' => 'uint32', 'name' => 'a number']));
    expect(OptionDefinition::query()->count())->toBe(1)->and(($this->value)()->payload())->toBe($bytes)
        ->and(app(OptionLayers::class)->of($this->w->scope)->nearest()[224]->words())->toBe('3221226005');
    $definition = OptionDefinition::query()->sole();
    $gone = $this->w->acts()->rehearse($this->operator, [RemoveOptionDefinition::fromInput(['definition' => $definition->id])]);
    expect(array_column($gone->notes(), 'code'))->toContain('values-as-bytes');
    $this->w->did(RemoveOptionDefinition::fromInput(['definition' => $definition->id]));
    expect(($this->value)()->payload())->toBe($bytes)->and(app(OptionLayers::class)->of($this->w->scope)->nearest()[224]->words())
        ->toBe('0xc0000215');
});

it('lets be chosen what there is, and no more', function (): void {
    $choices = fn (string $act, string $field): array => App\Acts\Engine\Inputs::of($act)[$field]->choices;
    $speaks = array_keys(App\Models\Speaks::choices());
    expect($choices(DefineOption::class, 'shape'))->toBe(array_keys(HarborPost\Core\Dhcp\Option\OwnShape::choices()))
        ->and($choices(App\Acts\Name\MakeKey::class, 'algorithm'))
        ->toBe(array_column(HarborPost\Core\Dns\Wire\TsigAlgorithm::cases(), 'value'))
        ->and($choices(App\Acts\Directory\MakeServer::class, 'speaks'))->toBe($speaks)
        ->and($choices(ChangeServer::class, 'speaks'))->toBe($speaks);
});

it('defines no code that a standard has, and warns of one that it may get', function (): void {
    $w = $this->w;
    $with = fn (array $more): array => $more + ['code' => '224', 'name' => 'x', 'shape' => 'text'];
    expect($w->refusal(DefineOption::class, $with(['code' => '3'])))->toBe('option-is-registered')
        ->and($w->refusal(DefineOption::class, $with(['code' => '54'])))->toBe('option-is-registered')
        ->and($w->refusal(DefineOption::class, $with(['code' => '300'])))->toBe('bad-option')
        ->and($w->refusal(DefineOption::class, $with(['code' => '23', 'family' => '6'])))->toBe('option-is-registered')
        ->and($w->refusal(DefineOption::class, $with(['name' => ' '])))->toBe('no-name')
        ->and($w->refusal(DefineOption::class, $with(['shape' => '']), $this->operator))->toBe('bad-input')
        ->and($w->refusal(DefineOption::class, $with([]), $w->people['reader']))->toBe('not-allowed')
        ->and($w->refusal(DefineOption::class, $with(['code' => '65001', 'family' => '6'])))->toBeNull();
    $low = $w->acts()->rehearse($this->operator, [DefineOption::fromInput($with(['code' => '180']))]);
    expect(array_column($low->notes(), 'code'))->toContain('code-may-be-given');
});
