<?php

declare(strict_types=1);

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\MakeScope;
use App\Models\Scope;
use App\Models\ScopeRange;
use Tests\World;

/*
 * Ranges of scopes as people write them: addresses, rules, shares; lists with spaces in their lines.
 */

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->make = function (string $ranges, array $more = []): array {
        $act = MakeScope::fromInput($more + [
            'prefix' => $this->w->subnet->id, 'ranges' => $ranges, 'servers' => [$this->w->servers['dh1']], 'dns' => '192.0.2.53',
        ]);
        $this->w->did($act);
        $scope = Scope::query()->with('ranges')->findOrFail($act->id);

        return $scope->ranges->sortBy('first')->map(fn (ScopeRange $r): string => (string) $r->range())->values()->all();
    };
});

it('understands ranges and rules, a line each', function (string $written, array $ranges): void {
    expect(($this->make)($written))->toBe($ranges);
})->with([
    'a range' => ['192.0.2.20-192.0.2.30', ['192.0.2.20-192.0.2.30']],
    'a short one' => ['192.0.2.20-30', ['192.0.2.20-192.0.2.30']],
    'with spaces' => ['192.0.2.20 - 192.0.2.30', ['192.0.2.20-192.0.2.30']],
    'several in a line' => ['192.0.2.20-25 192.0.2.40-45', ['192.0.2.20-192.0.2.25', '192.0.2.40-192.0.2.45']],
    'several by commas' => [" 192.0.2.20-25, 192.0.2.40-45;\r\n192.0.2.50 ", ['192.0.2.20-192.0.2.25', '192.0.2.40-192.0.2.45',
        '192.0.2.50']],
    'a rule' => ['all but the first 20', ['192.0.2.21-192.0.2.126']],
    'host parts' => ['.20 to .30', ['192.0.2.20-192.0.2.30']],
    'a part' => ['the upper half', ['192.0.2.64-192.0.2.126']],
    'around the gateway' => ['all', ['192.0.2.2-192.0.2.126']],
    'rule and range' => ["the last 10\n192.0.2.20-25", ['192.0.2.20-192.0.2.25', '192.0.2.117-192.0.2.126']],
]);

it('says which range it does not understand', function (): void {
    $code = fn (string $ranges): ?string => $this->w->refusal(MakeScope::class, [
        'prefix' => $this->w->subnet->id, 'ranges' => $ranges, 'servers' => [$this->w->servers['dh1']],
    ]);
    foreach (['half of it', '.200 to .20', 'all but the first 200', '192.0.2.20-x', 'the first 1', '-', '192.0.2.20-25 all'] as $wrong) {
        expect($code($wrong))->toBe('bad-range', $wrong);
    }
});

it('gives a rule to a server as its share, and keeps what an edit does not touch', function (): void {
    $name = fn (string $s): string => App\Models\Server::query()->findOrFail($this->w->servers[$s])->name;
    $both = ['servers' => [$this->w->servers['dh1'], $this->w->servers['dh2']]];
    expect(($this->make)("the lower half@{$name('dh1')}\nthe upper half@{$name('dh2')}", $both))
        ->toBe(['192.0.2.2-192.0.2.63', '192.0.2.64-192.0.2.126']);
    $scope = Scope::query()->where('prefix_id', $this->w->subnet->id)->firstOrFail();
    $before = ScopeRange::query()->where('scope_id', $scope->id)->orderBy('first')->pluck('id')->all();
    $this->w->did(ChangeScope::fromInput(['scope' => $scope->id, 'leaseTime' => '4h']));
    expect(ScopeRange::query()->where('scope_id', $scope->id)->orderBy('first')->pluck('id')->all())->toBe($before);
});

it('takes a lease without an end as it stands, and warns of one that is new', function (): void {
    ($this->make)('the last 10', ['leaseTime' => 'infinite']);
    $scope = Scope::query()->where('prefix_id', $this->w->subnet->id)->firstOrFail();
    $codes = fn (array $with): array => array_column(
        $this->w->acts()->rehearse(null, [ChangeScope::fromInput(['scope' => $scope->id] + $with)])->notes(),
        'code',
    );
    expect($scope->leaseTyped())->toBe('infinite')
        ->and($codes(['name' => 'Other', 'leaseTime' => 'infinite']))->not->toContain('infinite-lease')
        ->and($codes(['leaseTime' => '1d2h']))->not->toContain('infinite-lease');
    $this->w->did(ChangeScope::fromInput(['scope' => $scope->id, 'leaseTime' => '1d2h']));
    expect($scope->refresh()->leaseTyped())->toBe('1d2h')->and($codes(['leaseTime' => 'infinite']))->toContain('infinite-lease');
});

it('reads pools for routers as they are written in the form', function (): void {
    $w = $this->w;
    $w->carve('2001:db8:40::/44', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Six']);
    $link = $w->carve('2001:db8:40:1::/64', ['name' => 'Link', 'stage' => 'live']);
    $made = MakeScope::fromInput(['prefix' => $link->id, 'ranges' => '2001:db8:40:1::1000-2001:db8:40:1::1fff',
        'delegations' => "2001:db8:40:8000::/52 as /56\r\n", 'servers' => [$w->servers['dh1']]]);
    $w->did($made);
    expect(Scope::query()->findOrFail($made->id)->delegations)->toHaveCount(1)
        ->and($w->refusal(MakeScope::class, ['prefix' => $link->id, 'ranges' => 'all but the first 20', 'servers' => [$w->servers['dh1']]]))
        ->not->toBeNull();
});

it('parts a list by lines, commas and semicolons, and by nothing else', function (): void {
    $field = new Field(Kind::Lines, 'X', most: 40);
    expect($field->read(" a b ,c;\n\n d  e\r\nf "))->toBe(['a b', 'c', 'd  e', 'f'])->and($field->read(['x y', ' z']))->toBe(['x y', 'z'])
        ->and($field->read(''))->toBe([]);
});

it('proposes a rule that leaves out what has an address', function (): void {
    $rule = fn (App\Models\Prefix $of): string => App\Queries\ScopeList::ruleFor($of);
    $subnet = $this->w->subnet;
    expect($rule($subnet))->toBe('all but the first 20');
    foreach (['192.0.2.9' => 20, '192.0.2.21' => 30, '192.0.2.31' => 40] as $address => $left) {
        $this->w->did(App\Acts\Plan\PlaceHost::fromInput(['prefix' => $subnet->id, 'name' => 'h'.strtr($address, '.', '-'),
            'address' => $address]));
        expect($rule($subnet))->toBe("all but the first $left");
    }
    $this->actingAs($this->w->people['operator'])->get("/lease?make=$subnet->id")->assertOk()->assertSee('all but the first 40');
    expect(($this->make)($rule($subnet)))->toBe(['192.0.2.41-192.0.2.126']);
    $this->w->did(App\Acts\Plan\PlaceHost::fromInput(['prefix' => $subnet->id, 'name' => 'last', 'address' => '192.0.2.120']));
    expect($rule($subnet))->toBe('')->and($rule($this->w->carve('192.0.2.240/28', ['name' => 'Small'])))->toBe('all but the first 3');
});

it('copies a scope to other subnets: ranges at the same places, options, shares and who names its leases', function (): void {
    $w = $this->w;
    $name = fn (string $s): string => App\Models\Server::query()->findOrFail($w->servers[$s])->name;
    ($this->make)("192.0.2.20-192.0.2.40@{$name('dh1')}\n192.0.2.41-192.0.2.50@{$name('dh2')}", [
        'servers' => [$w->servers['dh1'], $w->servers['dh2']], 'exclusions' => '192.0.2.30', 'leaseTime' => '3h',
        'domain' => 'quay.example',
    ]);
    $scope = Scope::query()->where('prefix_id', $w->subnet->id)->firstOrFail();
    $w->did(App\Acts\Lease\SetOption::fromInput(['scope' => $scope->id, 'code' => '42', 'value' => '192.0.2.5']));
    $w->did(new App\Acts\Lease\AddReservation($scope->id, '192.0.2.60', '00:00:5e:00:53:01'));
    $top = $w->carve('198.51.100.0/24', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Other']);
    $one = $w->carve('198.51.100.0/25', ['name' => 'One', 'stage' => 'live']);
    $two = $w->carve('198.51.100.128/26', ['name' => 'Two', 'stage' => 'live']);
    $w->did(new App\Acts\Plan\ChangePrefix([$one->id], gateway: '198.51.100.1'));
    $this->actingAs($w->people['operator'])->get("/lease/scope/$scope->id")->assertOk()->assertReads('Copy the scope');
    // As it is typed in the form: prefixes, a line each.
    $this->post('/act/copy-scope', ['scope' => $scope->id, 'prefixes' => "198.51.100.0/25\r\n198.51.100.128/26", 'stage' => 'live',
        'then' => 'commit', 'reason' => 'wanted'])->assertRedirect('/lease');
    $made = fn (App\Models\Prefix $on): Scope => Scope::query()->with(['ranges', 'exclusions', 'optionValues', 'placements'])
        ->where('prefix_id', $on->id)->firstOrFail();
    $ranges = fn (Scope $s): array => $s->ranges->sortBy('first')
        ->map(fn (ScopeRange $r): string => "{$r->range()}@$r->server_id")->values()->all();
    $options = fn (Scope $s): array => $s->optionValues->sortBy('code')->map(fn ($o): string => "$o->code ".implode(',',
        $o->values))->values()->all();
    expect($ranges($made($one)))->toBe([
        "198.51.100.20-198.51.100.40@{$w->servers['dh1']}", "198.51.100.41-198.51.100.50@{$w->servers['dh2']}",
    ])->and((string) $made($one)->exclusions[0]->range())->toBe('198.51.100.30')->and($made($one)->lease_time)->toBe(10800)
        ->and($options($made($one)))->toContain('3 198.51.100.1')->toContain('42 192.0.2.5')->toContain('15 quay.example')
        ->and($made($one)->placements)->toHaveCount(2)->and($made($one)->stage->value)->toBe('live')
        ->and(App\Models\Reservation::query()->where('scope_id', $made($one)->id)->exists())->toBeFalse()
        ->and($ranges($made($two))[0])->toBe("198.51.100.148-198.51.100.168@{$w->servers['dh1']}")
        // Without a gateway there is no router to send, and that is said.
        ->and($options($made($two)))->not->toContain('3 192.0.2.1');
    $small = $w->carve('198.51.100.192/27', ['name' => 'Small', 'stage' => 'live']);
    $six = $w->carve('2001:db8:9::/64', ['name' => 'Six', 'stage' => 'live']);
    $code = fn (array $to): ?string => $w->refusal(App\Acts\Lease\CopyScope::class, ['scope' => $scope->id, 'prefixes' => $to]);
    expect($code([$small->id]))->toBe('range-does-not-fit')->and($code([$six->id]))->toBe('other-family')
        ->and($code([$one->id]))->toBe('scope-twice')->and($code([$top->id]))->toBe('no-subnet')->and($code([]))->not->toBeNull()
        ->and($w->refusal(App\Acts\Lease\CopyScope::class, ['scope' => $scope->id, 'prefixes' => [$small->id]], $w->people['reader']))
        ->toBe('not-allowed');
});

it('keeps in a copy what is kept for a class, and how long a server holds its offers back', function (): void {
    $w = $this->w;
    ($this->make)("192.0.2.20-30\n192.0.2.40-50");
    $scope = Scope::query()->where('prefix_id', $w->subnet->id)->firstOrFail();
    $class = App\Acts\Lease\MakeClass::fromInput(['name' => 'Radios '.bin2hex(random_bytes(3)), 'holds' => 'all',
        'fields' => ['vendor-class'], 'comparisons' => ['starts'], 'values' => ['radio']]);
    $w->did($class);
    $range = ScopeRange::query()->where('scope_id', $scope->id)->orderBy('first')->firstOrFail();
    $w->did(App\Acts\Lease\KeepRange::fromInput(['scope' => $scope->id, 'range' => $range->id, 'for' => 'only', 'class' => $class->id]));
    Illuminate\Support\Facades\DB::table('scope_servers')->where('scope_id', $scope->id)->update(['delay_ms' => 700]);
    $w->carve('198.51.100.0/24', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Other']);
    $one = $w->carve('198.51.100.0/25', ['name' => 'One', 'stage' => 'live']);
    $w->did(App\Acts\Lease\CopyScope::fromInput(['scope' => $scope->id, 'prefixes' => [$one->id]]));
    $copy = Scope::query()->with(['ranges', 'placements'])->where('prefix_id', $one->id)->firstOrFail();
    $kept = $copy->ranges->sortBy('first')->map(static fn (ScopeRange $r): array => [(string) $r->range(), $r->class_id,
        $r->class_only])->values();
    expect($kept->all())->toBe([['198.51.100.20-198.51.100.30', $class->id, true], ['198.51.100.40-198.51.100.50', null, null]])
        ->and($copy->placements[0]->delay_ms)->toBe(700);
});

it('understands a scope by its name in the exchange, as a page without script sends it', function (): void {
    ($this->make)('the last 10', ['name' => 'Voice, Pier 4']);
    $this->actingAs($this->w->people['operator'])->get('/lease/exchange?scope='.urlencode('Voice, Pier 4'))->assertOk()
        ->assertReads('Who answers')->assertSee('value="Voice, Pier 4"', false);
    $this->get('/lease/exchange?scope=nowhere')->assertOk()->assertReads('is no scope');
});
