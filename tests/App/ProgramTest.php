<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeProgramToken;
use App\Acts\Directory\ResetPassword;
use App\Acts\Directory\RevokeProgramToken;
use App\Models\Person;
use App\Models\Token;
use Tests\World;

/* Programs that act for nobody: rights of their own, no sign-in. */

beforeEach(function (): void {
    $this->w = World::make();
    $this->steward = $this->w->people['steward'];
    $this->make = function (array $roles = ['guest']): Person {
        $this->w->did($act = MakePerson::fromInput([
            'signIn' => 'press-'.bin2hex(random_bytes(3)), 'name' => 'Press', 'roles' => $roles, 'program' => '1',
        ]), $this->steward);

        return Person::query()->findOrFail($act->id);
    };
    $this->token = fn (Person $p, array $more = []): string => (string) $this->w->did(
        MakeProgramToken::fromInput(['person' => $p->id, 'name' => 'workshop'] + $more), $this->steward,
    )->made('once');
    $this->ask = function (string $method, string $path, string $token, array $body = []) {
        $this->app['auth']->forgetGuards();

        return $this->json($method, "/api/v1/$path", $body, ['Authorization' => "Bearer $token"]);
    };
});

it('sees and does at its place what it was granted, and nothing beside it', function (): void {
    $press = ($this->make)();
    $token = ($this->token)($press, ['writes' => '1']);
    ($this->ask)('GET', 'prefixes', $token)->assertOk()->assertJsonPath('items', []);
    $where = "prefix 192.0.2.0/25 in {$this->w->space->name}";
    $this->w->did(KeepGrant::fromInput(['person' => $press->id, 'does' => ['hosts'], 'where' => $where]));
    $seen = array_column(($this->ask)('GET', 'prefixes', $token)->json('items'), 'prefix');
    expect($seen)->toContain('192.0.2.0/25');
    $place = fn (string $with, array $more = []) => ($this->ask)('POST', 'acts/place-host', $with, [
        'input' => $more + ['prefix' => $this->w->subnet->id, 'name' => 'label-'.bin2hex(random_bytes(2))],
    ]);
    $place($token)->assertStatus(201);
    $other = $this->w->carve('192.0.2.128/26', ['name' => 'Elsewhere', 'stage' => 'live']);
    expect($place($token, ['prefix' => $other->id])->status())->toBeIn([403, 404, 409]);
    ($this->ask)('POST', 'acts/make-token', $token, ['input' => ['name' => 'mine']])->assertStatus(409)
        ->assertJsonPath('type', 'urn:harbor-post:problem:token-makes-none');
    // One that only reads, and one that does other acts.
    $place(($this->token)($press))->assertStatus(403);
    $place(($this->token)($press, ['writes' => '1', 'acts' => ['release-hosts']]))->assertStatus(403);
});

it('signs in nowhere, is asked by nobody to agree, and is no steward', function (): void {
    $press = ($this->make)();
    Illuminate\Support\Facades\DB::table('people')->where('id', $press->id)->update(['password' => bcrypt('harbour-is-open-now')]);
    $this->post('/sign-in', ['sign_in' => $press->sign_in, 'password' => 'harbour-is-open-now'])->assertSessionHas('bad');
    $this->assertGuest();
    foreach (['approver', 'steward'] as $role) {
        $input = ['signIn' => 'press-x', 'name' => 'P', 'roles' => [$role], 'program' => '1'];
        expect($this->w->refusal(MakePerson::class, $input, $this->steward))
            ->toBe('program-agrees-not')
            ->and($this->w->refusal(ChangePerson::class, ['person' => $press->id, 'roles' => [$role]], $this->steward))
            ->toBe('program-agrees-not');
    }
    expect($this->w->refusal(ResetPassword::class, ['person' => $press->id], $this->steward))->toBe('is-a-program')
        ->and($this->w->refusal(ChangePerson::class, ['person' => $press->id, 'outside' => 'press@quay.example'], $this->steward))
        ->toBe('is-a-program')
        ->and($this->w->refusal(MakePerson::class, ['signIn' => 'nobody-x', 'name' => 'N', 'roles' => ['reader']], $this->steward))
        ->toBe('short-password');
});

it('has its tokens made and ended by stewards, and they make none for people', function (): void {
    $press = ($this->make)();
    $token = ($this->token)($press);
    ($this->ask)('GET', 'sites', $token)->assertOk();
    expect($this->w->refusal(MakeProgramToken::class, ['person' => $this->w->people['operator']->id, 'name' => 'x'], $this->steward))
        ->toBe('not-a-program')
        ->and($this->w->refusal(MakeProgramToken::class, ['person' => $press->id, 'name' => 'x'], $this->w->people['operator']))
        ->toBe('not-allowed');
    $this->actingAs($this->steward)->get("/directory/person/$press->id")->assertOk()->assertReads('which acts for nobody')
        ->assertReads('nowhere: it is a program')->assertDontSee($token);
    $row = Token::query()->where('person_id', $press->id)->sole();
    $this->w->did(RevokeProgramToken::fromInput(['token' => $row->id]), $this->steward);
    ($this->ask)('GET', 'sites', $token)->assertStatus(401);
    // Shut as a whole, at once.
    $second = ($this->token)($press);
    $this->w->did(ChangePerson::fromInput(['person' => $press->id, 'active' => '0']), $this->steward);
    ($this->ask)('GET', 'sites', $second)->assertStatus(401);
    $own = $this->w->acts()->commit($this->w->people['operator'], [App\Acts\Directory\MakeToken::fromInput(['name' => 'mine'])]);
    $mine = Token::query()->where('person_id', $this->w->people['operator']->id)->sole();
    expect($this->w->refusal(RevokeProgramToken::class, ['token' => $mine->id], $this->steward))->toBe('gone');
});
