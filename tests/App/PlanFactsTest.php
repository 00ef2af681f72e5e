<?php

declare(strict_types=1);

use App\Acts\Directory\MakeOwnField;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\SetSetting;
use App\Acts\Lease\MakeScope;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\RemovePrefix;
use App\Links\ScopeForm;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\Inherited;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** A site inside a site inside an area, and the ids by name. */
function sites(World $w): array
{
    $ids = [];
    foreach (['Area' => '', 'Town' => 'Area', 'Hall' => 'Town'] as $name => $in) {
        $act = MakeSite::fromInput(['name' => "$name ".bin2hex(random_bytes(3)), 'parent' => $in === '' ? '' : $ids[$in]]);
        $w->did($act);
        $ids[$name] = $act->id;
    }

    return $ids;
}

function values(Prefix $prefix, string $key): array
{
    $found = (new Inherited)->of($prefix->refresh())[$key];

    return [$found['value'], $found['origin']['layer'] ?? null, count($found['hides'])];
}

it('hands settings down from the organisation to sites to prefixes, the nearest wins', function (): void {
    $w = World::make(false);
    $s = sites($w);
    $w->did(new ChangePrefix([$w->subnet->id], site: $s['Hall']));
    expect(values($w->subnet, 'resolvers'))->toBe([[], null, 0]);
    $w->did(new SetSetting('organisation', 'resolvers', '', '192.0.2.53'));
    $w->did(new SetSetting('site', 'resolvers', $s['Area'], '192.0.2.54, 2001:db8::54'));
    expect(values($w->subnet, 'resolvers'))->toBe([['192.0.2.54', '2001:db8::54'], 'site', 1]);
    $w->did(new SetSetting('site', 'resolvers', $s['Hall'], '192.0.2.55'));
    $w->did(new SetSetting('prefix', 'resolvers', $w->top->id, '192.0.2.56'));
    expect(values($w->subnet, 'resolvers'))->toBe([['192.0.2.56'], 'prefix', 3]);
    $w->did(new SetSetting('prefix', 'resolvers', $w->subnet->id, '192.0.2.57'));
    expect(values($w->subnet, 'resolvers'))->toBe([['192.0.2.57'], 'prefix', 4]);
    $w->did(new SetSetting('prefix', 'resolvers', $w->subnet->id, ''));
    $w->did(new SetSetting('prefix', 'resolvers', $w->top->id, ''));
    expect(values($w->subnet, 'resolvers'))->toBe([['192.0.2.55'], 'site', 2]);
    $w->did(new SetSetting('organisation', 'resolvers', '', ''));
});

it('proposes the zone of the domain that a subnet inherits, and says when a host gets no name', function (): void {
    $w = World::make(false);
    $page = fn ($who) => test()->actingAs($who)->get("/plan/prefix/{$w->subnet->id}")->assertOk();
    $page($w->people['planner'])->assertDontSee('value="'.$w->zone->id.'"', false);
    $w->did(new SetSetting('prefix', 'domain', $w->top->id, rtrim($w->zone->name, '.')));
    $page($w->people['planner'])->assertSee('value="'.$w->zone->id.'"', false);
    // Where nobody may see the zone it is not proposed.
    $quill = $w->bound();
    $w->did(new ChangePrefix([$w->subnet->id], tenant: $quill->tenant_id));
    $page($quill)->assertDontSee('value="'.$w->zone->id.'"', false);
    $later = fn (array $more): array => array_column($w->acts()->rehearse($w->people['operator'], [
        PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => 'lamp'] + $more),
    ])->ledgers[0]->later, 0);
    expect($later([]))->toContain('It gets no name in DNS: no zone is chosen')
        ->and($later(['zone' => $w->zone->id]))->not->toContain('It gets no name in DNS: no zone is chosen');
});

it('takes the site of the nearest prefix above that names one', function (): void {
    $w = World::make(false);
    $s = sites($w);
    $w->did(new ChangePrefix([$w->top->id], site: $s['Town']));
    $w->did(new SetSetting('site', 'domain', $s['Area'], 'area.example'));
    expect(values($w->subnet, 'domain'))->toBe([['area.example'], 'site', 0]);
});

it('tells in one pass of many what it tells of each', function (): void {
    $w = World::make(false);
    $s = sites($w);
    mt_srand(7);
    $w->did(new ChangePrefix([$w->top->id], site: $s['Hall']));
    foreach (['192.0.2.128/25', '192.0.2.128/26', '192.0.2.160/27'] as $held) {
        $w->carve($held, ['kind' => 'supernet', 'name' => $held]);
    }
    foreach (['192.0.2.160/28', '192.0.2.176/29', '192.0.2.192/27'] as $net) {
        $w->carve($net, ['name' => $net]);
    }
    $rows = Prefix::query()->where('space_id', $w->space->id)
        ->orderBy('family')->orderBy('first')->orderBy('length')->orderByDesc('groups');
    foreach ($rows->get() as $row) {
        if (mt_rand(0, 1) === 1) {
            $w->did(new SetSetting('prefix', 'domain', $row->id, 'd'.mt_rand(0, 3).'.example'));
        }
    }
    $w->did(new SetSetting('site', 'resolvers', $s['Area'], '192.0.2.53'));
    // Beginning at the first, and under a supernet: with itself and without.
    $above = Prefix::query()->where('space_id', $w->space->id)->where('length', 25)->where('groups', true)->firstOrFail();
    $below = $rows->clone()->where('first', '>=', $above->first->bytes)->get();
    $passes = [[$rows->get(), null], [$below, $above], [$below->where('id', '!=', $above->id), $above]];
    foreach ($passes as [$many, $top]) {
        $told = 0;
        foreach ((new Inherited)->each($many, $top) as $row => $values) {
            expect($values)->toBe((new Inherited)->of($row));
            $told++;
        }
        expect($told)->toBe($many->count())->toBeGreaterThan(3);
    }
});

it('lists every subnet that a change reaches, and those that keep their own', function (): void {
    $w = World::make(false);
    $s = sites($w);
    $other = $w->carve('192.0.2.128/26', ['name' => 'Gates', 'site' => $s['Hall']]);
    $w->did(new ChangePrefix([$w->subnet->id], site: $s['Town']));
    $w->did(new SetSetting('prefix', 'search', $other->id, 'own.example'));
    $outcome = $w->did(new SetSetting('site', 'search', $s['Area'], 'area.example'));
    expect($outcome->made('reached'))->toBe([$w->subnet->id])->and($outcome->made('keep'))->toBe([$other->id])
        ->and(implode(' ', array_column($outcome->ledgers[0]->later, 0)))->toContain('1 subnet takes')
        ->toContain('1 keeps its own')->toContain('Gates');
});

it('refuses a setting that cannot be', function (string $key, string $value, string $code): void {
    $w = World::make(false);
    expect($w->acts()->rehearse($w->people['planner'], [new SetSetting('organisation', $key, '', $value)])->block()?->code)->toBe($code);
})->with([
    ['resolvers', '192.0.2.300', 'bad-value'], ['domain', 'a..b', 'bad-value'], ['domain', 'a.example b.example', 'one-domain'],
    ['gateway', 'middle', 'bad-habit'], ['colour', 'red', 'no-setting'], ['search', '', 'nothing-set'],
]);

it('brings inherited values into the scopes that have none of their own', function (): void {
    $w = World::make(false);
    $s = sites($w);
    $w->did(new ChangePrefix([$w->subnet->id], site: $s['Hall']));
    $make = MakeScope::fromInput([
        'prefix' => $w->subnet->id, 'ranges' => ['192.0.2.60-192.0.2.100'], 'servers' => [$w->servers['dh1']],
        'domain' => 'own.example',
    ]);
    $w->did($make);
    $w->did(new SetSetting('site', 'resolvers', $s['Area'], '192.0.2.53 2001:db8::53'));
    $w->did(new SetSetting('site', 'domain', $s['Area'], 'area.example'));
    $payloads = ScopeForm::payloads(
        Scope::query()->findOrFail($make->id),
        Server::query()->findOrFail($w->servers['dh1']),
    );
    expect(bin2hex($payloads[6]))->toBe('c0000235')->and($payloads[15])->toBe('own.example')->and(array_keys($payloads))->toBe([3, 6, 15]);
});

it('says when a gateway differs from the habit of the place', function (): void {
    $w = World::make(false);
    $w->did(new SetSetting('prefix', 'gateway', $w->top->id, 'last'));
    $outcome = $w->acts()
        ->rehearse(
            $w->people['planner'],
            [CarvePrefix::fromInput(['space' => $w->space->id, 'prefix' => '192.0.2.192/26', 'gateway' => '192.0.2.193'])],
        );
    expect(array_column($outcome->notes(), 'code'))->toContain('gateway-habit')
        ->and((string) (new Inherited)->gatewayOf($w->subnet))->toBe('192.0.2.126');
});

it('keeps tags, own fields and the origin, and finds by tag', function (): void {
    $w = World::make(false);
    $field = MakeOwnField::fromInput(['name' => 'Cabinet '.bin2hex(random_bytes(2)), 'kind' => 'choice', 'choices' => 'A1, B2']);
    $w->did($field);
    $w->did(new ChangePrefix([$w->top->id, $w->subnet->id], tags: 'Lab, quay', own: [$field->id => 'B2']));
    $w->did(new ChangePrefix([$w->subnet->id], tags: '+extra, -quay'));
    expect($w->subnet->refresh()->tags)->toBe(['extra', 'lab'])->and($w->subnet->own)->toBe([$field->id => 'B2'])
        ->and(DB::table('prefix_tags')->where('prefix_id', $w->subnet->id)->orderBy('tag')->pluck('tag')->all())
        ->toBe(['extra', 'lab']);
    $w->did(new ChangePrefix([$w->top->id], origin: 'A registry', originOn: '2019-04-02', originHandle: 'QUAY-1'));
    expect($w->top->refresh()->origin_on?->format('Y-m-d'))->toBe('2019-04-02');
    $page = $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}?filter=tag:extra")->assertOk();
    $page->assertSee('Ticketing')->assertSee('QUAY-1');
    $this->get("/plan/prefix/{$w->top->id}?filter=tag:nothing")->assertSee('Nothing matches');
    expect($w->acts()->rehearse(null, [new ChangePrefix([$w->subnet->id], own: [$field->id => 'C3'])])->block()?->code)->toBe('bad-field')
        ->and($w->acts()->rehearse(null, [new ChangePrefix([$w->top->id], originOn: '2019-02-31')])->block()?->code)->toBe('bad-date');
    $w->did(new ChangePrefix([$w->subnet->id], tags: '-', own: [$field->id => '-']));
    expect($w->subnet->refresh()->tags)->toBeNull()->and($w->subnet->own)->toBeNull();
});

it('makes a prefix another kind where what is inside allows it', function (): void {
    $w = World::make(false);
    $w->did(new ChangePrefix([$w->subnet->id], kind: 'supernet'));
    expect($w->subnet->refresh()->groups)->toBeTrue()->and($w->subnet->gateway)->toBeNull();
    $inner = $w->carve('192.0.2.0/27');
    expect($inner->parent_id)->toBe($w->subnet->id)
        ->and($w->acts()->rehearse(null, [new ChangePrefix([$w->subnet->id], kind: 'pool')])->block()?->code)
        ->toBe('has-children');
    $w->did(new RemovePrefix($inner->id));
    $w->did(new ChangePrefix([$w->subnet->id], kind: 'subnet'));
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']));
    expect(DB::table('open_blocks')->where('parent_id', $w->subnet->id)->count())->toBe(0)
        ->and($w->acts()->rehearse(null, [new ChangePrefix([$w->subnet->id], kind: 'supernet')])->block()?->code)
        ->toBe('has-hosts');
});

it('gives back a supernet with all that is inside, in order, or says what is in the way', function (): void {
    $w = World::make();
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'ptr' => '1',
            'reserve' => '1',
        ]),
    );
    expect($w->acts()->rehearse(null, [new RemovePrefix($w->subnet->id)])->block()?->code)->toBe('has-hosts');
    $records = Record::query()->count();
    $outcome = $w->did(new RemovePrefix($w->top->id, clean: true));
    expect(Prefix::query()->where('space_id', $w->space->id)->count())->toBe(0)
        ->and(Host::query()->where('space_id', $w->space->id)->count())->toBe(0)
        ->and(Scope::query()->whereKey($w->scope->id)->exists())->toBeFalse()
        ->and(Record::query()->count())->toBe($records - 2)->and(array_column($outcome->notes(), 'code'))->toContain('all-inside');
});

it('keeps what stays the same for the next one', function (): void {
    $w = World::make(false);
    $form = [
        '_form' => 'carve', 'space' => $w->space->id, 'in' => $w->top->id, 'length' => '27', 'fit' => 'best', 'name' => 'One',
        'role' => 'voice', 'tags' => 'lab', 'another' => '1', 'then' => 'commit',
    ];
    $this->actingAs($w->people['planner'])->from("/plan/prefix/{$w->top->id}")->post('/act/carve-prefix', $form)
        ->assertRedirect("/plan/prefix/{$w->top->id}")->assertSessionHasInput('role', 'voice')
        ->assertSessionHasInput('tags', 'lab')->assertSessionMissing('_old_input.name');
});

it('changes every field of a selection over HTTP', function (): void {
    $w = World::make(false);
    $two = $w->carve('192.0.2.128/26', ['name' => 'Gates']);
    $this->actingAs($w->people['planner'])
        ->post(
            '/act/change-prefix',
            [
                'prefixes' => [$w->subnet->id, $two->id], 'stage' => 'retiring', 'role' => 'old', 'tags' => '+going',
                'gateway' => 'last', 'then' => 'commit',
            ],
        )
        ->assertRedirect();
    expect(
        Prefix::query()->whereKey([$w->subnet->id, $two->id])->orderBy('first')->get()
            ->map(fn (Prefix $p): array => [$p->stage->value, $p->role, $p->tags, (string) $p->gateway])->all(),
    )->toBe([['retiring', 'old', ['going'], '192.0.2.126'], ['retiring', 'old', ['going'], '192.0.2.190']]);
    $this->actingAs($w->people['reader'])->post('/act/change-prefix', ['prefixes' => [$two->id], 'stage' => 'live', 'then' => 'commit']);
    expect($two->refresh()->stage->value)->toBe('retiring');
});

it('shows settings and sites as pages', function (): void {
    $w = World::make(false);
    $s = sites($w);
    $w->did(new ChangePrefix([$w->subnet->id], site: $s['Hall']));
    $w->did(new SetSetting('site', 'domain', $s['Area'], 'area.example'));
    $this->actingAs($w->people['planner']);
    $this->get("/directory/site/{$s['Hall']}")->assertOk()->assertSee('area.example')->assertSee('Ticketing');
    $this->get('/directory/settings')->assertOk()->assertSee('Own fields');
    $this->get("/plan/prefix/{$w->subnet->id}")->assertOk()->assertSee('Settings that flow down');
    $this->get("/plan/prefix/{$w->subnet->id}/panel/flow")->assertOk()->assertSee('area.example');
    $this->get("/plan/prefix/{$w->subnet->id}?panel=flow")->assertOk()->assertSee('area.example');
    foreach (
        [
            'change-form' => 'Stage', 'reshape' => 'Split into', 'several' => 'How many', 'hold' => 'From, to',
            'bulk-form' => 'A dash empties',
        ] as $panel => $says
    ) {
        $this->get("/plan/prefix/{$w->subnet->id}/panel/$panel")->assertOk()
            ->assertSee($panel === 'bulk-form' ? 'a dash empties it' : $says);
    }
    $this->get("/plan/prefix/{$w->subnet->id}/panel/secrets")->assertNotFound();
    $this->actingAs($w->people['reader'])->get("/plan/prefix/{$w->subnet->id}/panel/change-form")->assertForbidden();
});
