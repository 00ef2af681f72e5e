<?php

declare(strict_types=1);

use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\MakeToken;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Domain\Watch\RequestTimes;
use App\Models\Person;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->ask = function (string $path, ?Person $person = null) {
        $this->app['auth']->forgetGuards();
        $token = $this->w->acts()->commit($person ?? $this->w->people['reader'], [MakeToken::fromInput(['name' => 'rdap'])])->made('once');

        return $this->get($path, ['Authorization' => "Bearer $token"]);
    };
});

it('answers whose an address is, with the smallest network that holds it (RFC 9083 §5.4)', function (): void {
    $tenant = MakeTenant::fromInput(['name' => 'Harbour Authority '.bin2hex(random_bytes(3))]);
    $this->w->did($tenant);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: 'ticket kiosks', tenant: $tenant->id));
    $got = ($this->ask)('/rdap/ip/192.0.2.77')->assertOk()->assertHeader('Content-Type', 'application/rdap+json');
    expect($got->json())->toMatchArray([
        'objectClassName' => 'ip network', 'startAddress' => '192.0.2.0', 'endAddress' => '192.0.2.127', 'ipVersion' => 'v4',
        'name' => 'Ticketing',
        'status' => ['active'], 'parentHandle' => $this->w->top->id,
    ])->and($got->json('rdapConformance'))->toContain('rdap_level_0')
        ->and($got->json('cidr0_cidrs.0'))->toBe(['v4prefix' => '192.0.2.0', 'length' => 25])
        ->and($got->json('remarks.0.description.0'))->toBe('ticket kiosks')
        ->and($got->json('entities.0.vcardArray.1.1.3'))->toBe($tenant->name)
        ->and(array_column($got->json('events'), 'eventAction'))->toBe(['registration', 'last changed'])
        ->and($got->json('links.0.rel'))->toBe('self');
    ($this->ask)('/rdap/ip/192.0.2.0/24')->assertOk()->assertJsonPath('handle', $this->w->top->id);
    ($this->ask)('/rdap/ip/203.0.113.1')->assertNotFound()->assertJsonPath('errorCode', 404);
    ($this->ask)('/rdap/ip/quay')->assertStatus(400)->assertJsonPath('errorCode', 400);
    ($this->ask)("/rdap/entity/$tenant->id")->assertOk()->assertJsonPath('objectClassName', 'entity');
    ($this->ask)('/rdap/entity/nobody')->assertNotFound();
});

it('answers domains and name servers, found and searched', function (): void {
    $zone = $this->w->zone;
    $this->w->did(new AddRecord($zone->id, 'A', '192.0.2.53', '', 'ns9'));
    $this->w->did(new AddRecord($zone->id, 'NS', "ns9.{$zone->name}", '', '@'));
    $name = $zone->title();
    $got = ($this->ask)("/rdap/domain/$name")->assertOk()->assertJsonPath('ldhName', $name)
        ->assertJsonPath('secureDNS.delegationSigned', false);
    expect(array_column($got->json('nameservers'), 'ldhName'))->toContain("ns9.$name");
    ($this->ask)("/rdap/nameserver/ns9.$name")->assertOk()->assertJsonPath('ipAddresses.v4', ['192.0.2.53']);
    ($this->ask)('/rdap/nameserver/none.example')->assertNotFound();
    ($this->ask)('/rdap/domain/none.example')->assertNotFound();
    ($this->ask)('/rdap/domain/a..b')->assertStatus(400);
    ($this->ask)('/rdap/domains?name='.substr($name, 0, 8).'*')->assertOk()->assertJsonPath('domainSearchResults.0.ldhName', $name);
    ($this->ask)('/rdap/nameservers?name=ns9*')->assertOk()->assertJsonCount(1, 'nameserverSearchResults');
    ($this->ask)('/rdap/entities?fn=nobody*')->assertOk()->assertJsonCount(0, 'entitySearchResults');
    foreach (['*', 'a*', 'a*b*c', ''] as $pattern) {
        ($this->ask)('/rdap/domains?name='.urlencode($pattern))->assertStatus(400);
    }
    ($this->ask)('/rdap/help')->assertOk()->assertJsonStructure(['rdapConformance', 'notices']);
    ($this->ask)('/rdap/lighthouses')->assertNotFound();
});

it('tells a bound person nothing of others, and says that it leaves out', function (): void {
    $bound = $this->w->bound();
    ($this->ask)('/rdap/ip/192.0.2.5', $bound)->assertNotFound();
    ($this->ask)('/rdap/ip/192.0.2.130', $bound)->assertOk()->assertJsonPath('name', 'Gates')
        ->assertJsonPath('notices.0.title', 'Data policy')
        ->assertJsonMissingPath('parentHandle')->assertJsonPath('redacted.0.prePath', '$.parentHandle')
        ->assertJsonPath('redacted.0.method', 'removal')->assertJsonCount(1, 'redacted');
    // A grant shows a network of somebody else, and not whose it is.
    $tenant = MakeTenant::fromInput(['name' => 'Harbour Authority '.bin2hex(random_bytes(3))]);
    $this->w->did($tenant);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], tenant: $tenant->id));
    $this->w->did(KeepGrant::fromInput([
        'does' => ['look'], 'where' => '192.0.2.0/25', 'person' => $bound->id, 'why' => 'shared kiosks',
    ]));
    $got = ($this->ask)('/rdap/ip/192.0.2.5', $bound)->assertOk()->assertJsonMissingPath('entities');
    expect(array_column(array_column($got->json('redacted'), 'name'), 'description'))->toBe(['Network above', 'Registrant'])
        ->and($got->json('rdapConformance'))->toContain('redacted')->and($got->getContent())->not->toContain('Harbour Authority');
    ($this->ask)("/rdap/entity/$tenant->id", $bound)->assertNotFound();
    ($this->ask)('/rdap/domain/'.$this->w->zone->title(), $bound)->assertNotFound();
    ($this->ask)('/metrics', $bound)->assertForbidden();
    $this->app['auth']->forgetGuards();
    $this->get('/rdap/help')->assertStatus(401);
    $this->get('/metrics')->assertStatus(401);
});

it('tells figures that a monitoring system reads', function (): void {
    DB::table('server_states')->insert([
        'server_id' => $this->w->servers['dh1'], 'problem' => 'away', 'problem_since' => now(), 'compared_at' => now()->subMinutes(5),
        'compared' => 3,
        'differing' => 2,
    ]);
    config(['harbor.machine' => 'web1']);
    $log = (string) tempnam(sys_get_temp_dir(), 'requests');
    file_put_contents($log, "plan 200 0.040\nplan 500 0.300\napi 201 3.000\nnonsense\nfish 200 0.1\nplan 200 0.0");
    expect(RequestTimes::fold($log))->toBe(3)->and(RequestTimes::fold($log))->toBe(0);
    // The line that was half written then, and one more.
    file_put_contents($log, "20\nname 200 0.001\n", FILE_APPEND);
    expect(RequestTimes::fold($log))->toBe(2);
    file_put_contents($log, "name 200 0.001\n");
    expect(RequestTimes::fold($log))->toBe(1, 'begun anew');
    array_map(unlink(...), [$log, "$log.read"]);
    $text = ($this->ask)('/metrics')->assertOk()
        ->assertHeader('Content-Type', 'application/openmetrics-text; version=1.0.0; charset=utf-8')->getContent();
    expect($text)->toEndWith("# EOF\n")->toContain('harbor_prefix_use_ratio{prefix="192.0.2.0/24"')
        ->toContain('harbor_history_sealed_total 0')
        ->toContain('harbor_request_duration_seconds_bucket{machine="web1",verb="plan",le="0.05"} 2')
        ->toContain('harbor_request_duration_seconds_bucket{machine="web1",verb="plan",le="0.5"} 3')
        ->toContain('harbor_request_duration_seconds_bucket{machine="web1",verb="api",le="2.5"} 0')
        ->toContain('harbor_request_duration_seconds_count{machine="web1",verb="name"} 2')
        ->toContain('harbor_request_duration_seconds_sum{machine="web1",verb="plan"} 0.36')
        ->toContain('harbor_requests_failed_total{machine="web1",verb="plan"} 1');
    // Each family once, each sample of a family that was said, each unit in its name.
    $families = [];
    foreach (explode("\n", trim((string) $text)) as $line) {
        if (preg_match('/\A# TYPE (\S+) (gauge|counter|histogram)\z/', $line, $m) === 1) {
            expect($families)->not->toHaveKey($m[1]);
            $families[$m[1]] = $m[2];
        } elseif (preg_match('/\A# UNIT (\S+) (\S+)\z/', $line, $m) === 1) {
            expect($m[1])->toEndWith("_$m[2]");
        } elseif (! str_starts_with($line, '#')) {
            expect(preg_match('/\A([a-z_]+)(\{[a-z]+="[^"]*"(,[a-z]+="[^"]*")*\})? -?[0-9.]+\z/', $line, $m))->toBe(1, $line);
            $family = ($families[$m[1]] ?? null) !== null ? $m[1] : preg_replace('/_(total|bucket|sum|count)\z/', '', $m[1]);
            expect($families)->toHaveKey($family);
        }
    }
    $name = DB::table('servers')->where('id', $this->w->servers['dh1'])->value('name');
    expect($text)->toContain("harbor_server_problem{server=\"$name\"} 1")->toContain("harbor_server_differing{server=\"$name\"} 2");
});
