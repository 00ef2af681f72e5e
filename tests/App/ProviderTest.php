<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\KeepTeam;
use App\Models\Person;
use App\Models\TeamMember;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

/* Signing in at the identity provider: the stand-in, asked by real requests; and one that lies. */

beforeEach(function (): void {
    Cache::flush();
    $this->w = World::make(scope: false);
    $this->standins = new Standins(['flag1' => 'provider']);
    $this->issuer = 'http://'.$this->standins->endpoint('flag1');
    config([
        'harbor.oidc.issuer' => $this->issuer, 'harbor.oidc.name' => 'Quay sign-in', 'harbor.oidc.makes' => '', 'harbor.patience' => 3.0,
        'app.url' => 'http://127.0.0.1:8000',
    ]);
    Illuminate\Support\Facades\URL::forceRootUrl('http://127.0.0.1:8000');
    $this->known = function (array $people): void {
        $this->standins->tell('flag1', 'people', ['people' => $people]);
    };
    $this->name = 'nora-'.bin2hex(random_bytes(3));
    $this->person = $this->w->person($this->name, ['operator']);
    $this->w->did(ChangePerson::fromInput(['person' => $this->person->id, 'outside' => "$this->name@quay.example"]));
    /** Goes there and chooses who one is; the address that the browser is sent back to. */
    $this->choose = function (string $who): string {
        $there = $this->get('/sign-in/with')->assertRedirect()->headers->get('Location');
        expect($there)->toStartWith("$this->issuer/authorize?")->toContain('code_challenge_method=S256')->toContain('nonce=');
        $asked = parse_url($there, PHP_URL_QUERY);
        expect((string) file_get_contents($there))->toContain('choose who you are');
        $context = stream_context_create(['http' => ['follow_location' => 0, 'ignore_errors' => true]]);
        file_get_contents("$this->issuer/as?who=".urlencode($who)."&$asked", false, $context);
        $to = substr(current(preg_grep('/^Location: /i', $http_response_header)), 10);
        expect($to)->toStartWith('http://127.0.0.1:8000/sign-in/back?');

        return substr($to, strlen('http://127.0.0.1:8000'));
    };
    $this->bad = fn (): string => (string) session('bad');
});

it('lets in who is written down, and from then on by what the provider knows them by for good', function (): void {
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one', 'name' => 'Nora']]);
    $this->get('/sign-in')->assertReads('Sign in at Quay sign-in');
    $this->get(($this->choose)("$this->name@quay.example"))->assertRedirect('http://127.0.0.1:8000');
    $this->assertAuthenticatedAs($this->person);
    expect($this->person->refresh()->outside_subject)->not->toBeNull()
        ->and(DB::table('history')->where('object_id', $this->person->id)->where('action', 'signed-in')->exists())->toBeTrue();
    // Renamed there, the same person still; somebody else with the old name is nobody here.
    auth()->logout();
    ($this->known)([
        'new-name@quay.example' => ['sub' => 'one', 'name' => 'Nora'], "$this->name@quay.example" => ['sub' => 'two', 'name' => 'Imposter'],
    ]);
    $this->get(($this->choose)("$this->name@quay.example"))->assertRedirect('/sign-in');
    $this->assertGuest();
    expect(($this->bad)())->toContain('Nobody here is known as');
    $this->get(($this->choose)('new-name@quay.example'));
    $this->assertAuthenticatedAs($this->person);
});

it('lets in nobody who is not known, closed, or says no there', function (): void {
    ($this->known)(['ghost@quay.example' => ['sub' => 'g'], "$this->name@quay.example" => ['sub' => 'one']]);
    $this->get(($this->choose)('ghost@quay.example'))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('Nobody here is known as "ghost@quay.example"')
        ->and(DB::table('history')->where('action', 'sign-in-refused')->exists())->toBeTrue();
    $this->get(($this->choose)(''))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('did not let you in: access_denied');
    $this->w->did(ChangePerson::fromInput(['person' => $this->person->id, 'active' => '0']));
    $this->get(($this->choose)("$this->name@quay.example"))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('The sign-in is closed');
    $this->assertGuest();
});

it('makes people where that is set, with one role and nobody else\'s name', function (): void {
    config(['harbor.oidc.makes' => 'reader']);
    $new = 'olga-'.bin2hex(random_bytes(3));
    ($this->known)([
        "$new@quay.example" => ['sub' => 'o', 'name' => 'Olga Reef'],
        $this->w->people['steward']->sign_in.'@quay.example' => ['sub' => 's', 'name' => 'Not the steward'],
    ]);
    $this->get(($this->choose)("$new@quay.example"));
    expect(session('bad'))->toBeNull();
    $made = Person::query()->where('sign_in', $new)->sole();
    $this->assertAuthenticatedAs($made);
    expect($made->roles)->toBe(['reader'])->and($made->name)->toBe('Olga Reef');
    auth()->logout();
    $this->get(($this->choose)($this->w->people['steward']->sign_in.'@quay.example'))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('is somebody here already');
});

it('keeps teams as the groups there, at each sign-in', function (): void {
    $this->w->did($follows = KeepTeam::fromInput(['name' => 'Night '.bin2hex(random_bytes(3)), 'group' => 'night']));
    $this->w->did($own = KeepTeam::fromInput(['name' => 'Own '.bin2hex(random_bytes(3)), 'people' => [$this->person->id]]));
    $in = fn (string $team): bool => TeamMember::query()->where('team_id', $team)->where('person_id', $this->person->id)->exists();
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one', 'groups' => ['night', 'else']]]);
    $this->get(($this->choose)("$this->name@quay.example"));
    expect($in($follows->id))->toBeTrue()->and($in($own->id))->toBeTrue();
    auth()->logout();
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one', 'groups' => []]]);
    $this->get(($this->choose)("$this->name@quay.example"));
    expect($in($follows->id))->toBeFalse()->and($in($own->id))->toBeTrue();
});

it('believes nothing that is not for this question, from there, and now', function (): void {
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one']]);
    $back = ($this->choose)("$this->name@quay.example");
    // Another state than the one that was sent.
    $this->get(preg_replace('/state=\w+/', 'state=0000', $back))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('begun elsewhere');
    // The question is answered once: the same answer again is to nothing.
    $this->get($back)->assertRedirect('/sign-in');
    $this->assertGuest();
    $back = ($this->choose)("$this->name@quay.example");
    $this->get(preg_replace('/code=\w+/', 'code=0000', $back))->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('invalid_grant');
    // A code that was given for another browser's question does not fit ours: its verifier is not known here.
    $theirs = ($this->choose)("$this->name@quay.example");
    $ours = ($this->choose)("$this->name@quay.example");
    preg_match('/code=(\w+)/', $theirs, $code);
    $this->get(preg_replace('/code=\w+/', $code[0], $ours))->assertRedirect('/sign-in');
    $this->assertGuest();
    // It lies: its token is for another question.
    $back = ($this->choose)("$this->name@quay.example");
    $this->standins->tell('flag1', 'mode', ['mode' => 'wrong']);
    $this->get($back)->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('a token for another question');
    $this->standins->tell('flag1', 'mode', ['mode' => 'refusing']);
    Cache::flush();
    $this->get('/sign-in/with')->assertRedirect('/sign-in');
    expect(($this->bad)())->toContain('503');
    $this->assertGuest();
});

it('refuses tokens that are forged, ended, unsigned, of others or for others', function (): void {
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one']]);
    $provider = App\Links\Provider::configured();
    $asked = App\Links\Provider::begin(false, time());
    $key = openssl_pkey_get_private((string) file_get_contents($this->standins->settings['flag1']['directory'].'/key.pem'));
    $other = openssl_pkey_new(['private_key_bits' => 2048]);
    $good = [
        'iss' => $this->issuer, 'aud' => 'harbor-post', 'sub' => 'one', 'iat' => time(), 'exp' => time() + 60, 'nonce' => $asked['nonce'],
    ];
    // The way from a token to what is believed, without the way to the token.
    $verify = new ReflectionMethod($provider, 'verified');
    $words = function (string $token) use ($verify, $provider): string {
        try {
            $verify->invoke($provider, $token, time());

            return '';
        } catch (App\Links\Unanswered $e) {
            return $e->getMessage();
        }
    };
    $sign = fn (array $claims, mixed $with, string $alg = 'RS256', string $kid = 'one'): string => Firebase\JWT\JWT::encode(
        $claims, $with, $alg, $kid,
    );
    expect($words($sign($good, $key)))->toBe('')
        ->and($words($sign($good, $other)))->toContain('does not hold')
        ->and($words($sign($good, $key, 'RS256', 'two')))->toContain('does not hold')
        ->and($words($sign(['exp' => time() - 120] + $good, $key)))->toContain('has ended')
        ->and($words($sign(['nbf' => time() + 600] + $good, $key)))->toContain('does not hold');
    $parts = explode('.', $sign($good, $key));
    $none = rtrim(strtr(base64_encode('{"alg":"none","kid":"one"}'), '+/', '-_'), '=');
    $public = openssl_pkey_get_details($key)['key'];
    expect($words("$none.$parts[1]."))->toContain('does not hold')
        ->and($words($sign($good, str_pad($public, 64), 'HS256')))->toContain('does not hold')
        ->and($words("$parts[0].$parts[1].$parts[1]"))->toContain('does not hold')
        ->and($words('rubbish'))->toContain('does not hold');
});

it('asks for the second factor too, but where the provider had one', function (): void {
    DB::table('people')->where('id', $this->person->id)->update(['code_secret' => encrypt('JBSWY3DPEHPK3PXP', false)]);
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one', 'amr' => ['pwd']]]);
    $this->get(($this->choose)("$this->name@quay.example"))->assertRedirect('/sign-in/code');
    $this->assertGuest();
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one', 'amr' => ['pwd', 'otp']]]);
    $this->get(($this->choose)("$this->name@quay.example"));
    $this->assertAuthenticatedAs($this->person);
});

it('shows there again who one is, in place of the password, and nobody else does', function (): void {
    ($this->known)(["$this->name@quay.example" => ['sub' => 'one'], 'else@quay.example' => ['sub' => 'two']]);
    $this->get(($this->choose)("$this->name@quay.example"));
    $this->withSession(['sure' => time() - 5000]);
    $back = ($this->choose)('else@quay.example');
    $this->get($back)->assertRedirect('/me');
    expect(($this->bad)())->toContain('you are somebody else than here')->and(session('sure'))->toBeLessThan(time() - 600);
    $this->get(($this->choose)("$this->name@quay.example"))->assertRedirect('/me');
    expect(session('sure'))->toBeGreaterThan(time() - 60);
    $this->assertAuthenticatedAs($this->person->refresh());
    $this->get('/me')->assertReads('Show at Quay sign-in who you are');
});

it('writes one name there at one person, and lets go of who was bound when it changes', function (): void {
    $other = $this->w->people['reader'];
    expect($this->w->refusal(ChangePerson::class, ['person' => $other->id, 'outside' => "$this->name@quay.example"]))
        ->toBe('known-already');
    DB::table('people')->where('id', $this->person->id)->update(['outside_subject' => str_repeat('a', 64)]);
    $this->w->did(ChangePerson::fromInput(['person' => $this->person->id, 'name' => 'Nora North']));
    expect($this->person->refresh()->outside_subject)->toBe(str_repeat('a', 64));
    $this->w->did(ChangePerson::fromInput(['person' => $this->person->id, 'outside' => 'other@quay.example']));
    expect($this->person->refresh()->outside_subject)->toBeNull();
    $this->w->did(ChangePerson::fromInput(['person' => $this->person->id, 'outside' => '']));
    expect($this->person->refresh()->outside_name)->toBeNull();
    config(['harbor.oidc.issuer' => '']);
    $this->get('/sign-in/with')->assertNotFound();
    $this->get('/sign-in')->assertDontSee('/sign-in/with');
    config(['harbor.oidc.issuer' => 'http://login.example']);
    $this->get('/sign-in/with')->assertRedirect('/sign-in');
});
