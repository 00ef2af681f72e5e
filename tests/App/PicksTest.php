<?php

declare(strict_types=1);

use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeVlan;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Understanding;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Site;
use App\Models\Vlan;
use App\Models\Zone;
use App\Queries\Picks;
use App\Queries\Reach;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->picks = new Picks(Reach::whole());
    $this->site = MakeSite::fromInput(['name' => 'Hallowmere '.bin2hex(random_bytes(3))]);
    $this->w->did($this->site);
    $this->domains = [];
    foreach (['North', 'South'] as $name) {
        $domain = MakeDomain::fromInput(['name' => "$name ".bin2hex(random_bytes(3))]);
        $this->w->did($domain);
        $this->w->did(MakeVlan::fromInput(['domain' => $domain->id, 'number' => '412', 'name' => strtolower("ticketing-$name")]));
        $this->domains[] = $domain->id;
    }
    $this->labels = fn (string $kind, string $text, string $only = ''): array => array_column(
        $this->picks->like($kind, $text, $only),
        'label',
    );
});

it('offers what begins with what is typed, by prefix, number or name', function (): void {
    expect(($this->labels)('prefix', '192.0.2.0/24'))->toContain('192.0.2.0/25 Ticketing')
        ->and(($this->labels)('prefix', 'Ticket'))->toContain('192.0.2.0/25 Ticketing')
        ->and(($this->labels)('VLAN', '412'))->toBe(['412 ticketing-north', '412 ticketing-south'])
        ->and(($this->labels)('VLAN', '412 ticketing-s'))->toBe(['412 ticketing-south'])
        ->and(($this->labels)('VLAN', 'ticketing-n'))->toBe(['412 ticketing-north'])
        ->and(($this->labels)('site', 'hallow'))->toBe([$this->site->name])
        ->and(($this->labels)('zone', strtoupper(substr($this->w->zone->title(), 0, 6))))->toContain($this->w->zone->title())
        ->and(($this->labels)('record', 'x'))->toBe([])
        ->and(($this->labels)('nothing', 'x'))->toBe([])
        ->and(count(($this->labels)('server', '')))->toBeLessThanOrEqual(12)
        ->and(($this->labels)('site', '%'))->toBe([]);
});

it('offers for a scope only subnets that have none', function (): void {
    expect(($this->labels)('prefix', '192.0.2.0/24', 'leasable'))->toBe([]);
    $this->w->carve('192.0.2.128/26', ['name' => 'Gates']);
    expect(($this->labels)('prefix', '192.0.2.0/24', 'leasable'))->toBe(['192.0.2.128/26 Gates']);
});

it('offers for names of hosts only zones that hosts have names in', function (): void {
    $all = ($this->labels)('zone', '');
    $forward = ($this->labels)('zone', '', 'forward');
    expect(array_filter($all, fn (string $z): bool => str_ends_with($z, '.arpa')))->not->toBe([])
        ->and($forward)->toContain($this->w->zone->title())
        ->and(array_filter($forward, fn (string $z): bool => str_ends_with($z, '.arpa')))->toBe([]);
});

it('understands a prefix, a number and a name in place of an id', function (
    string $class,
    string $field,
    string $text,
    string $model,
): void {
    $text = str_replace(['SITE', 'ZONE'], [$this->site->name, $this->w->zone->title()], $text);
    $read = Understanding::of($class, [$field => $text], null)[$field];
    expect($model::query()->find($read))->not->toBeNull();
})->with([
    'a site by name' => [CarvePrefix::class, 'site', 'SITE', Site::class],

    'a VLAN by number and name' => [CarvePrefix::class, 'vlan', '412 ticketing-north', Vlan::class],
    'a subnet by prefix' => [App\Acts\Lease\MakeScope::class, 'prefix', '192.0.2.0/25', Prefix::class],
    'a subnet with its mask' => [App\Acts\Lease\MakeScope::class, 'prefix', '192.0.2.0 255.255.255.128', Prefix::class],
    'a zone without its dot' => [App\Acts\Plan\PlaceHost::class, 'zone', 'ZONE', Zone::class],
]);

it('names the candidates of what may be several, and leaves what it does not know', function (): void {
    try {
        Understanding::of(CarvePrefix::class, ['vlan' => '412'], null);
        $this->fail('412 is the number of two VLANs');
    } catch (BadInput $e) {
        expect($e->notes[0]->code)->toBe('ambiguous')->and($e->notes[0]->message)->toContain('ticketing-north')
            ->toContain('ticketing-south');
    }
    expect(Understanding::of(CarvePrefix::class, ['vlan' => 'no such VLAN', 'site' => '-', 'name' => 'x'], null))
        ->toBe(['vlan' => 'no such VLAN', 'site' => '-', 'name' => 'x']);
});

it('carries a change by name through the page', function (): void {
    $this->actingAs($this->w->people['planner']);
    $this->post('/act/change-prefix', ['prefixes' => [$this->w->subnet->id], 'site' => $this->site->name, 'then' => 'commit']);
    expect($this->w->subnet->refresh()->site_id)->toBe($this->site->id);
    $this->post('/act/change-prefix', ['prefixes' => [$this->w->subnet->id], 'vlan' => '412', 'then' => 'preview'])
        ->assertReads('may be 412 ticketing-north');
    $this->getJson('/pick/site?q=Hallow')->assertOk()->assertJsonFragment(['label' => $this->site->name]);
});

it('offers a bound person nothing of others', function (): void {
    $bound = $this->w->bound();
    $picks = new Picks(Reach::of($bound));
    expect(array_column($picks->like('prefix', '192.0.2.0/24'), 'label'))->toBe(['192.0.2.128/26 Gates'])
        ->and($picks->like('site', ''))->toBe([])
        ->and($picks->like('server', ''))->toBe([])
        ->and($picks->meant(Person::class, $this->w->people['planner']->sign_in))->toBe([])
        ->and($picks->meant(Prefix::class, '192.0.2.0/25'))->toBe([]);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $this->site->id));
    expect($picks->meant(Site::class, $this->site->name))->toBe([]);
});
