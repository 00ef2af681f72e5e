<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeResolving;
use App\Acts\Directory\ChangeServer;
use App\Acts\Name\AddRecord;
use App\Acts\Name\PasteRecords;
use App\Acts\Name\RemoveRecords;
use App\Acts\Name\RemoveZone;
use App\Acts\Name\ServeZone;
use App\Acts\Sign\HandAnchor;
use App\Acts\Sign\KeepPolicy;
use App\Acts\Sign\RemovePolicy;
use App\Acts\Sign\RollAlgorithm;
use App\Acts\Sign\RollKey;
use App\Acts\Sign\SignZone;
use App\Acts\Sign\TellParent;
use App\Acts\Sign\UnsignZone;
use App\Acts\Watch\TakeBack;
use App\Domain\Name\ServedTtls;
use App\Domain\Name\Signing;
use App\Links\Names\DnsClient;
use App\Live\ParentLook;
use App\Models\Record;
use App\Models\RowVerdict;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\SigningPolicy;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Shipping\KeepSigned;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Dnssec\Validator;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\ExtendedError;
use HarborPost\Core\Dns\Wire\Question;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->s = new Standins(['ns1' => 'dns', 'ns2' => 'dns', 'res' => 'resolver']);
    foreach (array_intersect_key($this->s->settings, $this->w->servers) as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    config(['harbor.patience' => 1.0]);
    $this->ship = fn (string $name, ?array $only = null): array => app(Shipping::class)
        ->ship(null, Server::query()->findOrFail($this->w->servers[$name]), $only);
    $this->shipAll = function (): void {
        expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and(($this->ship)('ns2')['state'])->toBe(ShipmentState::Done);
    };
    $this->policy = function (array $with = []): SigningPolicy {
        $act = KeepPolicy::fromInput(
            $with + ['name' => 'Sound '.bin2hex(random_bytes(2)), 'keyTtl' => '1h', 'propagation' => '10m', 'dsTtl' => '1h'],
        );
        $this->w->did($act);

        return SigningPolicy::query()->findOrFail($act->id);
    };
    $this->client = fn (string $name = 'ns1'): DnsClient => new DnsClient($name, $this->s->endpoint($name));
    $this->judge = function (string $name, string $type, ZoneKey $anchor, string $server = 'ns1', ?int $at = null) {
        $client = ($this->client)($server);
        $question = new Question(Name::parse($name), RecordType::parse($type));
        $asking = (new Validator([new DnsRecord($anchor->zone->origin(), 0, $anchor->dnskey())], $at ?? now()->getTimestamp()))
            ->judge($question, $client->ask($question->name, $question->type, null, false, dnssecOk: true)->message);
        while ($asking->valid()) {
            $q = $asking->current();
            $asking->send($client->ask($q->name, $q->type, null, false, dnssecOk: true)->message);
        }

        return $asking->getReturn();
    };
    $this->zone = fn (): Zone => $this->w->zone->refresh()->load('policy');
    $this->entry = fn (): ZoneKey => $this->zone()->keys()->get()->last(fn ($k) => $k->role->isEntry());
});

function keysOf(Zone $zone): array
{
    $now = now()->getTimestamp();
    $schedule = Signing::schedule($zone, $now);
    $keys = $zone->keys()->get();
    $times = array_values($keys->map(fn ($k) => $k->times($now))->all());

    return $keys->map(fn ($k) => $k->role->value.' '.$schedule->state($k->times($now), $times, $now)->value)->all();
}

it('signs a zone in two acts, so that every answer of each server is proved', function (string $denial): void {
    $w = $this->w;
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'www', 'type' => 'A', 'data' => '192.0.2.9']));
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => '*.wild', 'type' => 'TXT', 'data' => 'any']));
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)(['denial' => $denial])->id));
    $keys = ($this->zone)()->keys()->get();
    expect($keys->map(fn ($k) => $k->role)->all())->toBe([KeyRole::Ksk, KeyRole::Zsk])->and(DB::table('signed_records')->count())->toBe(0);
    $shipped = ($this->ship)('ns1');
    expect($shipped['state'])->toBe(ShipmentState::Done)->and($shipped['steps'][0]['message'])->toContain('its signature holds');
    expect(($this->ship)('ns2')['state'])->toBe(ShipmentState::Done);
    $name = $w->zone->name;
    foreach (["www.$name A", "$name SOA", "none.$name A", "www.$name MX", "x.wild.$name TXT", "x.wild.$name A"] as $asked) {
        [$owner, $type] = explode(' ', $asked);
        foreach (['ns1', 'ns2'] as $server) {
            expect(($this->judge)($owner, $type, $keys[0], $server)->words())->toStartWith('secure');
        }
    }
    // In force when every server had it.
    expect($w->zone->refresh()->signed_since)->not->toBeNull()->and(keysOf(($this->zone)()))->toBe(['ksk published', 'zsk active']);
    // Nothing of it differs from what runs, read as a whole.
    expect(app(Shipping::class)->ship(null, Server::query()->find($w->servers['ns1']), null, true)['steps'])->toBe([]);
})->with(['nsec', 'nsec3', 'nsec3-opt-out']);

it('makes anew only the signatures of what changed', function (): void {
    $w = $this->w;
    $lines = implode("\n", array_map(fn (int $i): string => "h$i A 192.0.2.$i", range(1, 60)));
    $w->did(PasteRecords::fromInput(['zone' => $w->zone->id, 'text' => $lines]));
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)()->id));
    ($this->ship)('ns1');
    $before = DB::table('signed_records')->where('zone_id', $w->zone->id)->whereNotNull('covers')->pluck('id');
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'h30b', 'type' => 'A', 'data' => '192.0.2.99']));
    ($this->ship)('ns1');
    $after = DB::table('signed_records')->where('zone_id', $w->zone->id)->whereNotNull('covers')->get()->keyBy('id');
    $fresh = $after->whereNotIn('id', $before);
    // Its own set and denial, the denial before it, and the SOA.
    expect($fresh->map(fn ($r) => str_replace($w->zone->name, '', $r->owner).RecordType::of($r->covers))->sort()->values()->all())
        ->toBe(['SOA', 'h30.NSEC', 'h30b.A', 'h30b.NSEC']);
    $w->did(
        RemoveRecords::fromInput(
            ['zone' => $w->zone->id, 'records' => [Record::query()->where('owner', "h30b.{$w->zone->name}")->value('id')]],
        ),
    );
    ($this->ship)('ns1');
    expect(($this->judge)("h30b.{$w->zone->name}", 'A', ($this->zone)()->keys()->first())->trust)->toBe(Trust::Secure);
});

it('goes over to another algorithm, signed by each that stands among the keys at every moment', function (string $keys): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)(['zoneKeyLife' => '0', 'entryLife' => '0'])->id));
    ($this->shipAll)();
    $page = fn () => $this->actingAs($w->people['operator'])->get("/name/zone/{$w->zone->id}/signing")->assertOk();
    $page()->assertReads('No policy has another algorithm. Make one first');
    $next = ($this->policy)(['algorithm' => '15', 'keys' => $keys, 'zoneKeyLife' => '0', 'entryLife' => '0']);
    $old = ($this->zone)()->keys()->first();
    $page()->assertReads('Change the algorithm')->assertReads('ED25519');
    expect($w->refusal(RollAlgorithm::class, ['zone' => $w->zone->id, 'policy' => ($this->zone)()->policy_id]))->toBe('same-algorithm');
    $w->did(new RollAlgorithm($w->zone->id, $next->id));
    expect($w->refusal(RollAlgorithm::class, ['zone' => $w->zone->id, 'policy' => $next->id]))->toBe('key-not-out')
        ->and($w->refusal(RollKey::class, ['key' => $old->id]))->toBe('roll-under-way');
    $step = function (string $wait) use ($w): array {
        $this->travelTo(now()->add($wait));
        app(KeepSigned::class)->one(($this->zone)());
        // What the strictest validator wants: whatever stands among the keys has signed every set of both servers.
        $there = [];
        foreach (['ns1', 'ns2'] as $server) {
            $said = fn (string $type) => ($this->client)($server)
                ->ask(Name::parse($w->zone->name), RecordType::parse($type), null, false, dnssecOk: true)->message->answers;
            $keys = array_filter($said('DNSKEY'), fn ($r): bool => $r->type()->number === RecordType::DNSKEY);
            $there = array_values(array_unique(array_map(fn ($r): int => $r->data->algorithm(), $keys)));
            foreach (['SOA', 'NS', 'DNSKEY'] as $type) {
                $signed = array_filter($said($type), fn ($r): bool => $r->type()->number === RecordType::RRSIG);
                $by = array_map(fn ($r): int => $r->data->algorithm, $signed);
                expect(array_diff($there, $by))->toBe([], "$type at $server");
            }
        }
        sort($there);
        $judged = ($this->zone)()->keys()->get()->filter(fn (ZoneKey $k): bool => $k->isEntry())
            ->map(fn (ZoneKey $k): string => ($this->judge)($w->zone->name, 'SOA', $k)->trust->value)->unique()->values()->all();
        expect($judged)->toBe(['secure']);

        return $there;
    };
    ($this->shipAll)();
    $told = App\Queries\Metrics::text();
    expect(substr_count($told, 'harbor_zone_key_age_seconds{'))->toBe(2 + ($keys === 'two' ? 2 : 1))
        ->and($told)->toMatch('/harbor_zone_signature_left_seconds\{zone="[^"]+",view="[^"]+"\} \d{5,}/')->toContain('algorithm="15"');
    $page()->assertReads('its signatures go ahead of it')->assertReads('stands among the keys from')->assertDontSee('Change the algorithm');
    expect($step('1 second'))->toBe([13])->and($w->refusal(RollAlgorithm::class, ['zone' => $w->zone->id, 'policy' => $next->id]))
        ->toBe('key-not-out');
    $zoneTtl = Signing::longestTtl(($this->zone)());
    expect($step(($zoneTtl + 300).' seconds'))->toBe([13])->and($step('10 minutes'))->toBe([13, 15]);
    // Nobody names the old one: it leaves when every cache has the new one, its signatures when no cache has it any more.
    expect($step('60 minutes'))->toBe([13, 15])->and($step('11 minutes'))->toBe([15]);
    $signs = fn (): array => DB::table('signed_records')->where('zone_id', $w->zone->id)->where('covers', RecordType::SOA)
        ->orderBy('algorithm')->pluck('algorithm')->all();
    expect($signs())->toBe([13, 15])->and($step('60 minutes'))->toBe([15])->and($signs())->toBe([13, 15]);
    expect($step('11 minutes'))->toBe([15])->and($signs())->toBe([15])
        ->and(($this->zone)()->keys()->whereNull('removed')->distinct()->toBase()->pluck('algorithm')->all())->toBe([15]);
    expect(app(Shipping::class)->ship(null, Server::query()->find($w->servers['ns1']), null, true)['steps'])->toBe([]);
})->with(['into two keys' => 'two', 'into one key' => 'one']);

it('replaces the key of the zone when caches allow, and never before', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)(['zoneKeyLife' => '0', 'entryLife' => '0'])->id));
    ($this->shipAll)();
    $zsk = ($this->zone)()->keys()->where('role', 'zsk')->first();
    $w->did(new RollKey($zsk->id));
    expect($w->refusal(RollKey::class, ['key' => $zsk->id]))->toBe('roll-under-way');
    ($this->shipAll)();
    expect(keysOf(($this->zone)()))->toBe(['ksk published', 'zsk active', 'zsk published']);
    $keep = fn () => app(KeepSigned::class)->one(($this->zone)());
    $this->travel(60)->minutes();
    $keep();
    // Ten minutes and an hour: not yet.
    expect(keysOf(($this->zone)()))->toBe(['ksk published', 'zsk active', 'zsk published']);
    $this->travel(11)->minutes();
    $keep();
    expect(keysOf(($this->zone)()))->toBe(['ksk ready', 'zsk retired', 'zsk active']);
    $new = ($this->zone)()->keys()->get()->last();
    expect(
        DB::table('signed_records')->where('zone_id', $w->zone->id)->where('covers', RecordType::SOA)->pluck('tag')->all(),
    )->toBe([$new->tag]);
    $ksk = ($this->zone)()->keys()->first();
    expect(($this->judge)($w->zone->name, 'SOA', $ksk)->trust)->toBe(Trust::Secure);
    $this->travel(2)->days();
    $keep();
    expect(keysOf(($this->zone)()))->toBe(['ksk ready', 'zsk removed', 'zsk active'])
        ->and(DB::table('signed_records')->where('zone_id', $w->zone->id)->where('type', RecordType::DNSKEY)->count())->toBe(2);
});

it('waits for what caches hold of a TTL that was served before', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'long', 'type' => 'A', 'data' => '192.0.2.7', 'ttl' => '7d']));
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)(['keyTtl' => '2d', 'zoneKeyLife' => '0', 'dsTtl' => '3d'])->id));
    ($this->shipAll)();
    $waits = fn (): array => [($s = Signing::schedule(($this->zone)(), now()->getTimestamp()))->zoneTtl, $s->keyTtl, $s->dsTtl];
    $day = 86400;
    expect($waits())->toBe([7 * $day, 2 * $day, 3 * $day]);
    // What is removed is on the servers until it is shipped, and in caches for as long as it was to hold.
    $long = Record::query()->where('zone_id', $w->zone->id)->where('ttl', 7 * $day)->sole();
    $w->did(RemoveRecords::fromInput(['zone' => $w->zone->id, 'records' => [$long->id]]));
    $this->travel(20)->days();
    expect($waits())->toBe([7 * $day, 2 * $day, 3 * $day]);
    $page = fn () => $this->actingAs($w->people['operator'])->get("/name/zone/{$w->zone->id}/signing")->assertOk();
    $page()->assertReads('servers still have the former');
    ($this->shipAll)();
    $page()->assertReads('Caches may still count down an earlier TTL')
        ->assertReads('Records were served with 7 d (now 1 h): that is over on')
        ->assertDontSee('servers still have');
    $now = Signing::longestTtl(($this->zone)());
    $this->travel(7)->days();
    expect($waits()[0])->toBe(7 * $day);
    $this->travel(11)->minutes();
    expect($waits())->toBe([$now, 2 * $day, 3 * $day])->and($now)->toBeLessThan(7 * $day);
    $page()->assertDontSee('Caches may still count down');
    // The DS is the parent's: given for three days, it is there for three days until another one is seen.
    $w->did(new TellParent($w->zone->id, 'given'));
    $w->did(new TellParent($w->zone->id, 'named'));
    $told = new ReflectionMethod(App\Http\Rdap\Answers::class, 'signing');
    $zone = ($this->zone)()->load('keys.zone');
    $entry = $zone->keys->first(fn ($k): bool => $k->role->isEntry());
    expect($told->invoke(null, $zone))->toMatchArray(['delegationSigned' => true, 'dsData' => [[
        'keyTag' => $entry->tag, 'algorithm' => $entry->algorithm->value, 'digestType' => 2, 'digest' => bin2hex($entry->ds()->digest()),
    ]]]);
    $next = ($this->policy)(['algorithm' => '15', 'keyTtl' => '1h', 'zoneKeyLife' => '0', 'dsTtl' => '1h']);
    $w->did(new RollAlgorithm($w->zone->id, $next->id));
    expect($waits())->toBe([$now, 2 * $day, 3 * $day]);
    ($this->shipAll)();
    $this->travel(3)->days();
    expect($waits())->toBe([$now, 3600, 3 * $day])->and($page()->getContent())->toContain('servers still have the former');
    expect(DB::table('history')->where('after', 'like', '%cached_ttls%')->count())->toBe(0);
});

it('notes what is in caches by what stands there, and over nothing that came meanwhile', function (): void {
    $note = fn (array $rows) => Zone::query()->whereKey($this->w->zone->id)->toBase()
        ->update(['cached_ttls' => json_encode(['zone' => $rows, 'keys' => []])]);
    $note([[7200, null], [60, null]]);
    $late = Zone::query()->findOrFail($this->w->zone->id);
    $note($stamped = [[7200, null], [60, null], [90000, null]]);
    ServedTtls::settled($late, 5);
    expect(($this->zone)()->cached_ttls['zone'])->toBe($stamped);
    ServedTtls::settled(($this->zone)(), 5);
    expect(($this->zone)()->cached_ttls['zone'])->toBe([[7200, 5], [60, 5], [90000, null]]);
});

it('has no way back from how a zone is signed but by the acts that wait for caches', function (): void {
    $w = $this->w;
    $last = fn (): array => [DB::table('history')->orderByDesc('id')->value('act_id')];
    $keys = fn (): array => ZoneKey::query()->pluck('id')->map(fn (string $id): string => "signing key:$id")->all();
    $back = fn (array $acts): ?string => $w->acts()->commit(null, [new TakeBack($acts, $keys())])->block()?->code;
    ($this->shipAll)();
    $policy = ($this->policy)();
    $w->did(KeepPolicy::fromInput(['id' => $policy->id, 'name' => $policy->name, 'algorithm' => '15']));
    $changed = $last();
    $w->did(new SignZone($w->zone->id, $policy->id));
    $signed = $last();
    ($this->shipAll)();
    expect($back($signed))->toBe('no-way-back')->and($back($changed))->toBe('changed-since')
        ->and(($this->zone)()->policy_id)->toBe($policy->id)->and($policy->refresh()->algorithm->value)->toBe(15);
    $this->travel(2)->days();
    $w->did(new TellParent($w->zone->id, 'given'));
    $w->did(new UnsignZone($w->zone->id));
    expect($back($last()))->toBe('no-way-back')->and(($this->zone)()->unsign_asked)->not->toBeNull();
    // Once nobody signs by it any more, the policy goes back.
    $this->travel(2)->days();
    $w->did(new TellParent($w->zone->id, 'gone'));
    $this->travel(2)->days();
    app(KeepSigned::class)->one(($this->zone)());
    expect(($this->zone)()->policy_id)->toBeNull()->and($back($changed))->toBeNull()->and($policy->refresh()->algorithm->value)->toBe(13);
    // A zone that was removed comes back unsigned: its keys are gone.
    $child = $w->zone("ops.{$w->zone->title()}");
    $w->did(new SignZone($child->id, $policy->id));
    $w->did(RemoveZone::fromInput(['zone' => $child->id]));
    $removed = $last();
    $gone = DB::table('history')->where('act_id', $removed[0])->where('object_type', 'signing key')->pluck('object_id')
        ->map(fn (string $id): string => "signing key:$id")->all();
    expect($w->acts()->commit(null, [new TakeBack($removed, $gone)])->block()?->code)->toBeNull()
        ->and(Zone::query()->findOrFail($child->id)->policy_id)->toBeNull();
});

it('has the parent name the key, sees it by packets, and leaves signing safely', function (): void {
    $w = $this->w;
    $child = $w->zone("ops.{$w->zone->title()}");
    $w->did(AddRecord::fromInput(['zone' => $child->id, 'name' => 'www', 'type' => 'A', 'data' => '192.0.2.9']));
    ($this->shipAll)();
    $policy = ($this->policy)();
    expect($w->acts()->rehearse(null, [new SignZone($child->id, $policy->id)])->blocked())->toBeFalse();
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'ops', 'type' => 'NS', 'data' => 'ns1.quay.example.']));
    foreach ([$w->zone->id, $child->id] as $zone) {
        $w->did(new SignZone($zone, $policy->id));
    }
    ($this->shipAll)();
    $ops = Zone::query()->findOrFail($child->id);
    expect($w->refusal(TellParent::class, ['zone' => $ops->id, 'what' => 'given']))->toBe('too-early');
    $this->travel(2)->days();
    app(KeepSigned::class)->all();
    $key = $ops->keys()->first();
    expect(
        Record::query()->where('zone_id', $w->zone->id)->where('type', RecordType::DS)->pluck('data')->all(),
    )->toBe([$key->ds()->text()]);
    app(KeepSigned::class)->all();
    expect(ParentLook::of($ops)->says())->toBe('named')->and($key->refresh()->ds_seen)->not->toBeNull()
        ->and($w->refusal(App\Acts\Name\RemoveZone::class, ['zone' => $ops->id]))->toBe('parent-names-key');
    // Somebody takes the DS out by hand: it is named no more, and that is what stands there.
    $ds = Record::query()->where('zone_id', $w->zone->id)->where('type', RecordType::DS)->sole();
    $w->did(RemoveRecords::fromInput(['zone' => $w->zone->id, 'records' => [$ds->id]]));
    ($this->shipAll)();
    app(KeepSigned::class)->all();
    expect($key->refresh()->ds_seen)->toBeNull();
    $w->did(new TellParent($ops->id, 'given'));
    app(KeepSigned::class)->all();
    app(KeepSigned::class)->all();
    expect($key->refresh()->ds_seen)->not->toBeNull();
    // The chain leads from an anchor of the parent to a name of the child.
    $anchor = ($this->zone)()->keys()->first();
    $verdict = ($this->judge)("www.$ops->name", 'A', $anchor);
    expect($verdict->words())->toStartWith('secure')->and(count($verdict->links))->toBe(2);
    $w->did(new UnsignZone($ops->id));
    expect(Record::query()->where('zone_id', $w->zone->id)->where('type', RecordType::DS)->count())->toBe(0)
        ->and(DB::table('signed_records')->where('zone_id', $ops->id)->count())->toBeGreaterThan(5);
    app(KeepSigned::class)->all();
    app(KeepSigned::class)->all();
    expect($ops->refresh()->unsign_seen)->not->toBeNull()->and($ops->policy_id)->not->toBeNull();
    // Signed still, and not named any more: an unsigned delegation that is proved.
    expect(($this->judge)("www.$ops->name", 'A', $anchor)->trust)->toBe(Trust::Insecure);
    $this->travel(3)->hours();
    app(KeepSigned::class)->all();
    expect($ops->refresh()->policy_id)->toBeNull()->and(DB::table('signed_records')->where('zone_id', $ops->id)->count())->toBe(0)
        ->and($ops->keys()->count())->toBe(0);
    expect(($this->judge)("www.$ops->name", 'A', $anchor)->trust)->toBe(Trust::Insecure);
});

it('makes signatures anew before they end, and ships them when nothing else waits', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)()->id));
    ($this->shipAll)();
    $first = (int) DB::table('signed_records')->min('expires');
    $serial = $w->zone->refresh()->serial;
    app(KeepSigned::class)->all();
    expect($w->zone->refresh()->serial)->toBe($serial);
    $this->travel(6 * 24 + 12)->hours();
    // A change of somebody's waits: it is not shipped behind their back.
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'later', 'type' => 'A', 'data' => '192.0.2.9']));
    expect(app(KeepSigned::class)->all()[0])->toContain('changes of people wait')->and($w->zone->refresh()->serial)->toBe($serial);
    // Half of the time to mend is over: now it goes.
    $this->travel(4)->days();
    app(KeepSigned::class)->all();
    expect((int) DB::table('signed_records')->min('expires'))->toBeGreaterThan($first)
        ->and(($this->judge)("later.{$w->zone->name}", 'A', ($this->zone)()->keys()->first())->trust)->toBe(Trust::Secure);
});

it('hands an anchor to a resolver, which then believes what is signed and nothing else', function (): void {
    $w = $this->w;
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'www', 'type' => 'A', 'data' => '192.0.2.9']));
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)()->id));
    ($this->shipAll)();
    $own = $this->s->settings['res'];
    $act = App\Acts\Directory\MakeServer::fromInput([
        'name' => 'res-'.bin2hex(random_bytes(2)), 'kind' => 'resolver',
        'endpoint' => "127.0.0.1:$own[port]", 'control' => "127.0.0.1:$own[control]",
        'token' => 'secret', 'address' => '192.0.2.55',
    ]);
    $w->did($act);
    $w->did(ChangeResolving::fromInput(['servers' => [$act->id], 'recursion' => 'on', 'forwarders' => '192.0.2.53', 'fallback' => 'stop']));
    expect($w->refusal(HandAnchor::class, ['zone' => $w->zone->id, 'servers' => [$act->id]]))->toBe('too-early');
    $this->travel(2)->days();
    $w->did(new HandAnchor($w->zone->id, [$act->id]));
    $server = Server::query()->findOrFail($act->id);
    expect(app(Shipping::class)->ship(null, $server)['state'])->toBe(ShipmentState::Done);
    $res = new DnsClient('res', $this->s->endpoint('res'));
    $ask = fn (string $name, bool $unchecked = false) => $res->ask(
        Name::parse($name),
        RecordType::of(RecordType::A),
        null,
        true,
        unchecked: $unchecked,
        dnssecOk: true,
    )->message;
    // The clock of the stand-in did not travel; the signatures were made before it did.
    $good = $ask("www.{$w->zone->name}");
    expect($good->rcode->name)->toBe('NoError')->and($good->authenticData)->toBeTrue();
    $none = $ask("none.{$w->zone->name}");
    expect($none->rcode->name)->toBe('NxDomain')->and($none->authenticData)->toBeTrue();
    // What the authority says instead is not believed.
    $this->s->tell('ns1', 'mode', ['mode' => 'wrong']);
    $this->s->tell('res', 'flush', []);
    $bad = $ask("www.{$w->zone->name}");
    $error = ExtendedError::of($bad);
    expect($bad->rcode->name)->toBe('ServFail')->and($error?->code)->toBe(6)->and($error?->words)->toContain('bogus');
    expect($ask("www.{$w->zone->name}", true)->answers[0]->data->text())->toBe('192.0.2.66');
    // A zone that resolver and plan agree to believe without proof.
    $w->did(ChangeResolving::fromInput(['servers' => [$act->id], 'negative' => $w->zone->title()]));
    app(Shipping::class)->ship(null, $server->refresh());
    $believed = $ask("www.{$w->zone->name}");
    expect($believed->rcode->name)->toBe('NoError')->and($believed->authenticData)->toBeFalse();
});

it('keeps an entry that a resolver trusts until it was brought the newest anchor', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)(['entryLife' => '0'])->id));
    ($this->shipAll)();
    $this->travel(2)->days();
    $w->did(ChangeResolving::fromInput(['servers' => [$w->servers['ns2']], 'recursion' => 'on']));
    $w->did(new HandAnchor($w->zone->id, [$w->servers['ns2']]));
    ($this->ship)('ns2', ['resolving']);
    $w->did(new RollKey(($this->zone)()->keys()->where('role', 'ksk')->first()->id));
    ($this->shipAll)();
    foreach (range(1, 3) as $day) {
        $this->travel(1)->days();
        app(KeepSigned::class)->all();
    }
    expect(keysOf(($this->zone)()))->toBe(['ksk dead', 'zsk active', 'ksk ready']);
    $w->did(new HandAnchor($w->zone->id, [$w->servers['ns2']]));
    app(KeepSigned::class)->all();
    // Meant is not brought.
    expect(keysOf(($this->zone)())[0])->toBe('ksk dead');
    ($this->ship)('ns2', ['resolving']);
    app(KeepSigned::class)->all();
    expect(keysOf(($this->zone)()))->toBe(['ksk removed', 'zsk active', 'ksk ready']);
});

it('refuses what would break a zone', function (): void {
    $w = $this->w;
    $policy = ($this->policy)();
    ($this->shipAll)();
    $sign = ['zone' => $w->zone->id, 'policy' => $policy->id];
    $w->did(ServeZone::fromInput(['zone' => $w->zone->id, 'updateMode' => 'address', 'updateFrom' => '192.0.2.0/24']));
    expect($w->refusal(SignZone::class, $sign))->toBe('takes-updates');
    $w->did(ServeZone::fromInput(['zone' => $w->zone->id, 'updateMode' => 'refused']));
    $w->did(SignZone::fromInput($sign));
    expect($w->refusal(SignZone::class, $sign))->toBe('signed-already')
        ->and(
            $w->refusal(ServeZone::class, ['zone' => $w->zone->id, 'updateMode' => 'address', 'updateFrom' => '192.0.2.0/24']),
        )->toBe('zone-is-signed')
        ->and($w->refusal(RemovePolicy::class, ['policy' => $policy->id]))->toBe('policy-in-use')
        ->and($w->refusal(KeepPolicy::class, ['id' => $policy->id, 'name' => $policy->name, 'algorithm' => '15']))->toBe('policy-in-use')
        ->and($w->refusal(KeepPolicy::class, ['name' => 'x', 'validity' => '7d', 'refresh' => '7d']))->toBe('refresh-too-long')
        ->and($w->refusal(KeepPolicy::class, ['name' => 'x', 'zoneKeyLife' => '1d']))->toBe('life-too-short')
        ->and($w->refusal(KeepPolicy::class, ['name' => 'x', 'validity' => 'soon']))->toBe('bad-time')
        ->and(
            $w->refusal(AddRecord::class, ['zone' => $w->zone->id, 'name' => 'a', 'type' => 'NSEC', 'data' => 'b. A']),
        )->toBe('made-by-signing');
});

it('takes no key and no signature in by another door', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)()->id));
    ($this->shipAll)();
    $key = '257 3 13 GojIhhXUN/u4v54ZQqGSnyhWJwaubCvTmeexv7bR6edbkrSqQpF64cYbcB7wNcP+e+MAnLr+Wi9xMWyQLc8NAA==';
    expect(
        $w->refusal(AddRecord::class, ['zone' => $w->zone->id, 'name' => '@', 'type' => 'DNSKEY', 'data' => $key]),
    )->toBe('keys-are-kept')
        ->and($w->refusal(PasteRecords::class, ['zone' => $w->zone->id, 'text' => "@ DNSKEY $key"]))->toBe('keys-are-kept');
    $file = tempnam(sys_get_temp_dir(), 'zone');
    file_put_contents($file, "@ 300 DNSKEY $key\nfresh 300 A 192.0.2.7\nfresh 300 NSEC later A RRSIG NSEC\n");
    $bytes = 0;
    $rows = iterator_to_array(App\Imports\ZoneJudge::rows($w->zone->refresh(), $file, $bytes), false);
    expect(array_column($rows, 'verdict'))->toBe([RowVerdict::Refused, RowVerdict::Read, RowVerdict::Refused]);
    // What somebody puts on the server is not taken in, and the next shipment takes it away.
    $this->s->tell('ns1', 'apply', [
        'view' => $w->zone->view->name, 'zone' => $w->zone->name, 'from' => $w->zone->serial, 'remove' => [],
        'add' => ["forged.{$w->zone->name} 300 A 192.0.2.66"],
    ]);
    expect($w->refusal(App\Acts\Name\TakeRunning::class, [
        'zone' => $w->zone->id, 'server' => $w->servers['ns1'], 'serial' => (string) $w->zone->serial, 'gone' => [], 'come' => [],
    ]))->not->toBeNull();
    expect(app(Shipping::class)->ship(null, Server::query()->find($w->servers['ns1']), null, true)['state'])->toBe(ShipmentState::Done)
        ->and(($this->judge)("forged.{$w->zone->name}", 'A', ($this->zone)()->keys()->first())->trust)->toBe(Trust::Secure);
    $answer = ($this->client)()->ask(Name::parse("forged.{$w->zone->name}"), RecordType::of(RecordType::A), null, false)->message;
    expect($answer->rcode->name)->toBe('NxDomain');
});

it('keeps private keys out of pages, history, drafts and exports', function (): void {
    $w = $this->w;
    ($this->shipAll)();
    $w->did(new SignZone($w->zone->id, ($this->policy)()->id), $w->people['operator']);
    ($this->shipAll)();
    $secret = trim(($this->zone)()->keys()->first()->secret);
    $middle = substr($secret, 60, 30);
    expect(DB::table('zone_keys')->where('secret', 'like', "%$middle%")->exists())->toBeFalse()
        ->and(DB::table('history')->where('after', 'like', "%$middle%")->orWhere('after', 'like', '%PRIVATE%')->exists())->toBeFalse();
    foreach (["/name/zone/{$w->zone->id}/signing", '/name/signing', "/name/zone/{$w->zone->id}/export.zone", '/watch'] as $page) {
        $this->actingAs($w->people['operator'])->get($page)->assertOk()->assertDontSee('PRIVATE KEY')->assertDontSee($middle);
    }
});

it('says where a zone is signed in one view and not in another', function (): void {
    $w = $this->w;
    $view = App\Acts\Directory\MakeView::fromInput(['name' => 'outside-'.bin2hex(random_bytes(3)), 'clients' => ['198.51.100.0/24']]);
    $w->did($view);
    $twin = App\Acts\Name\MakeZone::fromInput(['name' => $w->zone->title(), 'view' => $view->id, 'servers' => [$w->servers['ns1']],
        'nameServers' => 'ns1.quay.example.']);
    $w->did($twin);
    $this->actingAs($w->people['operator']);
    $this->get("/name/zone/{$w->zone->id}/signing")->assertOk()->assertDontSee('in the view');
    DB::table('zones')->where('id', $w->zone->id)->update(['policy_id' => ($this->policy)()->id]);
    $this->get("/name/zone/{$w->zone->id}/signing")->assertOk()->assertReads("Signed here, and not in the view {$view->name}.");
    $this->get("/name/zone/$twin->id/signing")->assertOk()->assertReads('Not signed here, but in the view inside-');
    DB::table('zones')->where('id', $twin->id)->update(['policy_id' => ($this->policy)()->id]);
    $this->get("/name/zone/$twin->id/signing")->assertOk()->assertDontSee('in the view');
});
