<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Name\AddRecord;
use App\Acts\Name\AddSecondary;
use App\Acts\Name\ChangeZone;
use App\Acts\Name\MakeKey;
use App\Acts\Name\MakeZone;
use App\Acts\Name\RemoveZone;
use App\Acts\Name\ServeZone;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Models\Part;
use App\Models\Record;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\TransferKey;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Serving\Notices;
use App\Shipping\Shipping;
use Illuminate\Support\Facades\DB;
use Tests\Foreign;
use Tests\HandingOut;
use Tests\Standins;
use Tests\World;

/* Zones are handed out from here; a secondary of independent make (dnspython) copies them. */

beforeEach(function (): void {
    config(['harbor.patience' => 2.0]);
    DB::table('servers')->where('speaks', 'here')->update(['speaks' => 'control', 'catalog' => null]);
    $this->w = World::make();
    $this->port = Standins::port();
    $this->directory = sys_get_temp_dir().'/hpost-names-'.bin2hex(random_bytes(5));
    mkdir($this->directory);
    $this->w->did($make = MakeKey::fromInput(['name' => 'copy-'.bin2hex(random_bytes(3)).'.example', 'algorithm' => 'hmac-sha384']));
    $this->key = TransferKey::query()->findOrFail($make->id);
    file_put_contents("$this->directory/key", "{$this->key->name}\n{$this->key->algorithm->value}\n{$this->key->secret}");
    $this->w->did(ChangeServer::fromInput([
        'server' => $this->w->servers['ns1'], 'speaks' => 'here', 'endpoint' => "127.0.0.1:$this->port",
        'catalog' => 'Catalog.quay.example',
    ]));
    $this->w->did(ChangeServer::fromInput([
        'server' => $this->w->servers['ns2'], 'speaks' => 'standard', 'key' => $this->key->id,
        'endpoint' => '127.0.0.1:'.($this->beyond = Standins::port()),
    ]));
    $this->make = function (string $name, ?string $view = null): Zone {
        $this->w->did($make = MakeZone::fromInput([
            'name' => $name, 'view' => $view ?? $this->w->view, 'servers' => [$this->w->servers['ns2'], $this->w->servers['ns1']],
        ]));
        $this->w->did(ServeZone::fromInput(['zone' => $make->id, 'transfer' => "key {$this->key->name}"]));

        return Zone::query()->findOrFail($make->id);
    };
    $this->zone = ($this->make)('copied-'.bin2hex(random_bytes(3)).'.example');
    $this->door = new HandingOut($this->port, "$this->directory/log");
    $this->log = fn (): string => (string) file_get_contents("$this->directory/log");
    $this->ship = function (?string $only = null): array {
        $done = app(Shipping::class)->ship(null, Server::query()->findOrFail($this->w->servers['ns1']), $only === null ? null : [$only]);

        return collect($done['steps'])->keyBy('id')->all();
    };
    /** @return array{serial?: int, lines?: list<string>, whole?: bool, messages?: int, error?: string} */
    $this->copy = function (string $zone, string $how = 'axfr', bool $signed = true): array {
        $file = "$this->directory/".md5($zone);
        $command = ['/usr/bin/python3', base_path('tests/fixtures/secondary.py'), (string) $this->port,
            $signed ? "$this->directory/key" : '-', $how, $zone, $file];
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['pipe', 'w'], ['file', "$this->directory/errors", 'a']], $pipes);
        $told = json_decode((string) stream_get_contents($pipes[1]), true);
        proc_close($process);

        return is_array($told) ? $told : ['error' => (string) file_get_contents("$this->directory/errors")];
    };
    $this->meant = function (Zone $zone): array {
        $rows = Record::query()->where('zone_id', $zone->id)->get();
        $lines = $rows->map(fn (Record $r): string => "$r->owner ".($r->ttl ?? $zone->default_ttl).' '
            .HarborPost\Core\Dns\RecordType::of($r->type)." $r->data")->all();
        sort($lines);

        return $lines;
    };
});

afterEach(function (): void {
    $this->door->stop();
    exec('rm -rf '.escapeshellarg($this->directory));
});

it('names those who answer, and never itself', function (): void {
    $servers = ZoneServer::query()->where('zone_id', $this->zone->id)->pluck('part', 'server_id');
    expect($servers[$this->w->servers['ns1']])->toBe(Part::Primary)->and($servers[$this->w->servers['ns2']])->toBe(Part::Secondary);
    $ns = Record::query()->where('zone_id', $this->zone->id)->where('type', 2)->pluck('target')->all();
    $name = Server::query()->findOrFail($this->w->servers['ns2'])->name;
    expect($ns)->toHaveCount(1)->and($ns[0])->toStartWith($name)->and($this->zone->primary_server)->toBe($ns[0]);
    expect($this->w->refusal(MakeZone::class, [
        'name' => 'nobody.example', 'view' => $this->w->view, 'servers' => [$this->w->servers['ns1']],
    ]))->toBe('here-answers-nobody');
    expect($this->w->refusal(AddSecondary::class, ['zones' => [$this->w->zone->id], 'server' => $this->w->servers['ns1']]))
        ->toBe('here-copies-nothing')
        ->and($this->w->refusal(ChangeServer::class, ['server' => $this->w->servers['ns2'], 'speaks' => 'here']))->toBe('here-once');
});

it('hands out what was shipped and not what is being edited', function (): void {
    expect(($this->copy)($this->zone->name)['error'])->toContain('REFUSED');
    $step = ($this->ship)($this->zone->id)[$this->zone->id];
    expect($step['state'])->toBe('done')->and($step['message'])->toContain('transferred and compared');
    $first = ($this->copy)($this->zone->name);
    expect($first['lines'])->toBe(($this->meant)($this->zone))->and($first['serial'])->toBe($this->zone->refresh()->serial);
    $this->w->did(new AddRecord($this->zone->id, 'A', '192.0.2.10', '', 'till'));
    $this->w->did(ChangeZone::fromInput(['zone' => $this->zone->id, 'defaultTtl' => '2h', 'refresh' => '3h']));
    expect(($this->copy)($this->zone->name)['lines'])->toBe($first['lines']);
    // It is told whoever asks, so that nobody takes what waits for what stands.
    $compared = collect(Links::to(Server::query()->findOrFail($this->w->servers['ns1']))->compare())->firstWhere('id', $this->zone->id);
    expect($compared->state)->toBe(DifferenceState::Differs);
    expect(($this->ship)($this->zone->id)[$this->zone->id]['state'])->toBe('done');
    $second = ($this->copy)($this->zone->name);
    expect($second['lines'])->toBe(($this->meant)($this->zone->refresh()))->not->toBe($first['lines'])
        ->and($second['serial'])->toBeGreaterThan($first['serial']);
});

it('tells what came since by itself, over several shipments, and the whole where that does not do', function (): void {
    ($this->ship)($this->zone->id);
    $name = $this->zone->name;
    $first = ($this->copy)($name);
    expect(($this->copy)($name, 'ixfr'))->toMatchArray(['serial' => $first['serial'], 'lines' => $first['lines']]);
    foreach (['192.0.2.10', '192.0.2.11', '192.0.2.12'] as $i => $address) {
        $this->w->did(new AddRecord($this->zone->id, 'A', $address, '', "till$i", $i === 1 ? '60' : ''));
        ($this->ship)($this->zone->id);
    }
    $gone = Record::query()->where('zone_id', $this->zone->id)->where('owner', "till1.$name")->firstOrFail();
    $this->w->did(App\Acts\Name\RemoveRecords::fromInput(['records' => [$gone->id]]));
    ($this->ship)($this->zone->id);
    // What waits is not told.
    $this->w->did(new AddRecord($this->zone->id, 'A', '192.0.2.13', '', 'waits'));
    $after = ($this->copy)($name, 'ixfr');
    $meant = array_values(array_filter(($this->meant)($this->zone), fn (string $l): bool => ! str_starts_with($l, 'waits')));
    expect($after['whole'])->toBeFalse()->and($after['lines'])->toBe($meant)->and($after['serial'])->toBe($this->zone->refresh()->serial);
    // All that inherit their TTL change: steps would have to name each.
    $this->w->did(ChangeZone::fromInput(['zone' => $this->zone->id, 'defaultTtl' => '2h']));
    ($this->ship)($this->zone->id);
    $whole = ($this->copy)($name, 'ixfr');
    expect($whole['whole'])->toBeTrue()->and($whole['lines'])->toBe(($this->meant)($this->zone->refresh()));
});

it('gives nothing to who may not have it, and says the same of what is not there', function (): void {
    ($this->ship)($this->zone->id);
    expect(($this->copy)($this->zone->name, signed: false)['error'])->toContain('REFUSED')
        ->and(($this->copy)('no.such.example', signed: false)['error'])->toContain('REFUSED')
        ->and(($this->copy)('inside.catalog.quay.example', signed: false)['error'])->toContain('REFUSED');
    file_put_contents("$this->directory/key", "{$this->key->name}\n{$this->key->algorithm->value}\n".base64_encode(random_bytes(48)));
    expect(($this->copy)($this->zone->name)['error'])->toContain('PeerBadSignature');
    // Whoever is taken off the list is refused at once.
    file_put_contents("$this->directory/key", "{$this->key->name}\n{$this->key->algorithm->value}\n{$this->key->secret}");
    $this->w->did(ServeZone::fromInput(['zone' => $this->zone->id, 'transfer' => '192.0.2.99']));
    expect(($this->copy)($this->zone->name)['error'])->toContain('REFUSED');
});

it('does not guess which of two views is meant', function (): void {
    $this->w->did($view = App\Acts\Directory\MakeView::fromInput([
        'name' => 'outside-'.bin2hex(random_bytes(3)), 'clients' => ['198.51.100.0/24'],
    ]));
    $twin = ($this->make)($this->zone->title(), $view->id);
    $this->w->did(new AddRecord($twin->id, 'A', '198.51.100.7', '', 'till'));
    ($this->ship)();
    expect(($this->copy)($this->zone->name)['error'])->toContain('REFUSED')
        ->and((string) file_get_contents("$this->directory/log"))->toContain('give each view a key of its own');
    $this->w->did($other = MakeKey::fromInput(['name' => 'inside-'.bin2hex(random_bytes(3)).'.example']));
    $this->w->did(ServeZone::fromInput([
        'zone' => $this->zone->id, 'transfer' => 'key '.TransferKey::query()->findOrFail($other->id)->name,
    ]));
    expect(($this->copy)($twin->name)['lines'])->toBe(($this->meant)($twin));
});

it('lists its zones in a catalog, which follows what is shipped, admitted and removed', function (): void {
    $label = trim(preg_replace('/[^a-z0-9]+/', '-', strtolower($this->zone->view->name)), '-');
    $catalog = "$label.catalog.quay.example.";
    $members = fn (array $told): array => array_values(array_map(
        fn (string $l): string => explode(' ', $l)[3],
        array_filter($told['lines'] ?? [], fn (string $l): bool => str_contains($l, ".zones.$catalog 0 PTR ")),
    ));
    $other = ($this->make)('berths-'.bin2hex(random_bytes(3)).'.example');
    ($this->ship)($this->zone->id);
    $first = ($this->copy)($catalog);
    expect($members($first))->toBe([$this->zone->name])->and($first['lines'])->toContain("version.$catalog 0 TXT \"2\"")
        ->toContain("$catalog 0 NS invalid.");
    ($this->ship)($other->id);
    $second = ($this->copy)($catalog, 'ixfr');
    expect($members($second))->toEqualCanonicalizing([$this->zone->name, $other->name])
        ->and($second['serial'])->toBeGreaterThan($first['serial']);
    // Nothing new: the same serial, and nothing is sent.
    expect(($this->copy)($catalog, 'ixfr')['serial'])->toBe($second['serial']);
    $this->w->did(ServeZone::fromInput(['zone' => $this->zone->id, 'transfer' => '192.0.2.99']));
    $third = ($this->copy)($catalog);
    expect($members($third))->toBe([$other->name])->and($third['serial'])->toBeGreaterThan($second['serial']);
    $this->w->did(ServeZone::fromInput(['zone' => $this->zone->id, 'transfer' => "key {$this->key->name}"]));
    $this->w->did(RemoveZone::fromInput(['zone' => $other->id]));
    $last = ($this->copy)($catalog);
    expect($members($last))->toBe([$this->zone->name])->and($last['serial'])->toBeGreaterThan($third['serial'])
        ->and(($this->copy)($other->name)['error'])->toContain('REFUSED');
});

it('tells who copies that there is something new', function (): void {
    $foreign = new Foreign($this->beyond, $this->key, [], true);
    ($this->ship)($this->zone->id);
    $label = trim(preg_replace('/[^a-z0-9]+/', '-', strtolower($this->zone->view->name)), '-');
    $notices = new Notices;
    $here = Server::query()->findOrFail($this->w->servers['ns1']);
    foreach ($notices->due($here, time()) as [$endpoint, $bytes]) {
        $socket = stream_socket_client("udp://$endpoint");
        fwrite($socket, $bytes);
        stream_set_timeout($socket, 2);
        expect(ord(fread($socket, 512)[2]) & 0x80)->toBe(0x80);
    }
    // Who does not answer is told again, ever later, five times; who answers is not.
    expect($notices->due($here, time()))->toBe([])->and(count($notices->due($here, time() + 60)))->toBe(2);
    foreach ([100, 200, 400, 800] as $later) {
        $notices->due($here, time() + $later);
    }
    expect($notices->due($here, time() + 9000))->toBe([]);
    expect($foreign->told())->toContain("notify {$this->zone->name}")->toContain("notify $label.catalog.quay.example.");
    $foreign->stop();
});

it('takes away what is silenced with the shipment, and waits for who does not answer', function (): void {
    ($this->ship)($this->zone->id);
    $this->w->did(ChangeZone::fromInput(['zone' => $this->zone->id, 'silenced' => '1']));
    expect(($this->copy)($this->zone->name)['serial'])->toBe($this->zone->refresh()->serial);
    expect(($this->ship)($this->zone->id)[$this->zone->id]['message'])->toContain('not handed out');
    expect(($this->copy)($this->zone->name)['error'])->toContain('REFUSED');
    $this->door->stop();
    $step = app(Shipping::class)->ship(null, Server::query()->findOrFail($this->w->servers['ns1']));
    expect($step['state'])->toBe(ShipmentState::Failed)->and($step['steps'][0]['message'])->toContain('Nothing was shipped');
});

it('refuses everybody while nothing is handed out, whatever is sent, and ends when it is told to', function (): void {
    $port = Standins::port();
    $start = fn (string $listen) => proc_open(
        [PHP_BINARY, base_path('artisan'), 'names', "--listen=$listen"],
        [['file', '/dev/null', 'r'], ['file', "$this->directory/door", 'a'], ['file', "$this->directory/door", 'a']],
        $pipes,
    );
    $ended = function ($process): int {
        for ($i = 0; $i < 400 && ($state = proc_get_status($process))['running']; $i++) {
            usleep(25_000);
        }

        return $state['exitcode'];
    };
    $door = $start("127.0.0.1:$port");
    for ($i = 0; $i < 400 && ! str_contains((string) file_get_contents("$this->directory/door"), 'hands zones out'); $i++) {
        usleep(25_000);
    }
    // No row of this test is seen there: everything is refused.
    $ask = "\x12\x34\0\0\0\1\0\0\0\0\0\0\4till\7example\0\0\6\0\1";
    $udp = stream_socket_client("udp://127.0.0.1:$port");
    stream_set_timeout($udp, 5);
    foreach (['', "\0", str_repeat("\xFF", 600), substr($ask, 0, 14), $ask] as $packet) {
        fwrite($udp, $packet);
    }
    do {
        $last = (string) fread($udp, 600);
    } while ($last !== '' && (ord($last[3]) & 15) !== 5);
    expect(bin2hex(substr($last, 0, 2)))->toBe('1234');
    $slow = stream_socket_client("tcp://127.0.0.1:$port");
    fwrite($slow, "\0");
    $tcp = stream_socket_client("tcp://127.0.0.1:$port");
    stream_set_timeout($tcp, 5);
    foreach ([1, 2] as $once) {
        fwrite($tcp, pack('n', strlen($ask)).$ask);
        $answer = (string) fread($tcp, 600);
        expect(bin2hex(substr($answer, 2, 2)))->toBe('1234')->and(ord($answer[5]) & 15)->toBe(5);
    }
    expect($ended($start("127.0.0.1:$port")))->toBe(1)->and($ended($start('53')))->toBe(2)
        ->and((string) file_get_contents("$this->directory/door"))->toContain('cannot listen at')->toContain('expected address:port');
    proc_terminate($door);
    expect($ended($door))->toBe(0);
});

it('is asked for no names, by nobody: not in Lookup, not as a resolver, not as a copy', function (): void {
    $here = Server::query()->findOrFail($this->w->servers['ns1']);
    $this->actingAs($this->w->people['operator']);
    foreach (['/name/lookup', '/name/resolvers', '/name/test'] as $page) {
        $this->get($page)->assertOk()->assertDontSee(">$here->name<", false);
    }
    $this->get("/name/zone/{$this->w->zone->id}/service")->assertOk()->assertDontSee("value=\"$here->id\"", false);
    expect(Server::answering(App\Models\ServerKind::asked())->whereKey($here->id)->exists())->toBeFalse();
});

it('hands out signatures that fit what it hands out, whatever is being edited or was signed since', function (): void {
    $policy = App\Acts\Sign\KeepPolicy::fromInput(['name' => 'Sound '.bin2hex(random_bytes(3))]);
    $this->w->did($policy);
    $this->w->did(App\Acts\Sign\SignZone::fromInput(['zone' => $this->zone->id, 'policy' => $policy->id]));
    ($this->ship)($this->zone->id);
    $first = ($this->copy)($this->zone->name);
    $types = fn (array $told): array => array_count_values(array_map(fn (string $l): string => explode(' ', $l)[2], $told['lines']));
    expect($types($first)['RRSIG'])->toBeGreaterThan(3)->and($types($first)['DNSKEY'])->toBeGreaterThan(0);
    // Stamped and signed anew by a shipment elsewhere: it is not here yet.
    $this->w->did(new AddRecord($this->zone->id, 'A', '192.0.2.10', '', 'till'));
    $this->w->did(ChangeZone::fromInput(['zone' => $this->zone->id, 'refresh' => '3h']));
    $this->w->did(new App\Acts\Ship\StampZones([$this->zone->id => null]));
    $same = ($this->copy)($this->zone->name);
    expect($same)->toBe($first);
    ($this->ship)($this->zone->id);
    $next = ($this->copy)($this->zone->name, 'ixfr');
    $whole = ($this->copy)($this->zone->name);
    expect($next['lines'])->toBe($whole['lines'])->and($next['serial'])->toBe($whole['serial'])->not->toBe($first['serial'])
        ->and(implode("\n", $whole['lines']))->toContain("till.{$this->zone->name} 3600 A 192.0.2.10")
        ->toContain("till.{$this->zone->name} 3600 RRSIG A ");
});
