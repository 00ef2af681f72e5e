<?php

declare(strict_types=1);

use App\Acts\Plan\TakePlan;
use App\Models\Prefix;
use App\Models\Site;
use App\Models\Vlan;
use App\Models\Zone;
use App\Queries\Planner;
use HarborPost\Core\Planning\Strategy;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Tests\World;

const NEEDS = "site,purpose,hosts,growth,years,v6,vlan\nNorth SUFFIX,Voice,40,0,0,yes,140\nNorth "
    ."SUFFIX,CCTV,100,0,0,no,120+\nNorth SUFFIX,Gates,5,0,0,no,120+\nSouth SUFFIX,Voice,20,0,0,no,140\n";

/** @return array{string, string} a table of needs with sites of its own, and their suffix */
function needs(): array
{
    $suffix = bin2hex(random_bytes(3));

    return [str_replace('SUFFIX', $suffix, NEEDS), $suffix];
}

it('takes a plan over as one act: sites, supernets, VLANs, subnets with gateways, reverse zones', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/22', ['kind' => 'supernet', 'name' => 'Field']);
    $w->carve('2001:db8:99::/48', ['kind' => 'supernet', 'name' => 'Field 6']);
    [$needs, $suffix] = needs();
    $w->did(new TakePlan($w->space->id, $needs, '10.99.0.0/22 2001:db8:99::/48', view: $w->view));
    $sites = Site::query()->where('name', 'like', "%$suffix")->orderBy('name')->pluck('id', 'name');
    expect($sites->keys()->all())->toBe(["North $suffix", "South $suffix"]);
    $rows = Prefix::query()->whereIn('site_id', $sites->values())->orderBy('family')->orderBy('first')
        ->orderBy('length')->orderByDesc('groups')->get();
    expect($rows->map(fn (Prefix $p): string => "{$p->prefix()} {$p->kind->value} $p->name $p->gateway {$p->stage->value}")->all())->toBe([
        "10.99.0.0/24 supernet North $suffix  planned", '10.99.0.0/25 subnet CCTV 10.99.0.1 planned',
        '10.99.0.128/26 subnet Voice 10.99.0.129 planned', '10.99.0.192/29 subnet Gates 10.99.0.193 planned',
        "10.99.1.0/27 supernet South $suffix  planned", '10.99.1.0/27 subnet Voice 10.99.1.1 planned',
        "2001:db8:99::/60 supernet North $suffix  planned", '2001:db8:99::/64 subnet Voice 2001:db8:99::1 planned',
    ]);
    expect(
        Vlan::query()->whereIn('id', $rows->pluck('vlan_id')->filter())->orderBy('domain_id')->orderBy('number')->pluck('number')->all(),
    )->toBe([120, 121, 140, 140]);
    // Both prefixes of a need stand on one VLAN.
    expect($rows->where('name', 'Voice')->where('site_id', $sites["North $suffix"])->pluck('vlan_id')->unique())->toHaveCount(1);
    expect(
        Zone::query()->where('view_id', $w->view)->where('name', 'like', '%99.10.in-addr.arpa.')->orderBy('name')->pluck('name')->all(),
    )->toBe(['0.99.10.in-addr.arpa.', '0/27.1.99.10.in-addr.arpa.']);
    // The open blocks follow.
    expect(Planner::read($w->space, '10.99.0.0/22', $needs)->open[0]->length)->toBe(27);
});

it('refuses what does not fit, and says what would make it fit', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/24', ['kind' => 'supernet', 'name' => 'Field']);
    [$needs] = needs();
    $outcome = $w->acts()->rehearse($w->people['planner'], [new TakePlan($w->space->id, $needs, '10.99.0.0/24')]);
    expect($outcome->block()?->code)->toBe('does-not-fit')->and($outcome->block()->message)
        ->toContain('needs an IPv4 /27')->and($outcome->block()->why)->toContain('/27 would hold');
});

it('stops when somebody carved there meanwhile', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/22', ['kind' => 'supernet', 'name' => 'Field']);
    [$needs] = needs();
    $needs = str_replace('yes', 'no', $needs);
    $seen = Planner::fingerprint(Planner::read($w->space, '10.99.0.0/22', $needs)->plan(Strategy::Tight));
    $w->carve('10.99.0.0/26', ['name' => 'Quick']);
    expect($w->acts()->rehearse(null, [new TakePlan($w->space->id, $needs, '10.99.0.0/22', seenPlan: $seen)])->block()?->code)->toBe(
        'plan-moved',
    );
});

it('names what it cannot read', function (string $needs, string $in, string $says): void {
    $w = World::make(false);
    expect(implode(' ', Planner::read($w->space, $in, $needs)->faults))->toContain($says);
})->with([
    ["site,hosts\nA,x\n", '10.99.0.0/24', 'Line 2, hosts'],
    ["A,x,5\n", '10.99.0.1/24', 'Did you mean 10.99.0.0/24'],
    ["A,x,5\n", '', 'Say in which prefix'],
    ["A,x,5\n", '192.0.2.0/26', 'lies in the subnet'], ["A,x,5\n", '192.0.0.0/16', 'not in the plan'],
]);

it('leaves a site out of VLAN numbers that are taken, with a warning', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/22', ['kind' => 'supernet']);
    $suffix = bin2hex(random_bytes(3));
    $outcome = $w->did(
        new TakePlan($w->space->id, "North $suffix,Voice,40,0,0,no,140\nNorth $suffix,Other,40,0,0,no,140\n", '10.99.0.0/22'),
    );
    expect(array_column($outcome->notes(), 'code'))->toContain('vlan-taken')
        ->and(Prefix::query()->where('space_id', $w->space->id)->whereNotNull('vlan_id')->count())->toBe(1);
});

it('shows three ways side by side, from the form and from a file', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/22', ['kind' => 'supernet', 'name' => 'Field']);
    [$needs, $suffix] = needs();
    $needs = str_replace('yes', 'no', $needs);
    $this->actingAs($w->people['planner']);
    $this->get("/plan/{$w->space->id}/planner")->assertOk()->assertSee('10.99.0.0/22 Field');
    $page = $this->post("/plan/{$w->space->id}/planner", ['in' => '10.99.0.0/22', 'needs' => $needs])->assertOk();
    $page->assertSee('tight, shown below')->assertSee('Show room')->assertSee('Show fixed')->assertSee("North $suffix")
        ->assertSee('10.99.0.128/26')->assertSee('Take it over');
    $this->post(
        "/plan/{$w->space->id}/planner",
        ['in' => '10.99.0.0/22', 'strategy' => 'room', 'file' => UploadedFile::fake()->createWithContent('needs.csv', $needs)],
    )
        ->assertOk()->assertSee('room, shown below');
    $this->post("/plan/{$w->space->id}/planner", ['in' => '10.99.0.0/26', 'needs' => $needs])
        ->assertSee('Not everything fits')->assertDontSee('Take it over</h2>', false);
    $this->post("/plan/{$w->space->id}/planner", ['in' => '10.99.0.0/22', 'needs' => 'x,y'])->assertSee('could not be understood');
    $this->actingAs($w->people['reader'])->get("/plan/{$w->space->id}/planner")->assertForbidden();
});

it('is rehearsed without a trace and kept in a draft', function (): void {
    $w = World::make(false);
    $w->carve('10.99.0.0/22', ['kind' => 'supernet']);
    [$needs] = needs();
    $count = fn (): array => array_map(
        fn (string $t): int => DB::table($t)->count(),
        ['prefixes', 'sites', 'vlans', 'zones', 'open_blocks', 'history'],
    );
    $before = $count();
    $form = [
        'space' => $w->space->id, 'needs' => str_replace('yes', 'no', $needs), 'in' => '10.99.0.0/22', 'strategy' => 'tight',
        'stage' => 'planned', 'vlans' => '1',
    ];
    $this->actingAs($w->people['planner'])->post('/act/take-plan', $form + ['then' => 'preview'])->assertOk()->assertSee('10.99.0.0/25');
    expect($count())->toBe($before);
    $this->post('/act/take-plan', $form + ['then' => 'draft'])->assertRedirect();
    expect(DB::table('draft_edits')->where('action', 'take-plan')->count())->toBeGreaterThan(0);
});

it('plans from the console as the screen does', function (): void {
    $file = (string) tempnam(sys_get_temp_dir(), 'needs');
    file_put_contents($file, "site,purpose,hosts\nA,x,100\nB,y,50\n");
    $run = fn (string $args): array => [
        exec('cd '.escapeshellarg(dirname(__DIR__, 2))." && ./hpost plan:pack $args 2>&1", $out, $status),
        $status,
        $out,
    ];
    [, $status, $out] = $run("--in=10.0.0.0/24 $file --json");
    $plan = json_decode(implode('', $out), true);
    expect($status)->toBe(0)->and(array_column($plan['sites'], 'prefix'))->toBe(['10.0.0.0/25', '10.0.0.128/26'])
        ->and($plan['routes'])->toBe(2);
    expect($run("--in=10.0.0.0/26 $file")[1])->toBe(1)->and($run("--in=10.0.0.1/26 $file")[1])->toBe(2)
        ->and($run("$file")[1])->toBe(2)->and($run('--in=10.0.0.0/24 /nowhere')[1])->toBe(2);
    unlink($file);
});
