<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePassword;
use App\Acts\Directory\EndSessions;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeTenant;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeRecord;
use App\Acts\Name\ChangeRecords;
use App\Acts\Name\GrantName;
use App\Acts\Name\RemoveRecords;
use App\Acts\Plan\ChangeHost;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\ReleaseHosts;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Queries\Invariants;
use App\Queries\PrefixPage;
use App\Queries\Reach;
use App\Queries\ZonePage;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->reach = Reach::of($this->w->people['planner']);
    $this->record = fn (string $name, string $type, string $data, array $more = []): Record => Record::query()->findOrFail(
        $this->w->did(
            AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => $name, 'type' => $type, 'data' => $data] + $more),
        )->ledgers[0]->written[0]->id,
    );
    $this->codes = fn (array $acts): array => array_map(
        fn ($n): string => $n->code,
        $this->w->acts()->rehearse($this->w->people['operator'], $acts)->notes(),
    );
});

it('finds subnets by how full they are shown', function (string $filter, array $found, int $misread): void {
    // /31: two addresses and no gateway; /29: six, of which the gateway is one.
    $this->w->carve('192.0.2.128/31', ['name' => 'Line', 'stage' => 'live']);
    $full = $this->w->carve('192.0.2.136/29', ['name' => 'Full', 'stage' => 'live']);
    $this->w->did(new ChangePrefix([$full->id], gateway: '192.0.2.137'));
    foreach (range(1, 3) as $i) {
        $this->w->did(PlaceHost::fromInput(['prefix' => $full->id]));
    }
    $page = new PrefixPage($this->reach);
    $rows = $page->children($this->w->top->refresh(), null, '', $filter)['rows'];
    expect(array_map(fn (Prefix $p): string => $p->name, $rows))->toBe($found)->and($page->misread)->toHaveCount($misread);
})->with([
    ['above:67', ['Full'], 0], ['above:68', [], 0], ['above:abc', [], 1], ['above:', [], 0], ['sort:up', [], 1],
    ['stage:lively', [], 1], ['192.0.2.129', ['Line'], 0], ['kind:subnet "Full"', ['Full'], 0],
]);

it('understands a value in quotes, and says what it did not understand', function (): void {
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => 'Orrin Pier']);
    $this->w->did($site);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $site->id));
    $this->actingAs($this->w->people['planner']);
    $this->get("/plan/prefix/{$this->w->top->id}?filter=".urlencode('site:"Orrin Pier"'))->assertOk()->assertSee('Ticketing');
    $this->get("/plan/prefix/{$this->w->top->id}?filter=bogus:x")->assertOk()->assertSee('not understood')->assertSee('filter words are');
    $this->get("/name/zone/{$this->w->zone->id}?filter=type:zzz")->assertOk()->assertSee('not understood')->assertSee('a record type');
    $this->get("/name/zone/{$this->w->zone->id}?filter=ttl%3Eabc")->assertOk()->assertSee('not understood');
    // A letter that no name has is looked for and not found.
    $this->get('/find?q='.urlencode('Ålesund'))->assertOk();
    $this->get('/name?filter='.urlencode('é'))->assertOk();
});

it('shows every record of a name with more than a page of them, and what comes behind', function (): void {
    DB::table('records')->where('zone_id', $this->w->zone->id)->count();
    $one = ($this->record)('many', 'A', '10.0.0.1');
    $rows = [];
    foreach (range(2, 2 * ZonePage::ROWS + 20) as $i) {
        $address = long2ip(167772160 + $i);
        $rows[] = [
            'id' => (string) Str::ulid(),
            'data' => $address,
            'data_hash' => md5(inet_pton($address), true),
        ] + $one->getRawOriginal();
    }
    DB::table('records')->insert($rows);
    ($this->record)('zebra', 'A', '10.0.0.1');
    $seen = [];
    $after = '';
    for ($page = 0; $page < 6; $page++) {
        ['rows' => $list, 'next' => $next] = ZonePage::records($this->w->zone, '', $after, $this->reach, most: 0);
        $seen = [...$seen, ...$list->modelKeys()];
        if ($next === null) {
            break;
        }
        $after = $next;
    }
    expect(count($seen))->toBe(count(array_unique($seen)))->and(count($seen))
        ->toBe(Record::query()->where('zone_id', $this->w->zone->id)->count());
});

it('compares the TTL that is served, inherited or not', function (): void {
    ($this->record)('short', 'A', '192.0.2.9', ['ttl' => '60']);
    ($this->record)('long', 'A', '192.0.2.9');
    $names = fn (string $filter): array => ZonePage::records($this->w->zone, $filter, '', $this->reach)['rows']
        ->map(fn (Record $r): string => explode('.', $r->owner)[0])->all();
    expect($names('ttl>100 type:a'))->toContain('long')->not->toContain('short')->and($names('ttl<100'))->toBe(['short']);
});

it('changes and removes all that match, and no record besides', function (): void {
    foreach (range(1, 5) as $i) {
        ($this->record)("kiosk-$i", 'A', "192.0.2.$i");
    }
    ($this->record)('till-1', 'A', '192.0.2.9');
    $this->w->did(new ChangeRecords(zone: $this->w->zone->id, ttl: '5m', matching: 'kiosk'), $this->w->people['operator']);
    expect(Record::query()->where('zone_id', $this->w->zone->id)->where('ttl', 300)->count())->toBe(5);
    $this->w->did(new RemoveRecords(zone: $this->w->zone->id, matching: 'kiosk'), $this->w->people['operator']);
    expect(
        Record::query()->where('zone_id', $this->w->zone->id)->where('type', 1)->where('owner', 'not like', 'ns%')->pluck('owner')->all(),
    )->toBe(["till-1.{$this->w->zone->name}"]);
    // A filter that is not understood, or empty, is no selection.
    expect(($this->codes)([new RemoveRecords(zone: $this->w->zone->id, matching: 'type:zzz')]))->toBe(['none-match'])
        ->and(($this->codes)([new RemoveRecords(zone: $this->w->zone->id)]))->toBe(['gone']);
});

it('removes what points at a record with it, and warns of nothing that goes too', function (): void {
    $host = ($this->record)('web', 'A', '192.0.2.9');
    $alias = ($this->record)('www', 'CNAME', 'web');
    ($this->record)('shop', 'CNAME', 'www');
    expect(($this->codes)([new RemoveRecords([$host->id], $this->w->zone->id)]))->toContain('left-dangling')
        ->and(($this->codes)([new RemoveRecords([$host->id], $this->w->zone->id, dependants: true)]))->not->toContain('left-dangling');
    $all = Record::query()->where('zone_id', $this->w->zone->id)->whereIn('type', [1, 5])
        ->where('owner', 'not like', 'ns%')->pluck('id')->all();
    expect(($this->codes)([new RemoveRecords($all, $this->w->zone->id)]))->not->toContain('left-dangling');
    $this->w->did(new RemoveRecords([$host->id], $this->w->zone->id, dependants: true), $this->w->people['operator']);
    expect(Record::query()->whereIn('id', $all)->count())->toBe(0)->and($alias->fresh())->toBeNull();
});

it('writes the PTR of an address record when asked to, and says when it does not', function (): void {
    $outcome = $this->w->acts()
        ->rehearse(
            $this->w->people['operator'],
            [AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'a', 'type' => 'A', 'data' => '192.0.2.40'])],
        );
    expect(json_encode($outcome->ledgers[0]->later))->toContain('No PTR of 192.0.2.40');
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'a', 'type' => 'A', 'data' => '192.0.2.40', 'ptr' => '1']));
    expect(Record::query()->where('zone_id', $this->w->reverse->id)->where('target', "a.{$this->w->zone->name}")->value('owner'))->toBe(
        '40.2.0.192.in-addr.arpa.',
    )
        ->and(
            ($this->codes)([
                AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'b', 'type' => 'A', 'data' => '203.0.113.4', 'ptr' => '1']),
            ]),
        )->toContain('no-reverse-zone');
});

it('throws where a wrong type would clear a value in silence', function (): void {
    expect(fn () => $this->w->subnet->setAttribute('gateway', 'nonsense'))->toThrow(InvalidArgumentException::class)
        ->and(fn () => (new Host)->setAttribute('mac', '00:00:5e:00:53:01'))->toThrow(InvalidArgumentException::class);
});

it('names a server in a new zone by the directory, not by a like-named one elsewhere', function (): void {
    $server = App\Models\Server::query()->findOrFail($this->w->servers['ns1']);
    $foreign = $this->w->zone('other-'.bin2hex(random_bytes(3)).'.example');
    $this->w->did(
        AddRecord::fromInput(['zone' => $foreign->id, 'name' => '@', 'type' => 'NS', 'data' => "$server->name.elsewhere.example."]),
    );
    DB::table('zone_servers')->where('zone_id', $foreign->id)->delete();
    $this->w->did(
        AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => $server->name, 'type' => 'A', 'data' => (string) $server->address]),
    );
    expect((string) App\Domain\Name\ZoneApex::nameOf($server, HarborPost\Core\Dns\Name::parse('9.0.192.in-addr.arpa.')))->toBe(
        "$server->name.{$this->w->zone->name}",
    );
});

it('keeps the reason of a commit that overrides a warning, and asks for one', function (): void {
    ($this->record)('web', 'A', '192.0.2.9');
    $act = AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'alias', 'type' => 'CNAME', 'data' => 'nothing-here']);
    $asked = $this->w->acts()->commit($this->w->people['operator'], [$act]);
    expect($asked->wantsReason)->toBeTrue()->and($asked->committed)->toBeFalse()
        ->and(Record::query()->where('owner', "alias.{$this->w->zone->name}")->exists())->toBeFalse();
    $done = $this->w->acts()->commit($this->w->people['operator'], [$act], reason: 'comes tomorrow');
    expect($done->committed)->toBeTrue()
        ->and(DB::table('history')->where('act_id', $done->ledgers[0]->actId)->value('reason'))->toBe('comes tomorrow');
});

it('writes what was shown and nothing else', function (): void {
    $person = $this->w->people['operator'];
    $act = PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'till-1']);
    $shown = $this->w->acts()->rehearse($person, [$act])->digest();
    // Somebody else takes the address that was shown.
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id]));
    $outcome = $this->w->acts()->commit($person, [$act], shown: $shown);
    expect($outcome->stale)->toBeTrue()->and($outcome->committed)->toBeFalse()
        ->and(Host::query()->where('prefix_id', $this->w->subnet->id)->count())->toBe(1);
    $again = $this->w->acts()->rehearse($person, [$act])->digest();
    expect($this->w->acts()->commit($person, [$act], shown: $again)->committed)->toBeTrue();
});

it('takes a text for the same, whatever ends its lines', function (): void {
    $input = ['zone' => $this->w->zone->id, '_form' => 'paste', 'text' => "a 60 A 192.0.2.9\nb 60 A 192.0.2.10\n"];
    $shown = $this->actingAs($this->w->people['operator'])
        ->post('/act/paste-records', ['then' => 'preview'] + $input, ['HX-Request' => 'true'])->assertOk();
    preg_match('/name="shown"[^>]*value="([^"]+)"/', (string) $shown->getContent(), $m);
    $this
        ->post('/act/paste-records', ['then' => 'commit', 'shown' => $m[1], 'text' => str_replace("\n", "\r\n", $input['text'])] + $input)
        ->assertRedirect();
    expect(Record::query()->where('owner', "b.{$this->w->zone->name}")->exists())->toBeTrue();
});

it('gives a right on one name no other name, no host and no look at the rest', function (): void {
    $w = $this->w;
    $reader = $w->people['reader'];
    $w->did(GrantName::fromInput(['zone' => $w->zone->id, 'person' => $reader->id, 'name' => 'timetable', 'type' => 'TXT']));
    $mine = ($this->record)('timetable', 'TXT', '"ok"');
    $other = ($this->record)('payroll', 'TXT', '"no"');
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id]));
    $ofHost = Record::query()->where('owner', "till-1.{$w->zone->name}")->sole();
    $try = fn (App\Acts\Engine\Act $act): ?string => $w->acts()->commit($reader, [$act], reason: 'try')->block()?->code;
    expect($try(new ChangeRecord($mine->id, '"later"')))->toBeNull()
        ->and($try(new ChangeRecord($other->id, '"later"')))->not->toBeNull()
        ->and($try(new ChangeRecord($mine->id, null, name: 'payroll')))->not->toBeNull()
        ->and($try(new ChangeRecord($ofHost->id, '192.0.2.99')))->not->toBeNull()
        ->and($try(new RemoveRecords([$other->id], $w->zone->id)))->not->toBeNull()
        ->and($try(new RemoveRecords(zone: $w->zone->id, matching: 'payroll')))->not->toBeNull()
        ->and($try(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'timetable', 'type' => 'A', 'data' => '192.0.2.5'])))
        ->not->toBeNull();
    expect($other->refresh()->data)->toBe('"no"')->and($ofHost->refresh()->data)->toBe('192.0.2.2');
});

it('tells somebody bound to a tenant the same of what is not theirs as of what is not there', function (): void {
    $w = $this->w;
    $tenant = MakeTenant::fromInput(['name' => 'Authority '.bin2hex(random_bytes(3))]);
    $w->did($tenant);
    $theirs = $w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'live']);
    $w->did(new ChangePrefix([$theirs->id], tenant: $tenant->id));
    $quill = $w->person('quill-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id]));
    $host = Host::query()->where('prefix_id', $w->subnet->id)->sole();
    $none = (string) Str::ulid();
    foreach ([fn (string $id) => new ReleaseHosts([$id]), fn (string $id) => new ChangeHost($id, role: 'service')] as $act) {
        $words = fn (string $id): array => array_map(
            fn ($n): array => [$n->code, $n->message],
            $w->acts()->rehearse($quill, [$act($id)])->notes(),
        );
        expect($words($host->id))->toBe($words($none))->and($words($host->id))->not->toBe([]);
    }
    // Not by a stale version either: neither the name nor the version of what is not theirs.
    foreach (["address:$host->id" => 99, "prefix:{$w->subnet->id}" => 99, "zone:{$w->zone->id}" => 99] as $object => $version) {
        $note = $w->acts()->rehearse($quill, [new ChangePrefix([$theirs->id], name: 'x')], [[$object => $version]])->block();
        expect($note?->message)->not->toContain('till-1')->not->toContain('Ticketing');
    }
    foreach (
        ["/plan/prefix/{$w->subnet->id}", "/name/zone/{$w->zone->id}", '/ship', '/name/sweep', '/watch?object=address:'.$host->id] as $path
    ) {
        $answer = $this->actingAs($quill)->get($path);
        expect($answer->getStatusCode() === 200 ? (string) $answer->getContent() : '')->not->toContain('till-1')->not
            ->toContain('192.0.2.2');
    }
});

it('ends every other session when a password changes, and takes no password that everybody tries', function (): void {
    $person = $this->w->people['planner'];
    $this->post('/sign-in', ['sign_in' => $person->sign_in, 'password' => 'a-long-password'])->assertRedirect('/');
    $this->get('/me')->assertOk();
    $try = fn (string $new): ?string => $this->w->acts()->rehearse($person, [new ChangePassword('a-long-password', $new)])->block()?->code;
    expect($try('short'))->toBe('short-password')->and($try('password1234'))->toBe('weak-password')
        ->and($try('111111111111'))->toBe('weak-password')->and($try('abcdefghijkl'))->toBe('weak-password')
        ->and($try("$person->sign_in-1"))->toBe('weak-password')
        ->and($try('a-long-password'))->toBe('same-password')
        ->and($this->w->acts()->rehearse($person, [new ChangePassword('wrong', 'lantern boat wind 7')])->block()?->code)
        ->toBe('wrong-password');
    // On another device.
    $this->w->did(new ChangePassword('a-long-password', 'lantern boat wind 7'), $person);
    expect(Hash::check('lantern boat wind 7', $person->refresh()->password))->toBeTrue();
    $this->app['auth']->forgetGuards();
    $this->get('/me')->assertRedirect('/sign-in');
    $this->post('/sign-in', ['sign_in' => $person->sign_in, 'password' => 'a-long-password'])->assertSessionHas('bad');
    $this->post('/sign-in', ['sign_in' => $person->sign_in, 'password' => 'lantern boat wind 7'])->assertRedirect('/');
    $this->w->did(EndSessions::fromInput(['person' => $person->id]), $this->w->people['steward']);
    $this->app['auth']->forgetGuards();
    $this->get('/me')->assertRedirect('/sign-in');
    expect(json_encode(DB::table('history')->where('object_id', $person->id)->get()))->not->toContain('lantern')->not->toContain('$2y$');
});

it('says the same of a name that is not there', function (): void {
    $wrong = $this->post('/sign-in', ['sign_in' => $this->w->people['planner']->sign_in, 'password' => 'x'])
        ->baseResponse->getSession()?->get('bad');
    $none = $this->post('/sign-in', ['sign_in' => 'nobody-'.bin2hex(random_bytes(3)), 'password' => 'x'])->baseResponse
        ->getSession()?->get('bad');
    expect($wrong)->toBe($none);
    expect(
        $this->w->refusal(
            MakePerson::class,
            ['signIn' => 'new-one', 'name' => 'X', 'password' => 'lantern boat wind 7', 'roles' => ['emperor']],
        ),
    )
        ->not->toBeNull();
});

it('finds by data:check what was planted', function (string $plant, string $sentence): void {
    ($this->record)('web', 'A', '192.0.2.9');
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id]));
    $count = function () use ($sentence): int {
        foreach (Invariants::all() as $says => $broken) {
            if ($says === $sentence) {
                return $broken['count'];
            }
        }

        return -1;
    };
    expect($count())->toBe(0);
    DB::statement(strtr($plant, ['ZONE' => $this->w->zone->id, 'SUBNET' => $this->w->subnet->id, 'TOP' => $this->w->top->id]));
    expect($count())->toBe(1)->and(Artisan::call('data:check'))->toBe(1);
})->with([
    [
        'INSERT INTO records (id, zone_id, owner, owner_key, type, data, data_hash, target) SELECT REVERSE(id), zone_id, owner, '
            ."owner_key, 5, 'x.', UNHEX(MD5('x')), 'x.' FROM records WHERE zone_id = 'ZONE' AND owner LIKE 'web.%'",
        'an alias stands alone at its name',
    ],
    [
        'INSERT INTO records (id, zone_id, owner, owner_key, type, ttl, data, data_hash) SELECT REVERSE(id), zone_id, owner, '
            ."owner_key, 1, 7, '192.0.2.8', UNHEX(MD5('x')) FROM records WHERE zone_id = 'ZONE' AND owner LIKE 'web.%'",
        'a record set has one TTL',
    ],
    ["UPDATE prefixes SET used = used + 1 WHERE id = 'SUBNET'", 'the use of a subnet is counted right'],
    ["UPDATE prefixes SET parent_id = NULL WHERE id = 'SUBNET'", 'every prefix hangs below the closest supernet'],
    ["UPDATE addresses SET address = UNHEX('C00002C8') WHERE prefix_id = 'SUBNET'", 'hosts lie inside their subnet'],
    ["DELETE FROM open_blocks WHERE parent_id = 'TOP'", 'open blocks are what is open'],
]);
