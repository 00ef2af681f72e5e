<?php

declare(strict_types=1);

use App\Acts\Directory\KeepRightTest;
use App\Acts\Plan\ChangePrefix;
use App\Domain\Directory\Rights;
use App\Domain\Watch\NoticeLook;
use App\Http\Middleware\SeesAs;
use App\Models\Notice;
use App\Models\RightTest;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->bound = $this->w->bound();
    $this->steward = $this->w->people['steward'];
});

it('tries what somebody may by what every page asks, and tells when it turned', function (): void {
    $w = $this->w;
    $keep = fn (string $object, string $does, string $expected) => $w->did(KeepRightTest::fromInput([
        'person' => $this->bound->id, 'object' => $object, 'does' => $does, 'expected' => $expected,
    ]), $this->steward);
    $keep('192.0.2.0/25', 'see', 'no');
    $keep('192.0.2.128/26', 'see', 'yes');
    $keep('192.0.2.128/26', 'write', 'no');
    $keep($w->zone->title(), 'see', 'no');
    expect(Rights::test())->toBe([]);
    // A grant that opens more than was meant.
    $w->did(new ChangePrefix([$w->subnet->id], tenant: $this->bound->tenant_id));
    expect(Rights::test())->toBe(["{$this->bound->name} may not see 192.0.2.0/25 Ticketing"]);
    NoticeLook::now();
    expect(Notice::open()->where('kind', 'right')->sole()->title)->toContain('Not so any more')
        ->and(RightTest::query()->where('object', '192.0.2.0/25 Ticketing')->sole()->hasTurned())->toBeTrue();
    // Tests stand with people, whom stewards alone see: nobody else is led there.
    $page = "/directory/person/{$this->bound->id}";
    $this->actingAs($this->steward)->get('/watch/notices')->assertOk()->assertSee("href=\"$page\"", false);
    $this->actingAs($w->people['operator'])->get('/watch/notices')->assertOk()->assertSee('Not so any more')
        ->assertDontSee("href=\"$page\"", false);
    $w->did(new ChangePrefix([$w->subnet->id], tenant: '-'));
    expect(Rights::test())->toBe([]);
    expect($w->refusal(KeepRightTest::class, ['person' => $this->bound->id, 'object' => 'nothing'], $this->steward))->toBe('not-found');
});

it('shows a steward one person whole', function (): void {
    $page = $this->actingAs($this->steward)->get("/directory/person/{$this->bound->id}")->assertOk();
    $page->assertReads($this->bound->name)->assertReads('place host')->assertReads('Prefixes 1');
    $this->actingAs($this->w->people['operator'])->get("/directory/person/{$this->bound->id}")->assertForbidden();
});

it('shows the application as somebody else sees it, and writes nothing', function (): void {
    $w = $this->w;
    $this->actingAs($this->steward)->post("/directory/sees-as/{$this->bound->id}")->assertRedirect('/bridge');
    expect(DB::table('history')->where('action', 'seen-as')->where('object_id', $this->bound->id)->exists())->toBeTrue();
    $as = fn () => $this->actingAs($this->steward)->withSession([SeesAs::KEY => $this->bound->id]);
    $as()->get('/bridge')->assertOk()->assertReads("you see this as {$this->bound->name} does");
    $as()->get("/plan/prefix/{$w->subnet->id}")->assertNotFound();
    $as()->get('/directory/people')->assertForbidden();
    $as()->get('/me')->assertForbidden();
    $before = DB::table('history')->max('id');
    $as()->post('/act/place-host', ['then' => 'commit', 'prefix' => $w->subnet->id, 'name' => 'x'])->assertRedirect();
    $as()->post('/act/set-theme', ['then' => 'commit', 'theme' => 'night'])->assertRedirect();
    expect(DB::table('history')->max('id'))->toBe($before);
    $as()->post('/directory/sees-as/end')->assertRedirect('/directory/people');
    // Whoever is no steward sees as nobody else, whatever stands in the session.
    $this->actingAs($w->people['operator'])->withSession([SeesAs::KEY => $this->steward->id])->get('/directory/people')->assertOk()
        ->assertDontSee('you see this as');
});
