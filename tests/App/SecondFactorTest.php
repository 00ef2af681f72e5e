<?php

declare(strict_types=1);

use App\Acts\Directory\DropSecondFactor;
use App\Acts\Directory\SetSecondFactor;
use HarborPost\Core\Secrets\OneTimeCode;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->person = $this->w->people['operator'];
    $this->secret = random_bytes(20);
    $this->code = fn (int $off = 0): string => OneTimeCode::at($this->secret, intdiv(now()->getTimestamp(), 30) + $off);
    $this->set = fn () => $this->w->acts()->commit(
        $this->person,
        [new SetSecondFactor('a-long-password', OneTimeCode::base32($this->secret), ($this->code)())],
    );
    $this->signIn = fn () => $this->post('/sign-in', ['sign_in' => $this->person->sign_in, 'password' => 'a-long-password']);
});

it('asks for a code besides the password, once it was proved that the device makes them', function (): void {
    $set = ($this->set)();
    expect($set->blocked())->toBeFalse();
    $this->travel(60)->seconds();
    ($this->signIn)()->assertRedirect('/sign-in/code');
    $this->assertGuest();
    $this->get('/plan')->assertRedirect('/sign-in');
    $this->get('/sign-in/code')->assertOk();
    $this->post('/sign-in/code', ['code' => '000000'])->assertRedirect();
    $this->assertGuest();
    $this->post('/sign-in/code', ['code' => ($this->code)()])->assertRedirect();
    $this->assertAuthenticatedAs($this->person->refresh());
});

it('takes a code once, and one on paper once', function (): void {
    $set = ($this->set)();
    $paper = explode('  ', $set->ledgers[0]->made['once']);
    expect($paper)->toHaveCount(8);
    $this->travel(60)->seconds();
    $code = ($this->code)();
    foreach ([[$code, true], [$code, false], [$paper[3], true], [$paper[3], false], [strtoupper($paper[4]), true]] as [$given, $opens]) {
        $this->post('/sign-out');
        $this->app['auth']->forgetGuards();
        ($this->signIn)();
        $this->post('/sign-in/code', ['code' => $given]);
        $opens ? $this->assertAuthenticated() : $this->assertGuest();
    }
    expect($this->person->refresh()->paper_codes)->toHaveCount(6);
});

it('keeps the secret out of the database in plain, of history and of pages', function (): void {
    ($this->set)();
    $plain = OneTimeCode::base32($this->secret);
    expect((string) DB::table('people')->where('id', $this->person->id)->value('code_secret'))->not->toContain($plain)
        ->and(DB::table('history')->where('object_id', $this->person->id)->where('after', 'like', "%$plain%")->exists())->toBeFalse();
    $this->actingAs($this->person->refresh())->withSession(['epoch' => $this->person->epoch])->get('/me')->assertOk()->assertDontSee($plain)
        ->assertReads('A code of your device is asked for');
});

it('stops who guesses', function (): void {
    ($this->set)();
    $this->travel(60)->seconds();
    ($this->signIn)();
    foreach (range(1, 6) as $i) {
        $this->post('/sign-in/code', ['code' => (string) (100000 + $i)]);
    }
    $this->post('/sign-in/code', ['code' => ($this->code)()])->assertStatus(429);
    $this->assertGuest();
    RateLimiter::clear("second-factor|{$this->person->id}");
});

it('is set up by whoever knows the password and has the device', function (string $password, bool $right, string $code): void {
    $act = new SetSecondFactor($password, OneTimeCode::base32($this->secret), $right ? ($this->code)() : '123');
    expect($this->w->acts()->rehearse($this->person, [$act])->block()?->code)->toBe($code);
})->with([['wrong-password-here', true, 'wrong-password'], ['a-long-password', false, 'wrong-code']]);

it('is taken away by its person or by a steward, and by nobody else', function (): void {
    ($this->set)();
    $drop = new DropSecondFactor($this->person->id, 'a-long-password');
    expect($this->w->acts()->rehearse($this->w->people['planner'], [$drop])->block()?->code)->toBe('not-yours');
    $this->w->did($drop, $this->w->people['steward']);
    expect($this->person->refresh()->code_secret)->toBeNull();
});

it('is asked of roles that a rule names, before anything else', function (): void {
    config(['harbor.second_factor' => 'operator steward']);
    $this->actingAs($this->person)->get('/plan')->assertRedirect('/me/second-factor');
    $this->actingAs($this->person)->get('/me/second-factor')->assertOk();
    $this->actingAs($this->w->people['reader'])->get('/bridge')->assertOk();
    ($this->set)();
    $this->actingAs($this->person->refresh())->get('/bridge')->assertOk();
});
