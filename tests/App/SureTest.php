<?php

declare(strict_types=1);

use App\Acts\Name\GrantName;
use App\Acts\Name\MakeKey;
use App\Acts\Name\RevokeName;
use App\Acts\Plan\ChangePrefix;
use App\Models\Grant;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\TransferKey;
use Illuminate\Support\Facades\DB;
use Tests\World;

/* What gives rights or shows a secret asks for the password again, when it was said too long ago. */

beforeEach(function (): void {
    $this->w = World::make();
    $this->steward = $this->w->people['steward'];
    DB::table('people')->where('id', $this->steward->id)->update(['password' => bcrypt('a-long-password')]);
    $this->long = function (): void {
        $this->actingAs($this->steward->refresh())->withSession(['sure' => time() - 601]);
    };
    $this->grant = fn (array $more = []): array => $more + [
        'person' => $this->w->people['reader']->id, 'where' => '192.0.2.0/25', 'does' => ['look'], 'then' => 'commit',
    ];
    $this->grants = fn (): int => Grant::query()->where('person_id', $this->w->people['reader']->id)->count();
});

it('asks for the password before rights are given, and takes it once', function (): void {
    ($this->long)();
    $this->post('/act/keep-grant', ($this->grant)(['then' => 'preview']), ['HX-Request' => 'true'])->assertOk()
        ->assertSee('name="sure"', false);
    $this->post('/act/keep-grant', ($this->grant)(), ['HX-Request' => 'true'])->assertOk()->assertSee('Say your password')
        ->assertSee('name="sure"', false);
    expect(($this->grants)())->toBe(0);
    $this->post('/act/keep-grant', ($this->grant)(['sure' => 'guessed']), ['HX-Request' => 'true'])->assertSee('The password was not right')
        ->assertDontSee('guessed');
    $this->post('/act/keep-grant', ($this->grant)())->assertStatus(409)->assertSee('Say your password');
    expect(($this->grants)())->toBe(0);
    $this->post('/act/keep-grant', ($this->grant)(['sure' => 'a-long-password']))->assertRedirect();
    expect(($this->grants)())->toBe(1);
    // Said now, it holds for a while.
    $this->post('/act/keep-grant', ($this->grant)(['then' => 'preview']), ['HX-Request' => 'true'])->assertDontSee('name="sure"', false);
    $this->post('/act/keep-grant', ($this->grant)(['where' => '192.0.2.128/26']))->assertRedirect();
    // It stands nowhere.
    expect(json_encode(DB::table('history')->get()).json_encode(session()->all()))->not->toContain('a-long-password');
});

it('is no way around it that the act goes by a draft', function (): void {
    ($this->long)();
    $before = DB::table('draft_edits')->count();
    $this->post('/act/grant-name', [
        'zone' => $this->w->zone->id, 'person' => $this->w->people['reader']->id, 'name' => 'till', 'then' => 'draft',
    ], ['HX-Request' => 'true'])->assertSee('Say your password');
    expect(DB::table('draft_edits')->count())->toBe($before);
});

it('asks too when a right that was taken away is given by taking that back', function (): void {
    DB::table('people')->where('id', $this->steward->id)->update(['roles' => json_encode(['steward', 'operator', 'planner'])]);
    $steward = Person::query()->findOrFail($this->steward->id);
    $this->w->did(GrantName::fromInput(['zone' => $this->w->zone->id, 'person' => $this->w->people['reader']->id, 'name' => 'till']));
    $this->w->did(new RevokeName(NameGrant::query()->sole()->id));
    $act = DB::table('history')->where('object_type', 'right on names')->orderByDesc('id')->value('act_id');
    $this->actingAs($steward)->withSession(['sure' => time() - 601]);
    foreach (['commit', 'draft'] as $then) {
        $this->post('/act/take-back', ['acts' => [$act], 'then' => $then], ['HX-Request' => 'true'])->assertSee('Say your password');
    }
    expect(NameGrant::query()->count())->toBe(0)->and(DB::table('draft_edits')->count())->toBe(0);
    $this->post('/act/take-back', ['acts' => [$act], 'then' => 'commit', 'sure' => 'a-long-password'])->assertRedirect();
    expect(NameGrant::query()->count())->toBe(1);
    // What opens nothing asks nobody.
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: 'ours'));
    $act = DB::table('history')->orderByDesc('id')->value('act_id');
    $this->withSession(['sure' => time() - 601])->post('/act/take-back', ['acts' => [$act], 'then' => 'preview'], ['HX-Request' => 'true'])
        ->assertDontSee('name="sure"', false);
});

it('takes only so many tries, whatever comes after', function (): void {
    ($this->long)();
    foreach (range(1, 5) as $i) {
        $this->post('/act/keep-grant', ($this->grant)(['sure' => "guess $i"]), ['HX-Request' => 'true']);
    }
    $this->post('/act/keep-grant', ($this->grant)(['sure' => 'a-long-password']), ['HX-Request' => 'true'])
        ->assertSee('tried too often');
    expect(($this->grants)())->toBe(0);
});

it('asks before a secret is shown', function (): void {
    $make = MakeKey::fromInput(['name' => 'quay.example']);
    $this->w->did($make);
    $secret = TransferKey::query()->findOrFail($make->id)->secret;
    $operator = $this->w->people['operator'];
    DB::table('people')->where('id', $operator->id)->update(['password' => bcrypt('another-long-one')]);
    $this->actingAs(Person::query()->findOrFail($operator->id))->withSession(['sure' => time() - 601]);
    $this->get('/name/keys')->assertOk()->assertSee('name="sure"', false);
    $this->post("/name/keys/$make->id/secret")->assertSessionHas('bad');
    $this->post("/name/keys/$make->id/secret", ['sure' => 'wrong'])->assertSessionHas('bad');
    $this->get('/name/keys')->assertDontSee($secret);
    $this->post("/name/keys/$make->id/secret", ['sure' => 'another-long-one'])->assertSessionMissing('bad');
    $this->get('/name/keys')->assertSee($secret)->assertDontSee('name="sure"', false);
});

it('asks nobody for other work, and is said by signing in', function (): void {
    ($this->long)();
    $this->post('/act/set-theme', ['theme' => 'night', 'then' => 'commit'])->assertRedirect();
    $this->post('/sign-out');
    $this->post('/sign-in', ['sign_in' => $this->steward->sign_in, 'password' => 'a-long-password'])->assertRedirect();
    $this->post('/act/keep-grant', ($this->grant)())->assertRedirect();
    expect(($this->grants)())->toBe(1);
});

it('guards what opens doors, and not what shuts them', function (): void {
    $guarded = array_values(array_map(
        fn (string $class): string => $class::key(),
        array_filter(App\Acts\Registry::ACTS, fn (string $class): bool => $class::guarded()),
    ));
    sort($guarded);
    expect($guarded)->toBe([
        'change-person', 'copy-grants', 'grant-name', 'keep-grant', 'keep-role', 'keep-team', 'make-person', 'make-program-token',
        'make-token', 'reset-password',
    ]);
});
