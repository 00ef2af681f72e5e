<?php

declare(strict_types=1);

use App\Acts\Directory\MakeToken;
use App\Acts\Plan\PlaceHost;
use App\Api\Collections;
use App\Api\Graph\GraphLoader;
use App\Api\Graph\GraphQuestion;
use App\Api\Graph\GraphSchema;
use App\Models\Person;
use App\Models\Token;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->ask = fn (string $query, array $variables = [], ?Person $as = null): array => GraphQuestion::answer(
        Reach::of($as ?? $this->w->people['planner']), $query, $variables, null,
    );
    $this->host = function (string $name, string $address): void {
        $this->w->did(PlaceHost::fromInput([
            'prefix' => $this->w->subnet->id, 'name' => $name, 'address' => $address, 'zone' => $this->w->zone->id,
        ]));
    };
});

it('answers across objects, both ways along what names what', function (): void {
    ($this->host)('till-1', '192.0.2.10');
    ($this->host)('till-2', '192.0.2.11');
    $told = ($this->ask)(
        'query ($p: String!) { prefix(known: $p) { prefix name version space { name } addresses(first: 1) { items { name address '
        .'prefix { prefix } records(type: "A") { items { owner type data zone { title } } } } next } '
        .'scopes { items { name ranges servers } } } }',
        ['p' => $this->w->subnet->id],
    );
    expect($told['errors'] ?? [])->toBe([]);
    $prefix = $told['data']['prefix'];
    expect($prefix['prefix'])->toBe('192.0.2.0/25')->and($prefix['space']['name'])->toBe($this->w->space->name)
        ->and($prefix['addresses']['items'])->toHaveCount(1)->and($prefix['addresses']['next'])->not->toBeNull()
        ->and($prefix['addresses']['items'][0]['prefix']['prefix'])->toBe('192.0.2.0/25')
        ->and($prefix['addresses']['items'][0]['records']['items'][0])->toMatchArray(
            ['type' => 'A', 'data' => '192.0.2.10', 'zone' => ['title' => $this->w->zone->title()]],
        )
        ->and($prefix['scopes']['items'][0]['ranges'])->toHaveCount(2)
        ->and($prefix['scopes']['items'][0]['servers'])->toHaveCount(2);
    $rest = ($this->ask)(
        'query ($p: String!, $a: ID) { prefix(known: $p) { addresses(after: $a) { items { name } next } } }',
        ['p' => $this->w->subnet->id, 'a' => $prefix['addresses']['next']],
    )['data']['prefix']['addresses'];
    expect($rest['items'])->toHaveCount(1)->and($rest['items'][0]['name'])->toStartWith('till-2.')->and($rest['next'])->toBeNull();
});

it('reads a level in as many queries whether it has one object or many', function (): void {
    $count = function (): int {
        DB::flushQueryLog();
        DB::enableQueryLog();
        $told = ($this->ask)('{ spaces(name: "Core", first: 20) { items { prefixes { items { name space { name } vlan { number } '
            .'addresses { items { name records { items { owner zone { title view { name } } } } } } } } } } }');
        expect($told)->not->toHaveKey('errors');

        return count(DB::getQueryLog());
    };
    ($this->host)('one', '192.0.2.10');
    $count();
    $few = $count();
    foreach (range(11, 30) as $i) {
        ($this->host)("h$i", "192.0.2.$i");
        $this->w->carve('192.0.2.'.(128 + ($i - 11) * 4).'/30', ['name' => "Link $i"]);
    }
    expect($count())->toBe($few);
});

it('tells nobody more than they may see, along any way', function (): void {
    ($this->host)('secret-host', '192.0.2.10');
    $this->w->did($tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => 'Strangers '.bin2hex(random_bytes(3))]));
    $stranger = $this->w->person('stranger-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    foreach (array_keys(Collections::OF) as $collection) {
        $field = str_replace('-', '_', $collection);
        $told = ($this->ask)("{ $field { items { id line } } }", as: $stranger);
        expect(json_encode($told))->not->toContain('secret-host')->not->toContain($this->w->zone->title())->not->toContain('192.0.2.');
    }
    $one = ($this->ask)('query ($id: String!) { prefix(known: $id) { name } zone(known: "'.$this->w->zone->title().'") { title } '
        .'space(known: "'.$this->w->space->name.'") { prefixes { items { name } } } }', ['id' => $this->w->subnet->id], $stranger);
    expect($one['data']['prefix'])->toBeNull()->and($one['data']['zone'])->toBeNull()
        ->and($one['data']['space']['prefixes']['items'] ?? [])->toBe([]);
});

it('never tells what is secret, whatever is asked for', function (): void {
    foreach (['token', 'secret', 'password', 'hash', 'owner_key', 'structure'] as $name) {
        expect(($this->ask)("{ servers { items { $name } } }")['errors'][0]['message'])->toContain("Cannot query field \"$name\"");
    }
    foreach (array_keys(Collections::OF) as $collection) {
        expect(array_keys(Collections::kinds($collection)))->not->toContain('token')->not->toContain('secret');
    }
});

it('says what cannot be asked, and keeps within its bounds', function (): void {
    $fault = fn (string $query): string => GraphQuestion::fault(($this->ask)($query)['errors'][0] ?? []);
    expect($fault('{ prefixes { items { nam } } }'))->toStartWith('line 1, column 22: Cannot query field "nam"')
        ->and($fault('{ prefixes(within: "fish") { items { name } } }'))->toContain('within: "fish" is not a prefix')
        ->and($fault('{ prefixes(first: 501) { items { name } } }'))->toContain('"first" is from 1 to 500')
        ->and($fault('mutation { x }'))->toContain('mutation')
        ->and($fault('{'))->toContain('Syntax Error');
    $this->w->carve('192.0.2.128/26', ['name' => 'Twin']);
    $this->w->carve('192.0.2.192/26', ['name' => 'Twin']);
    expect($fault('{ prefix(known: "Twin") { name } }'))->toContain('may be several')->toContain('192.0.2.192/26');
    $deep = str_repeat('{ parent ', 20).'{ name }'.str_repeat('}', 20);
    expect($fault("{ sites { items $deep } }"))->toContain('depth');
    $wide = implode(' ', array_map(fn (int $i): string => "a$i: name", range(1, 1100)));
    expect($fault("{ sites { items { $wide } } }"))->toContain('complexity');
    expect(GraphSchema::of(Reach::of($this->w->people['planner']))->validate())->toBe([]);
});

it('is ended where it would read too many objects', function (): void {
    $rows = [];
    foreach (range(1, 500) as $i) {
        $rows[] = ['id' => sprintf('01GRAPH%019d', $i), 'name' => sprintf('graphsite%04d', $i), 'parent_id' => null, 'version' => 1];
    }
    DB::table('sites')->insert($rows);
    $again = implode(' ', array_map(fn (int $i): string => "a$i: sites(name: \"graphsite\", first: 500) { items { name } }", range(1, 42)));
    $errors = ($this->ask)("{ $again }")['errors'];
    expect($errors[0]['message'])->toContain('more than '.number_format(GraphLoader::OBJECTS).' objects');
});

it('is asked by a token that only reads, and by nobody without one', function (): void {
    $made = $this->w->acts()->commit($this->w->people['reader'], [MakeToken::fromInput(['name' => 'reader'])]);
    $secret = (string) $made->made('once');
    $post = fn (array $body, string $with) => $this->call('POST', '/api/v1/graphql', server: [
        'HTTP_AUTHORIZATION' => "Bearer $with", 'CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json',
    ], content: json_encode($body));
    expect(Token::query()->where('name', 'reader')->latest('id')->firstOrFail()->writes)->toBeFalse();
    $post(['query' => '{ spaces(name: "Core") { items { name } } }'], $secret)->assertOk()->assertJsonPath('errors', null);
    $post(['query' => 7], $secret)->assertStatus(400);
    $post(['query' => str_repeat(' ', 60_000)], $secret)->assertStatus(413);
    $post(['query' => '{ spaces { items { name } } }'], 'hp_none')->assertStatus(401);
    $asked = '/api/v1/graphql?query='.urlencode('{ sites { items { name } } }');
    $this->call('GET', $asked, server: ['HTTP_AUTHORIZATION' => "Bearer $secret"])->assertOk();
});

it('is tried on a page with its types beside it', function (): void {
    $this->actingAs($this->w->people['reader']);
    $this->get('/graph')->assertOk()->assertReads('Nothing was asked yet')->assertSee('type Query');
    $this->post('/graph', ['query' => '{ prefix(known: "'.$this->w->subnet->id.'") { name } }'])->assertOk()->assertSee('Ticketing');
    $this->post('/graph', ['query' => '{ nothing }'])->assertOk()->assertReads('line 1, column 3: Cannot query field &quot;nothing&quot;');
    foreach (GraphQuestion::EXAMPLES as $text) {
        $faults = array_column(($this->ask)($text)['errors'] ?? [], 'message');
        expect($faults)->toBe([]);
    }
});
