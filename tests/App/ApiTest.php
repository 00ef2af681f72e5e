<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\MakeRule;
use App\Acts\Directory\MakeToken;
use App\Acts\Directory\RevokeToken;
use App\Acts\Engine\Inputs;
use App\Acts\Plan\PlaceHost;
use App\Acts\Registry;
use App\Api\Collections;
use App\Api\OpenApi;
use App\Api\Problem;
use App\Http\Middleware\Answering;
use App\Models\Draft;
use App\Models\Host;
use App\Models\Person;
use App\Models\Token;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->token = function (?Person $person = null, array $more = ['writes' => '1']): string {
        $outcome = $this->w->acts()->commit($person ?? $this->w->people['operator'], [MakeToken::fromInput($more + ['name' => 'meter'])]);

        return (string) $outcome->made('once');
    };
    $this->call0 = function (string $method, string $path, array $body = [], array $headers = [], ?string $token = null) {
        $this->app['auth']->forgetGuards();
        $secret = $token ?? ($this->secret ??= ($this->token)());

        return $this->json($method, "/api/v1/$path", $body, ['Authorization' => "Bearer $secret"] + $headers);
    };
    $this->act = fn (string $act, array $input, array $more = [], array $headers = [], ?string $token = null) => ($this->call0)(
        'POST', "acts/$act", ['input' => $input] + $more, $headers, $token,
    );
    $this->placed = fn (): int => Host::query()->where('prefix_id', $this->w->subnet->id)->count();
});

it('lets in who shows a token that holds, and nobody else', function (): void {
    $secret = ($this->token)();
    ($this->call0)('GET', 'prefixes', token: $secret)->assertOk();
    ($this->call0)('GET', 'prefixes', token: 'hp_nonsense')->assertStatus(401)->assertHeader('WWW-Authenticate', 'Bearer')
        ->assertHeader('Content-Type', 'application/problem+json');
    ($this->call0)('GET', 'prefixes', token: '')->assertStatus(401);
    ($this->call0)('GET', 'prefixes', token: str_replace('hp_', '', $secret))->assertStatus(401);
    $row = Token::query()->where('hash', Token::hashOf($secret))->sole();
    expect($row->last_used_at)->not->toBeNull()->and(json_encode($row->readable($row->getAttributes())))->not->toContain($row->hash);
    Token::query()->whereKey($row->id)->toBase()->update(['expires_at' => now()->subMinute()]);
    ($this->call0)('GET', 'prefixes', token: $secret)->assertStatus(401)->assertJsonPath('detail', 'The token has ended.');
    Token::query()->whereKey($row->id)->toBase()->update(['expires_at' => now()->addDay()]);
    $this->w->did(ChangePerson::fromInput(['person' => $row->person_id, 'active' => '0']));
    ($this->call0)('GET', 'prefixes', token: $secret)->assertStatus(401);
});

it('keeps no token that can be read, and ends one at once', function (): void {
    $operator = $this->w->people['operator'];
    $secret = ($this->token)();
    foreach (['tokens', 'history'] as $table) {
        foreach (DB::table($table)->get() as $row) {
            expect(json_encode($row, JSON_INVALID_UTF8_SUBSTITUTE))->not->toContain($secret);
        }
    }
    $id = Token::query()->where('person_id', $operator->id)->value('id');
    expect($this->w->acts()->commit($this->w->people['planner'], [new RevokeToken($id)])->blocked())->toBeTrue();
    ($this->call0)('GET', 'zones', token: $secret)->assertOk();
    $this->w->acts()->commit($operator, [new RevokeToken($id)]);
    ($this->call0)('GET', 'zones', token: $secret)->assertStatus(401);
    $this->app['auth']->forgetGuards();
    $this->actingAs($operator)->post('/act/make-token', ['name' => 'page', 'then' => 'commit'])->assertSessionHas('once');
    $this->get('/me')->assertOk()->assertSee('page')->assertReads('The token is hp_');
});

it('reads lists in pages, filtered, with the fields that are asked for', function (): void {
    foreach (range(1, 5) as $n) {
        $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => "till-$n", 'mac' => "00:00:5e:00:53:0$n"]));
    }
    $got = ($this->call0)('GET', "addresses?prefix_id={$this->w->subnet->id}&limit=2&fields=address,name")->assertOk();
    expect($got->json('items.0'))->toHaveKeys(['address', 'name'])->not->toHaveKey('mac')
        ->and($got->headers->get('Link'))->toContain('rel="next"');
    $seen = [];
    $path = "addresses?prefix_id={$this->w->subnet->id}&limit=2";
    for ($n = 0; $path !== null && $n < 9; $n++) {
        $page = ($this->call0)('GET', $path);
        array_push($seen, ...array_column($page->json('items'), 'address'));
        $next = $page->json('next');
        $path = $next === null ? null : "addresses?prefix_id={$this->w->subnet->id}&limit=2&after=$next";
    }
    sort($seen);
    expect($seen)->toBe(['192.0.2.2', '192.0.2.3', '192.0.2.4', '192.0.2.5', '192.0.2.6']);
    $lines = ($this->call0)(
        'GET',
        "addresses?prefix_id={$this->w->subnet->id}",
        headers: ['Accept' => 'application/x-ndjson'],
    )->streamedContent();
    expect(array_filter(explode("\n", $lines)))->toHaveCount(5);
    $find = fn (string $path): array => array_column(($this->call0)('GET', $path)->assertOk()->json('items'), 'line');
    expect($find('addresses?mac=00:00:5e:00:53:03'))->toBe(['192.0.2.4 till-3'])
        ->and($find('addresses?within=192.0.2.2/31'))->toHaveCount(2)
        ->and($find('prefixes?within=192.0.2.0/25'))->toBe(['192.0.2.0/25 Ticketing'])
        ->and($find('prefixes?holds=192.0.2.77'))->toBe(['192.0.2.0/24 Quay', '192.0.2.0/25 Ticketing'])
        ->and($find('prefixes?name=tick'))->toBe(['192.0.2.0/25 Ticketing'])
        ->and($find("records?zone_id={$this->w->zone->id}&type=NS"))->toHaveCount(2);
});

it('serves every list and an object of each', function (): void {
    $token = ($this->token)($this->w->people['steward']);
    foreach (array_keys(Collections::OF) as $collection) {
        $page = ($this->call0)('GET', "$collection?limit=1", token: $token)->assertOk();
        $one = $page->json('items.0.id');
        if ($one !== null) {
            ($this->call0)('GET', "$collection/$one", token: $token)->assertOk()->assertJsonPath('id', $one);
        }
        foreach (Collections::filters($collection) as $filter) {
            expect(
                ($this->call0)('GET', "$collection?$filter=192.0.2.0", token: $token)->getStatusCode(),
            )->toBeIn([200, 400], "$collection by $filter");
        }
    }
    $text = ($this->call0)('GET', 'servers', token: $token)->getContent();
    expect($text)->not->toContain('"token"')->not->toContain('password');
});

it('finds an object by what people know, and says when that may be several', function (): void {
    $w = $this->w;
    ($this->call0)('GET', 'prefixes/192.0.2.0/25')->assertOk()->assertJsonPath('id', $w->subnet->id)->assertHeader('ETag');
    ($this->call0)('GET', 'zones/'.$w->zone->title())->assertOk()->assertJsonPath('id', $w->zone->id);
    ($this->call0)('GET', 'prefixes/198.51.100.0/24')->assertNotFound()->assertJsonPath('type', 'urn:harbor-post:problem:not-found');
    $etag = ($this->call0)('GET', "prefixes/{$w->subnet->id}")->headers->get('ETag');
    ($this->call0)('GET', "prefixes/{$w->subnet->id}", headers: ['If-None-Match' => $etag])->assertStatus(304);
    $other = App\Acts\Directory\MakeSpace::fromInput(['name' => 'Twin '.bin2hex(random_bytes(3))]);
    $w->did($other);
    $w->did(App\Acts\Plan\CarvePrefix::fromInput(['space' => $other->id, 'prefix' => '192.0.2.0/25']));
    ($this->call0)('GET', 'prefixes/192.0.2.0/25')->assertStatus(409)->assertJsonCount(2, 'errors');
});

it('does an act, with what it wrote, and names the program in the history', function (): void {
    $input = ['prefix' => '192.0.2.0/25', 'name' => 'till-1', 'zone' => $this->w->zone->title(), 'ptr' => true];
    ($this->act)('place-host', $input, ['rehearse' => true])->assertOk()->assertJsonPath('committed', false);
    expect(($this->placed)())->toBe(0);
    $made = ($this->act)('place-host', $input, headers: ['X-Request-Id' => 'run-7'])->assertStatus(201)->assertJsonPath('committed', true)
        ->assertHeader('X-Request-Id', 'run-7');
    expect(($this->placed)())->toBe(1)->and(array_column($made->json('written'), 'kind'))->toContain('address')->toContain('record');
    $via = DB::table('history')->where('object_type', 'address')
        ->where('object_id', Host::query()->where('name', 'like', 'till-1%')->value('id'))->value('via');
    expect($via)->toBe('token meter, request run-7');
    // The name points elsewhere by now: that is a warning, and wants a reason.
    ($this->act)('place-host', $input)->assertStatus(422)->assertJsonPath('status', 422);
    // What is done on a page after that names no program.
    $this->w->acts()
        ->commit($this->w->people['operator'], [PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'till-2'])], reason: 'r');
    expect(DB::table('history')->where('object_type', 'address')->orderByDesc('id')->value('via'))->toBeNull();
});

it('tells what is wrong with an input, at its place', function (): void {
    ($this->act)('place-host', ['prefix' => 'nowhere', 'name' => 'x'])->assertStatus(422)
        ->assertJsonPath('errors.0.pointer', '/input/prefix');
    ($this->act)('place-host', ['prefix' => $this->w->subnet->id, 'colour' => 'red'])->assertStatus(422)
        ->assertJsonPath('errors.0.code', 'unknown-input');
    ($this->act)('place-host', ['prefix' => $this->w->subnet->id, 'mac' => '00:00'])->assertStatus(409)
        ->assertJsonPath('errors.0.pointer', '/input/mac');
    ($this->act)('no-such-act', [])->assertNotFound()->assertJsonPath('type', 'urn:harbor-post:problem:no-such-act');
    ($this->call0)('POST', 'acts', ['acts' => [['act' => 'place-host', 'input' => ['prefix' => 'nowhere']]]])->assertStatus(422)
        ->assertJsonPath('errors.0.pointer', '/acts/0/input/prefix');
    $this->app['auth']->forgetGuards();
    $post = fn (string $body, string $type): int => $this->call('POST', '/api/v1/acts/place-host', server: [
        'HTTP_AUTHORIZATION' => 'Bearer '.$this->secret, 'CONTENT_TYPE' => $type, 'HTTP_ACCEPT' => 'application/json',
    ], content: $body)->getStatusCode();
    expect($post('{', 'application/json'))->toBe(400)->and($post('a=1', 'application/x-www-form-urlencoded'))->toBe(415)
        ->and($post('[1', 'application/json'))->toBe(400);
    ($this->call0)('DELETE', 'prefixes')->assertStatus(405);
    ($this->call0)('GET', 'lighthouses')->assertNotFound();
    ($this->call0)('GET', 'prefixes?colour=red')->assertStatus(400);
    ($this->call0)('GET', 'prefixes?within=x')->assertStatus(400);
    ($this->call0)('GET', 'prefixes?limit=0')->assertStatus(400);
    ($this->call0)('GET', 'prefixes?name[]=x')->assertStatus(400);
});

it('does several acts as one, each on what those before it wrote, or none', function (): void {
    $site = (string) Illuminate\Support\Str::ulid();
    $token = ($this->token)($this->w->people['planner']);
    $acts = [
        ['act' => 'make-site', 'input' => ['id' => $site, 'name' => 'New Quay']],
        ['act' => 'change-prefix', 'input' => ['prefixes' => [$this->w->subnet->id], 'site' => $site]],
    ];
    ($this->call0)(
        'POST',
        'acts',
        ['acts' => [...$acts, ['act' => 'make-site', 'input' => ['name' => 'New Quay']]]],
        token: $token,
    )->assertStatus(409);
    expect($this->w->subnet->refresh()->site_id)->toBeNull();
    ($this->call0)('POST', 'acts', ['acts' => $acts, 'reason' => 'the new quay'], token: $token)->assertStatus(201);
    expect($this->w->subnet->refresh()->site_id)->toBe($site);
    ($this->call0)('POST', 'acts', ['acts' => []], token: $token)->assertStatus(400);
    ($this->call0)('POST', 'acts', ['acts' => ['x' => 1]], token: $token)->assertStatus(400);
});

it('is done once under one key, whatever is sent how often', function (): void {
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1'];
    $first = ($this->act)('place-host', $input, headers: ['Idempotency-Key' => 'k1'])->assertStatus(201);
    $again = ($this->act)('place-host', $input, headers: ['Idempotency-Key' => 'k1'])->assertStatus(201)
        ->assertHeader('Idempotent-Replay', 'true');
    expect($again->getContent())->toBe($first->getContent())->and(($this->placed)())->toBe(1);
    ($this->act)('place-host', ['name' => 'till-2'] + $input, headers: ['Idempotency-Key' => 'k1'])->assertStatus(422)
        ->assertJsonPath('type', 'urn:harbor-post:problem:other-request');
    // Another program has keys of its own.
    ($this->act)(
        'place-host',
        ['name' => 'till-3'] + $input,
        headers: ['Idempotency-Key' => 'k1'],
        token: ($this->token)(),
    )->assertStatus(201);
    DB::table('answered')->update(['at' => now()->subHours(25)]);
    ($this->act)('place-host', ['name' => 'till-4'] + $input, headers: ['Idempotency-Key' => 'k1'])->assertStatus(201);
    ($this->act)('place-host', $input, headers: ['Idempotency-Key' => 'a b'])->assertStatus(400);
    expect(($this->placed)())->toBe(3);
});

it('takes a request over whose process was ended, and lets the first commit nothing then', function (): void {
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1'];
    $token = ($this->token)($this->w->people['planner']);
    $open = function (string $key, array $body, int $seconds) use ($token): void {
        DB::table('answered')->insert([
            'token_id' => Token::query()->where('hash', Token::hashOf($token))->value('id'), 'key' => $key, 'holder' => 'first',
            'request' => hash('sha256', "POST /api/v1/acts/place-host\n".json_encode($body)), 'at' => now()->subSeconds($seconds),
        ]);
    };
    $send = fn (string $key, array $more = []) => ($this->act)(
        'place-host', $input, $more, headers: ['Idempotency-Key' => $key], token: $token,
    );
    $open('k1', ['input' => $input], 3);
    $send('k1')->assertStatus(409)->assertHeader('Retry-After')->assertJsonPath('type', 'urn:harbor-post:problem:being-answered');
    DB::table('answered')->update(['at' => now()->subSeconds(11)]);
    $first = new Answering(DB::table('answered')->where('key', 'k1')->where('holder', 'first')->whereNull('status'));
    $taken = $send('k1')->assertStatus(201);
    // The first was only slow: what it did by then is rolled back.
    expect(fn () => $this->w->acts()->commit(
        $this->w->people['planner'], [PlaceHost::fromInput(['name' => 'till-2'] + $input)], witness: $first,
    ))->toThrow(Problem::class)->and(($this->placed)())->toBe(1)
        ->and($send('k1')->assertStatus(201)->getContent())->toBe($taken->getContent());
    // Of what goes into a draft nothing is written with it that could tell: nobody will answer any more.
    $open('k2', ['input' => $input, 'draft' => true], 60);
    $send('k2', ['draft' => true])->assertStatus(409)->assertJsonPath('type', 'urn:harbor-post:problem:being-answered');
    DB::table('answered')->where('key', 'k2')->update(['at' => now()->subMinutes(11)]);
    $send('k2', ['draft' => true])->assertStatus(409)->assertJsonPath('type', 'urn:harbor-post:problem:answer-lost');
    expect(($this->placed)())->toBe(1);
});

it('writes an answer with what it tells of, or neither', function (): void {
    $token = ($this->token)($this->w->people['planner']);
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1'];
    $said = ($this->act)('place-host', $input, headers: ['Idempotency-Key' => 'k1'], token: $token)->assertStatus(201)->getContent();
    expect(DB::table('answered')->where('key', 'k1')->value('body'))->toBe($said);
    $refused = ($this->act)('place-host', ['address' => '203.0.113.9'] + $input, headers: ['Idempotency-Key' => 'k2'], token: $token);
    expect($refused->status())->toBe(409)->and(DB::table('answered')->where('key', 'k2')->value('status'))->toBe(409)
        ->and(($this->placed)())->toBe(1);
});

it('writes only over the version that was seen', function (): void {
    $token = ($this->token)($this->w->people['planner']);
    $object = "prefix:{$this->w->subnet->id}";
    $seen = $this->w->subnet->version;
    $input = ['prefixes' => [$this->w->subnet->id], 'name' => 'A'];
    ($this->act)('change-prefix', $input, ['expects' => [$object => $seen], 'reason' => 'r'], token: $token)->assertStatus(201);
    ($this->act)(
        'change-prefix',
        ['name' => 'B'] + $input,
        ['expects' => [$object => $seen], 'reason' => 'r'],
        token: $token,
    )->assertStatus(412);
    expect($this->w->subnet->refresh()->name)->toBe('A');
    ($this->act)('change-prefix', $input, ['expects' => ['x' => 'y']], token: $token)->assertStatus(400);
});

it('writes only what If-Match names, and says when it cannot', function (): void {
    $token = ($this->token)($this->w->people['planner']);
    $change = fn (string $name, string $tag, array $ids = []) => ($this->act)(
        'change-prefix',
        ['prefixes' => [$this->w->subnet->id, ...$ids], 'name' => $name],
        ['reason' => 'r'],
        ['If-Match' => $tag],
        $token,
    );
    $tag = ($this->call0)('GET', "prefixes/{$this->w->subnet->id}", token: $token)->headers->get('ETag');
    $change('A', $tag)->assertStatus(201);
    $change('B', $tag)->assertStatus(412)->assertJsonPath('type', 'urn:harbor-post:problem:changed-meanwhile');
    $change('B', 'W/"1"')->assertStatus(400);
    $change('B', $tag, [$this->w->top->id])->assertStatus(400);
    $change('C', '*')->assertStatus(201);
    expect($this->w->subnet->refresh()->name)->toBe('C');
    $list = ['acts' => [['act' => 'change-prefix', 'input' => ['prefixes' => [$this->w->subnet->id], 'name' => 'D']]]];
    ($this->call0)('POST', 'acts', $list, ['If-Match' => $tag], $token)->assertStatus(400);
});

it('keeps several acts in the draft, or none of them', function (): void {
    $place = fn (string $name, array $more = []): array => [
        'act' => 'place-host', 'input' => $more + ['prefix' => $this->w->subnet->id, 'name' => $name],
    ];
    $kept = fn (): int => App\Models\DraftEdit::query()->whereIn(
        'draft_id',
        App\Models\Draft::query()->where('person_id', $this->w->people['operator']->id)->select('id'),
    )->count();
    $token = ($this->token)($this->w->people['operator']);
    $bad = ['acts' => [$place('one'), $place('two', ['address' => '203.0.113.9'])], 'draft' => true];
    ($this->call0)('POST', 'acts', $bad, [], $token)->assertStatus(409);
    expect($kept())->toBe(0);
    ($this->call0)('POST', 'acts', ['acts' => [$place('one'), $place('two')], 'draft' => true], [], $token)->assertStatus(202);
    expect($kept())->toBe(2)->and(($this->placed)())->toBe(0);
});

it('asks for the reason of a warning, and for agreement where a rule does', function (): void {
    $warned = ['scope' => $this->w->scope->id, 'code' => 3, 'value' => '198.51.100.1'];
    ($this->act)('set-option', $warned)->assertStatus(422)->assertJsonPath('type', 'urn:harbor-post:problem:needs-reason');
    ($this->act)('set-option', $warned, ['reason' => 'the old router'])->assertStatus(201);
    $this->w->did(MakeRule::fromInput(['kind' => 'touches', 'noun' => 'address']));
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1'];
    ($this->act)('place-host', $input)->assertForbidden()->assertJsonPath('type', 'urn:harbor-post:problem:needs-agreement');
    ($this->act)('place-host', $input, ['draft' => true])->assertStatus(202)->assertJsonPath('kept', 1);
    expect(($this->placed)())->toBe(0)
        ->and(Draft::query()->where('person_id', $this->w->people['operator']->id)->where('state', 'open')->sole()->edits)->toHaveCount(1);
    ($this->act)('revoke-token', ['token' => 'x'], ['draft' => true])->assertStatus(422);
});

it('does no more than its token and its person may', function (): void {
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1'];
    $reads = ($this->token)(more: []);
    ($this->call0)('GET', 'prefixes', token: $reads)->assertOk();
    ($this->act)('place-host', $input, token: $reads)->assertForbidden();
    $narrow = ($this->token)(more: ['writes' => '1', 'acts' => 'hold-run']);
    ($this->act)('place-host', $input, token: $narrow)->assertForbidden()
        ->assertJsonPath('type', 'urn:harbor-post:problem:not-of-this-token');
    ($this->act)('make-space', ['name' => 'X'])->assertForbidden()->assertJsonPath('type', 'urn:harbor-post:problem:not-allowed');
    ($this->act)('place-host', $input, token: ($this->token)($this->w->people['reader']))->assertForbidden();
    expect(($this->placed)())->toBe(0);
    $acts = ($this->call0)('GET', '', token: $narrow)->assertOk()->json('acts');
    expect($acts)->toBe(['/api/v1/acts/hold-run']);
});

it('shows a bound person\'s program nothing of others', function (): void {
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'till-1']));
    $token = ($this->token)($this->w->bound());
    $find = fn (string $path): array => array_column(($this->call0)('GET', $path, token: $token)->json('items') ?? [], 'line');
    expect($find('prefixes'))->toBe(['192.0.2.128/26 Gates'])->and($find('addresses'))->toBe([])->and($find('records'))->toBe([])
        ->and($find('leases'))->toBe([]);
    foreach (['servers', 'views'] as $collection) {
        expect(count($find($collection)))->toBe(0);
    }
    ($this->call0)('GET', "prefixes/{$this->w->subnet->id}", token: $token)->assertNotFound();
    ($this->call0)('GET', 'prefixes/192.0.2.0/25', token: $token)->assertNotFound();
    $wrong = ($this->act)('place-host', ['prefix' => $this->w->subnet->id, 'name' => 'x'], token: $token);
    expect($wrong->getStatusCode())->toBeIn([403, 409, 422])->and($wrong->getContent())->not->toContain('Ticketing');
});

it('is described as it is', function (): void {
    $document = OpenApi::document();
    expect($document['openapi'])->toBe('3.1.0');
    $ids = [];
    foreach ($document['paths'] as $path => $methods) {
        foreach ($methods as $operation) {
            $ids[] = $operation['operationId'];
            preg_match_all('/\{(\w+)\}/', $path, $m);
            $named = array_column(array_filter($operation['parameters'], fn (array $p): bool => $p['in'] === 'path'), 'name');
            expect($named)->toBe($m[1])->and($operation['responses'])->toHaveKey('default')->and($operation['summary'])->not->toBe('');
        }
    }
    expect(array_unique($ids))->toHaveCount(count($ids));
    foreach (Registry::ACTS as $act) {
        $body = $document['paths']['/acts/'.$act::key()]['post']['requestBody']['content']['application/json']['schema'];
        expect(array_keys((array) $body['properties']['input']['properties']))->toBe(array_keys(Inputs::of($act)), $act);
    }
    // Every reference leads somewhere.
    preg_match_all('/"\$ref":"#\/([^"]+)"/', (string) json_encode($document, JSON_UNESCAPED_SLASHES), $refs);
    foreach (array_unique($refs[1]) as $ref) {
        $at = $document;
        foreach (explode('/', $ref) as $part) {
            $at = $at[$part] ?? null;
        }
        expect($at)->not->toBeNull($ref);
    }
    $this->app['auth']->forgetGuards();
    $this->getJson('/api/v1/openapi.json')->assertOk()->assertJsonPath('info.title', 'Harbor Post');
    $this->actingAs($this->w->people['reader'])->get('/api')->assertOk()->assertSee('/acts/drop-draft')->assertDontSee('/acts/make-space');
});

it('never fails, whatever is sent to an act', function (): void {
    mt_srand(20261126);
    $token = ($this->token)($this->w->person('all-'.bin2hex(random_bytes(3)), ['planner', 'operator', 'steward', 'approver']));
    $values = [
        '',
        'x',
        '-',
        '192.0.2.0/25',
        '10.0.0.1',
        -1,
        0,
        99999999999,
        1.5,
        true,
        null,
        [],
        ['x'],
        ['a' => 'b'],
        str_repeat('é', 300),
        "a\u{0}b",
        '../..',
        '<b>',
        '%',
        $this->w->subnet->id,
    ];
    $bad = [];
    for ($i = 0; $i < 400; $i++) {
        $act = Registry::ACTS[mt_rand(0, count(Registry::ACTS) - 1)];
        if (in_array($act::key(), ['make-person', 'reset-password', 'change-password', 'end-sessions'], true)) {
            continue;
        }
        $input = [];
        foreach (array_keys(Inputs::of($act)) as $name) {
            if (mt_rand(0, 3) > 0) {
                $input[$name] = $values[mt_rand(0, count($values) - 1)];
            }
        }
        $status = ($this->act)($act::key(), $input, ['rehearse' => true], token: $token)->getStatusCode();
        $status < 500 ?: $bad[] = $act::key().' '.json_encode($input, JSON_PARTIAL_OUTPUT_ON_ERROR)." $status";
    }
    expect($bad)->toBe([]);
});

it('gives beside an object what it names, in sets, and only what the person may see', function (): void {
    $w = $this->w;
    foreach (range(1, 3) as $n) {
        $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => "till-$n"]));
    }
    $path = "addresses?prefix_id={$w->subnet->id}&fields=name";
    $queries = function (string $path): array {
        $n = 0;
        DB::listen(function () use (&$n): void {
            $n++;
        });
        $got = ($this->call0)('GET', $path)->assertOk();

        return [$got->json('items'), $n];
    };
    [$items] = $queries("$path&include=prefix,device");
    expect($items)->toHaveCount(3)->and($items[2]['included']['prefix']['prefix'])->toBe('192.0.2.0/25')
        ->and($items[2]['included']['device'])->toBeNull()->and($items[2])->toHaveKey('name')->not->toHaveKey('mac');
    [, $few] = $queries("$path&limit=1&include=prefix");
    [, $many] = $queries("$path&include=prefix");
    expect($many - $few)->toBeLessThanOrEqual($few);
    $lines = array_filter(explode("\n", ($this->call0)('GET', "$path&include=prefix",
        headers: ['Accept' => 'application/x-ndjson'])->streamedContent()));
    expect($lines)->toHaveCount(3)->and(json_decode((string) end($lines), true)['included']['prefix']['name'])->toBe('Ticketing');
    $one = ($this->call0)('GET', "prefixes/{$w->subnet->id}?include=space,site")->assertOk();
    expect($one->json('included.space.name'))->toBe($w->space->name)->and($one->json('included.site'))->toBeNull()
        ->and($one->headers->has('ETag'))->toBeFalse()
        ->and(($this->call0)('GET', "prefixes/{$w->subnet->id}")->headers->has('ETag'))->toBeTrue();
    $wrong = ($this->call0)('GET', 'prefixes?include=moon')->assertStatus(400);
    expect($wrong->json('detail'))->toContain('space, site, vlan, tenant');
    ($this->call0)('GET', 'spaces?include=site')->assertStatus(400);
    // Somebody of one tenant sees the site of their prefix, and not the one around it.
    $isles = App\Acts\Directory\MakeSite::fromInput(['name' => 'Isles '.bin2hex(random_bytes(3))]);
    $w->did($isles);
    $pier = App\Acts\Directory\MakeSite::fromInput(['name' => 'Pier '.bin2hex(random_bytes(3)), 'parent' => $isles->id]);
    $w->did($pier);
    $bound = $w->bound();
    $theirs = App\Models\Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->firstOrFail();
    $w->did(App\Acts\Plan\ChangePrefix::fromInput(['prefixes' => [$theirs->id], 'site' => $pier->id]));
    $sites = fn (?string $token): array => ($this->call0)('GET', 'sites?include=parent&name=pier', token: $token)
        ->assertOk()->json('items');
    expect($sites(null)[0]['included']['parent']['id'])->toBe($isles->id)
        ->and($sites(($this->token)($bound))[0]['included']['parent'])->toBeNull();
});

it('has a schema in which a linter of its own finds nothing', function (): void {
    $file = sys_get_temp_dir().'/hpost-schema-'.bin2hex(random_bytes(4)).'.json';
    $lint = function (array $document) use ($file): array {
        file_put_contents($file, json_encode($document, JSON_THROW_ON_ERROR));
        $root = dirname(__DIR__, 2);
        exec("cd $root && node_modules/.bin/spectral lint $file --ruleset tests/spectral.yaml --fail-severity=hint --quiet 2>&1", $says,
            $status);

        return [$status, implode("\n", $says)];
    };
    $document = App\Api\OpenApi::document();
    expect($lint($document)[1])->not->toContain('error')->not->toContain('warning')->and($lint($document)[0])->toBe(0);
    // It does find what is wrong.
    unset($document['info']['title']);
    expect($lint($document)[0])->not->toBe(0);
    unlink($file);
});
