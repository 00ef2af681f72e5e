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
