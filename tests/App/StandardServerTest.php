<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeServer;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeZone;
use App\Acts\Name\MakeKey;
use App\Acts\Name\RemoveKey;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Live\ServerTrial;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Tests\Foreign;
use Tests\World;

/* A primary of independent make (dnspython), which knows DNS and nothing of us. */

beforeEach(function (): void {
    config(['harbor.patience' => 2.0]);
    $this->w = World::make();
    $make = MakeKey::fromInput(['name' => 'ship-'.bin2hex(random_bytes(3)).'.example', 'algorithm' => 'hmac-sha512']);
    $this->w->did($make);
    $this->key = App\Models\TransferKey::query()->findOrFail($make->id);
    $this->origin = $this->w->zone->name;
    /** What stands on the server before the plan comes to it. */
    $this->there = fn (array $more = [], int $serial = 5): array => [
        "$this->origin 300 IN SOA ns1.quay.example. host.quay.example. $serial 3600 600 86400 300",
        "$this->origin 300 IN NS old.quay.example.", ...$more,
    ];
    $this->start = function (array $lines, bool $secondary = false): Foreign {
        $this->w->did(ChangeServer::fromInput([
            'server' => $this->w->servers['ns1'], 'speaks' => 'standard', 'key' => $this->key->id,
            'endpoint' => '127.0.0.1:'.($port = Tests\Standins::port()),
        ]));

        return $this->foreign = new Foreign($port, $this->key, $lines, $secondary);
    };
    $this->server = fn (): Server => Server::query()->findOrFail($this->w->servers['ns1']);
    $this->ship = fn (bool $deep = false): array => app(Shipping::class)->ship(null, ($this->server)(), null, $deep);
    $this->differs = fn (bool $deep = false): array => array_values(array_filter(
        Links::to(($this->server)())->compare($deep),
        fn ($d): bool => $d->id === $this->w->zone->id,
    ));
    $this->ask = function (string $name, string $type = 'A'): array {
        $reader = Links::to(($this->server)())->reader();
        $texts = array_map(
            fn ($r): string => $r->data->text(),
            $reader->ask(Name::parse("$name.$this->origin"), RecordType::parse($type), recursion: false)->message->answers,
        );
        sort($texts);

        return $texts;
    };
    $this->add = fn (string $name, string $data, string $type = 'A') => $this->w->did(
        new AddRecord($this->w->zone->id, $type, $data, '', $name),
    );
    $this->step = fn (array $result): array => collect($result['steps'])->firstWhere('id', $this->w->zone->id);
});

it('brings a zone to it and proves it there, first as a whole and then by what changed', function (): void {
    ($this->add)('till', '192.0.2.10');
    ($this->start)(($this->there)(["old.$this->origin 300 IN A 192.0.2.99", "till.$this->origin 60 IN A 192.0.2.10"]));
    // What a first shipment takes away is read before it is shown.
    [$first] = ($this->differs)();
    expect($first->state)->toBe(DifferenceState::Differs)->and($first->removed)->toContain("old.$this->origin 300 A 192.0.2.99")
        ->and($first->readWhole)->toBeTrue();
    $done = ($this->step)(($this->ship)());
    expect($done['state'])->toBe('done')->and($done['message'])->toContain('answered with authority')
        ->and(($this->ask)('till'))->toBe(['192.0.2.10'])->and(($this->ask)('old'))->toBe([])
        ->and(($this->differs)()[0]->state)->toBe(DifferenceState::Same)->and(($this->differs)(true)[0]->state)
        ->toBe(DifferenceState::Same);
    $serial = $this->w->zone->refresh()->serial;
    expect($serial)->toBeGreaterThan(5);
    $before = count($this->foreign->told());
    ($this->add)('till', '192.0.2.11');
    ($this->add)('kiosk', "till.$this->origin", 'CNAME');
    expect(($this->differs)()[0]->addedCount)->toBe(2);
    expect(($this->step)(($this->ship)())['message'])->toContain('2 changed record sets asked and right')
        ->and(($this->ask)('till'))->toBe(['192.0.2.10', '192.0.2.11'])
        ->and(array_slice($this->foreign->told(), $before))->toHaveCount(1)
        ->and($this->foreign->told()[$before])->toContain("serial {$this->w->zone->refresh()->serial}");
    $placement = ZoneServer::query()->where('zone_id', $this->w->zone->id)->where('server_id', $this->w->servers['ns1'])->sole();
    expect($placement->verified_at)->not->toBeNull()->and($placement->shipped_serial)->toBe($this->w->zone->serial);
});

it('overwrites nothing that somebody else changed there', function (): void {
    ($this->add)('till', '192.0.2.10');
    ($this->start)(($this->there)());
    expect(($this->ship)()['state'])->toBe(ShipmentState::Done);
    // Somebody puts another address there, and the serial back: by the serial alone nothing is seen.
    $this->foreign->set(["till.$this->origin 300 IN A 192.0.2.66"]);
    ($this->add)('till', '192.0.2.11');
    $failed = ($this->step)(($this->ship)());
    expect($failed['state'])->toBe('failed')->and($failed['message'])->toContain('somebody changed names')
        ->and(($this->ask)('till'))->toBe(['192.0.2.66']);
    // Compared as a whole it is found, and may be brought back on purpose.
    $found = ($this->differs)(true)[0];
    expect($found->state)->toBe(DifferenceState::Differs)->and($found->removed)->toContain("till.$this->origin 300 A 192.0.2.66");
    expect(($this->step)(($this->ship)(true))['state'])->toBe('done')
        ->and(($this->ask)('till'))->toBe(['192.0.2.10', '192.0.2.11']);
});

it('finds a server that ran ahead, and what was added there', function (): void {
    ($this->start)(($this->there)());
    ($this->ship)();
    $serial = $this->w->zone->refresh()->serial;
    $this->foreign->set(["joker.$this->origin 300 IN A 192.0.2.77"], $serial + 3);
    $found = ($this->differs)()[0];
    expect($found->state)->toBe(DifferenceState::Ahead)->and($found->drifted)->toBeTrue()
        ->and($found->removed)->toBe(["joker.$this->origin 300 A 192.0.2.77"]);
    expect(($this->step)(($this->ship)())['state'])->toBe('done')
        ->and($this->w->zone->refresh()->serial)->toBeGreaterThan($serial + 3)->and(($this->ask)('joker'))->toBe([]);
});

it('sends much in several updates, and its serial still passes what the server counted up by itself', function (): void {
    $rows = array_map(fn (int $i): string => "h$i 300 A 192.0.2.".($i % 250 + 1), range(1, 900));
    $this->w->did(App\Acts\Name\PasteRecords::fromInput(['zone' => $this->w->zone->id, 'text' => implode("\n", $rows)]));
    ($this->start)(($this->there)(serial: Zone::query()->findOrFail($this->w->zone->id)->serial));
    // Where its serial is its own, a journal of ours tells nothing: the same lines are no difference.
    expect(($this->step)(($this->ship)())['state'])->toBe('done')->and(($this->ask)('h900'))->toBe(['192.0.2.151'])
        ->and(count($this->foreign->told()))->toBeGreaterThan(3)->and(($this->differs)(true)[0]->state)->toBe(DifferenceState::Same);
});

it('says what only the keeper of the server can do', function (): void {
    ($this->start)([]);
    [$waits] = ($this->differs)();
    expect($waits->state)->toBe(DifferenceState::Waiting)->and($waits->needsShipping())->toBeFalse()
        ->and($waits->message)->toContain('make it there, and let the key transfer and update it');
    $this->actingAs($this->w->people['operator'])->get('/ship/server/'.$this->w->servers['ns1'])->assertOk()
        ->assertSee('make it there, and let the key transfer and update it')->assertSee('the standards')
        ->assertDontSee('Tell the stand-in')->assertDontSee('is as intended');
    expect(($this->ship)()['steps'])->toBe([]);
    $this->get('/ship/together?only[]='.$this->w->zone->id)->assertOk()->assertSee('make it there, and let the key')
        ->assertDontSee('as intended');
});

it('names a silenced zone that it still answers, and takes nothing away', function (): void {
    ($this->start)(($this->there)());
    ($this->ship)();
    $this->w->did(ChangeZone::fromInput(['zone' => $this->w->zone->id, 'silenced' => '1']));
    expect(($this->differs)()[0]->message)->toContain('take it away there')->and(($this->ship)()['steps'])->toBe([]);
});

it('says which key it does not take', function (array $other, string $why): void {
    ($this->start)(($this->there)());
    $make = MakeKey::fromInput($other + ['name' => $this->key->title().'.other']);
    $this->w->did($make);
    if (isset($other['secret'])) {
        // The same name, and another secret.
        $this->key->getConnection()->table('transfer_keys')->where('id', $this->key->id)
            ->update(['secret' => encrypt($other['secret'], false)]);
    } else {
        $this->w->did(ChangeServer::fromInput(['server' => $this->w->servers['ns1'], 'key' => $make->id]));
    }
    $result = ($this->ship)();
    expect($result['state'])->toBe(ShipmentState::Failed)->and($result['steps'][0]['message'])->toContain('does not take the key')
        ->toContain($why);
    $trial = ServerTrial::of(($this->server)());
    expect(array_column($trial, 'good'))->toBe([true, false])->and($trial[1]['words'])->toContain($why);
})->with([
    'another key' => [[], 'does not know the key'],
    'another secret' => [['secret' => base64_encode(str_repeat('k', 64))], 'the secret differs'],
]);

it('tries a connection step by step and changes nothing', function (): void {
    ($this->start)(($this->there)(["old.$this->origin 300 IN A 192.0.2.99"]));
    $trial = ServerTrial::of(($this->server)());
    $zone = collect($trial)->firstWhere('what', $this->w->zone->title());
    expect(array_column(array_slice($trial, 0, 2), 'what'))->toBe(['Name and port', 'Key'])->and($zone['good'])->toBeTrue()
        ->and($zone['words'])->toContain('transfers and takes updates')
        ->and(collect($trial)->firstWhere('what', $this->w->reverse->title())['words'])->toContain('does not have the zone')
        ->and(($this->ask)('old'))->toBe(['192.0.2.99'])->and($this->foreign->told())->not->toContain('serial 6');
    $this->actingAs($this->w->people['steward'])->get('/ship/server/'.$this->w->servers['ns1'].'?try=1')->assertOk()
        ->assertSee('The connection, tried just now')->assertSee('transfers and takes updates');
    $this->foreign->stop();
    $shut = ServerTrial::of(($this->server)());
    expect($shut)->toHaveCount(1)->and($shut[0]['good'])->toBeFalse()->and($shut[0]['words'])->toContain('does not take connections');
});

it('tells a secondary, and waits for it to fetch', function (): void {
    $this->w->did(ChangeServer::fromInput(['server' => $this->w->servers['ns2'], 'speaks' => 'standard', 'key' => $this->key->id,
        'endpoint' => '127.0.0.1:'.($port = Tests\Standins::port())]));
    $server = Server::query()->findOrFail($this->w->servers['ns2']);
    $foreign = new Foreign($port, $this->key, ($this->there)(), true);
    ZoneServer::query()->where('zone_id', $this->w->zone->id)->where('server_id', $server->id)->toBase()->update(['part' => 'secondary']);
    ($this->add)('till', '192.0.2.10');
    $link = Links::to($server);
    $link->apply('zone', $this->w->zone->id);
    expect($foreign->told())->toContain("notify $this->origin")
        ->and(fn () => $link->verify('zone', $this->w->zone->id))->toThrow(App\Links\Unanswered::class, 'fetches by itself');
    $trial = collect(ServerTrial::of($server))->firstWhere('what', $this->w->zone->title());
    expect($trial['words'])->toContain('never updated from here');
});

it('refuses what has no standard, and what nobody signs', function (): void {
    $w = $this->w;
    $input = ['name' => 'far-'.bin2hex(random_bytes(2)), 'endpoint' => '192.0.2.5:53', 'speaks' => 'standard'];
    expect($w->refusal(MakeServer::class, $input + ['kind' => 'dhcp', 'key' => $this->key->id]))->toBe('standard-is-of-names')
        ->and($w->refusal(MakeServer::class, $input + ['kind' => 'dns']))->toBe('standard-needs-a-key')
        ->and($w->refusal(MakeServer::class, $input + ['kind' => 'dns', 'key' => $this->key->id]))->toBeNull()
        ->and($w->refusal(ChangeServer::class, ['server' => $w->servers['dh1'], 'speaks' => 'standard', 'key' => $this->key->id]))
        ->toBe('standard-is-of-names')
        ->and($w->refusal(ChangeServer::class, ['server' => $w->servers['ns1'], 'speaks' => 'standard']))->toBe('standard-needs-a-key')
        ->and($w->refusal(ChangeServer::class, ['server' => $w->servers['ns1'], 'speaks' => 'standard', 'key' => $this->key->id],
            $w->people['operator']))->toBe('not-allowed');
    $w->did(ChangeServer::fromInput(['server' => $w->servers['ns1'], 'speaks' => 'standard', 'key' => $this->key->id]));
    expect($w->refusal(RemoveKey::class, ['key' => $this->key->id]))->toBe('key-in-use')
        ->and($w->refusal(ChangeServer::class, ['server' => $w->servers['ns1'], 'key' => '-']))->toBe('standard-needs-a-key');
    $this->actingAs($w->people['operator'])->get('/name/keys')->assertOk()
        ->assertSee(Server::query()->findOrFail($w->servers['ns1'])->name)->assertSee('hmac-sha512');
});

it('makes a key as long as what it signs with', function (string $algorithm, int $bytes): void {
    $make = MakeKey::fromInput(['name' => "k-$algorithm.example", 'algorithm' => $algorithm]);
    $this->w->did($make);
    $key = App\Models\TransferKey::query()->findOrFail($make->id);
    expect(strlen($key->tsig()->secret))->toBe($bytes)->and($key->tsig()->algorithm->value)->toBe($algorithm);
})->with([['hmac-sha256', 32], ['hmac-sha384', 48], ['hmac-sha512', 64]]);

it('reads as a whole where the serial is the server\'s own, instead of telling by a journal that does not fit', function (): void {
    ($this->add)('till', '192.0.2.10');
    ($this->start)(($this->there)());
    ($this->ship)();
    $this->foreign->set(["till.$this->origin 60 IN A 192.0.2.10"], 3);
    $found = ($this->differs)()[0];
    expect($found->readWhole)->toBeTrue()->and($found->removed)->toBe(["till.$this->origin 60 A 192.0.2.10"])
        ->and($found->added)->toHaveCount(1);
    expect(($this->step)(($this->ship)())['state'])->toBe('done')->and(($this->differs)()[0]->state)->toBe(DifferenceState::Same);
});

it('goes on where a shipment of several updates was cut', function (): void {
    $rows = array_map(fn (int $i): string => "h$i 300 A 192.0.2.".($i % 250 + 1), range(1, 700));
    $this->w->did(App\Acts\Name\PasteRecords::fromInput(['zone' => $this->w->zone->id, 'text' => implode("\n", $rows)]));
    ($this->start)(($this->there)());
    $this->w->did(new App\Acts\Ship\StampZones([$this->w->zone->id => null]));
    // The worker dies after the first update: nothing of ours says how far it came.
    $zone = Zone::query()->with(['view', 'placements.server'])->findOrFail($this->w->zone->id);
    $added = array_map(
        fn (App\Models\Record $r) => $r->toRecord($zone->default_ttl),
        App\Models\Record::query()->where('zone_id', $zone->id)->where('type', RecordType::A)->get()->all(),
    );
    $soa = new HarborPost\Core\Dns\Record($zone->origin(), 300, $zone->soa(HarborPost\Core\Dns\Serial::of($zone->serial)));
    $updates = HarborPost\Core\Dns\Zone\UpdatePlan::of($zone->origin(), [], [], $added, $soa);
    expect(count($updates))->toBeGreaterThan(2);
    Links::to(($this->server)())->reader()->update($updates[0]);
    expect(($this->differs)()[0]->state)->toBe(DifferenceState::Differs)->and(($this->differs)()[0]->readWhole)->toBeTrue();
    expect(($this->step)(($this->ship)())['state'])->toBe('done')->and(($this->differs)(true)[0]->state)->toBe(DifferenceState::Same);
});

it('leaves what was written after the serial was given for the next shipment', function (): void {
    ($this->add)('till', '192.0.2.10');
    ($this->start)(($this->there)());
    $zone = $this->w->zone;
    // Somebody commits between the giving of the serial and the writing to the server: read as a whole first, then by the journal.
    foreach ([['kiosk', '192.0.2.20'], ['bollard', '192.0.2.30']] as $i => [$name, $data]) {
        $this->w->did(new App\Acts\Ship\StampZones([$zone->id => $i === 0 ? 5 : null]));
        ($this->add)($name, $data);
        Links::to(($this->server)())->apply('zone', $zone->id);
        $this->w->did(new App\Acts\Ship\MarkPlacement($this->w->servers['ns1'], 'zone', $zone->id, 'shipped'));
        expect(($this->ask)($name))->toBe([])->and(($this->ask)('till'))->toBe(['192.0.2.10']);
    }
    expect(($this->step)(($this->ship)())['state'])->toBe('done')->and(($this->ask)('kiosk'))->toBe(['192.0.2.20'])
        ->and(($this->ask)('bollard'))->toBe(['192.0.2.30'])->and(($this->differs)(true)[0]->state)->toBe(DifferenceState::Same);
});

it('says no word of shipping where only who keeps the server can do it', function (): void {
    ($this->start)(($this->there)());
    $w = $this->w;
    $name = ($this->server)()->name;
    $notes = fn ($act): array => collect($w->acts()->rehearse($w->people['planner'], [$act])->notes())->pluck('message', 'code')->all();
    $later = fn ($act): string => json_encode($w->acts()->rehearse($w->people['planner'], [$act])->ledgers[0]->later);
    $serve = App\Acts\Name\ServeZone::fromInput(['zone' => $w->zone->id, 'lapseAfter' => '192', 'updateMode' => 'address',
        'updateFrom' => '192.0.2.0/25']);
    expect($notes($serve)['terms-by-hand'])->toContain("$name is not told who may copy or update")
        ->and($later($serve))->not->toContain('next shipped')
        ->and($notes(ChangeZone::fromInput(['zone' => $w->zone->id,
            'silenced' => '1']))['stays-by-hand'])->toContain("$name goes on answering")
        ->and($notes(App\Acts\Name\RemoveZone::fromInput(['zone' => $w->zone->id]))['stays-by-hand'])->toContain("$name goes on answering");
    $w->did($serve, $w->people['planner']);
    $page = $this->actingAs($w->people['operator'])->get("/name/zone/{$w->zone->id}/service")->assertOk();
    $page->assertReads('is reached by the standards alone, which know no lifetime')->assertReads("who keeps $name has to admit it there")
        ->assertDontSee("$name is not told yet");
    // Its secondary, told by a control endpoint, is brought there by a shipment as before.
    $secondary = App\Models\ZoneServer::query()->where('zone_id', $w->zone->id)->where('part', 'secondary')->sole();
    $off = $notes(App\Acts\Name\RemoveSecondary::fromInput(['placement' => $secondary->id]));
    expect($off)->not->toHaveKey('stays-by-hand')->toHaveKey('keeps-answering');
});
