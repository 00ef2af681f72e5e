<?php

declare(strict_types=1);

use App\Acts\Directory\MakeHook;
use App\Acts\Directory\RemoveHook;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Links\HookClient;
use App\Models\Hook;
use App\Shipping\Hooks;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    config(['harbor.patience' => 0.4]);
    $this->folder = sys_get_temp_dir().'/hpost-hook-'.bin2hex(random_bytes(4));
    mkdir($this->folder);
    $socket = stream_socket_server('tcp://127.0.0.1:0');
    $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
    fclose($socket);
    $this->receiver = proc_open(
        [PHP_BINARY, __DIR__.'/../fixtures/hook-receiver.php', (string) $this->port, $this->folder],
        [['file', '/dev/null', 'r'], ['file', '/dev/null', 'a'], ['file', '/dev/null', 'a']],
        $pipes,
    );
    for ($i = 0; $i < 100 && @fsockopen('127.0.0.1', $this->port) === false; $i++) {
        usleep(20000);
    }
    @unlink("$this->folder/got");
    $this->mode = fn (string $mode) => file_put_contents("$this->folder/mode", $mode);
    $this->got = fn (): array => array_values(array_filter(
        array_map(fn (string $l): ?array => json_decode($l, true), is_file("$this->folder/got") ? (array) file("$this->folder/got") : []),
        fn (?array $e): bool => ($e['body'] ?? '') !== '',
    ));
    $this->hook = function (array $more = []): Hook {
        $act = MakeHook::fromInput($more + ['name' => 'assets', 'address' => "http://127.0.0.1:$this->port/harbor", 'inner' => '1']);
        $this->w->did($act);

        return Hook::query()->findOrFail($act->id);
    };
    $this->place = fn (string $name) => $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => $name]));
});

afterEach(function (): void {
    proc_terminate($this->receiver, 9);
    proc_close($this->receiver);
    exec('rm -rf '.escapeshellarg($this->folder));
});

it('tells what happened, in order, signed', function (): void {
    $hook = ($this->hook)();
    $before = DB::table('outbox')->count();
    ($this->place)('till-1');
    ($this->place)('till-2');
    expect(DB::table('outbox')->count())->toBe($before + 2)->and(Hooks::make()->deliver())->toBeGreaterThanOrEqual(2);
    $got = ($this->got)();
    $bodies = array_map(fn (array $e): array => json_decode($e['body'], true), $got);
    $placed = array_values(array_filter($bodies, fn (array $b): bool => $b['act'] === 'place-host'));
    expect(array_map(fn (array $b): string => $b['written'][0]['line'], $placed))->toBe(['192.0.2.2 till-1', '192.0.2.3 till-2'])
        ->and($placed[0]['written'][0])->toMatchArray(['op' => 'new', 'kind' => 'address']);
    preg_match('/Event-Id: (\d+)\r\nEvent-Time: (\d+)\r\nEvent-Signature: sha256=([0-9a-f]{64})/', end($got)['head'], $m);
    expect($m[3])->toBe(hash_hmac('sha256', "$m[1].$m[2].".end($got)['body'], $hook->secret));
    expect(Hooks::make()->deliver())->toBe(0)->and(($this->got)())->toHaveCount(count($got));
});

it('tells nothing of what was not committed, and nothing of secrets', function (): void {
    ($this->hook)();
    $before = DB::table('outbox')->count();
    $this->w->acts()->rehearse(null, [PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'x'])]);
    $this->w->acts()->commit(null, [PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'a..b'])]);
    expect(DB::table('outbox')->count())->toBe($before);
    $person = $this->w->person('noted-'.bin2hex(random_bytes(3)), ['reader']);
    $body = (string) DB::table('outbox')->orderByDesc('id')->value('body');
    expect($body)->toContain($person->sign_in)->not->toContain('a-long-password')->not
        ->toContain((string) $person->getRawOriginal('password'));
});

it('tells of the kinds that are asked for, and goes past the others', function (): void {
    ($this->hook)(['kinds' => ['record']]);
    ($this->place)('till-1');
    $this->w->did(new AddRecord($this->w->zone->id, 'TXT', 'x', '', 'a'));
    expect(Hooks::make()->deliver())->toBe(1)->and(json_decode(($this->got)()[0]['body'], true)['act'])->toBe('add-record');
});

it('tries again after growing pauses what is refused, hangs, lies or leads elsewhere', function (string $mode, ?int $status): void {
    $hook = ($this->hook)(['kinds' => ['address']]);
    ($this->place)('till-1');
    ($this->mode)($mode);
    expect(Hooks::make()->deliver())->toBe(0);
    $state = DB::table('hook_states')->where('hook_id', $hook->id)->first();
    expect($state->tries)->toBe(1)->and(DB::table('hook_deliveries')->where('hook_id', $hook->id)->value('status'))->toBe($status);
    // Not before its time, and not the one behind it either.
    ($this->mode)('take');
    ($this->place)('till-2');
    expect(Hooks::make()->deliver())->toBe(0);
    DB::table('hook_states')->update(['next_at' => now()->subSecond()]);
    expect(Hooks::make()->deliver())->toBe(2);
})->with(['refused' => ['refuse', 503], 'hangs' => ['hang', null], 'lies' => ['lie', null], 'leads elsewhere' => ['elsewhere', 302]]);

it('follows nobody elsewhere', function (): void {
    ($this->hook)(['kinds' => ['address']]);
    ($this->place)('till-1');
    ($this->mode)('elsewhere');
    Hooks::make()->deliver();
    expect(implode(array_column(($this->got)(), 'head')))->not->toContain('/other');
});

it('parks what is not taken for days, and goes on when somebody says so', function (): void {
    $hook = ($this->hook)(['kinds' => ['address']]);
    ($this->place)('till-1');
    ($this->mode)('refuse');
    // The clock stands: what is measured is the pause, not how busy the machine is.
    $this->travelTo(now()->startOfSecond());
    $pauses = [];
    for ($n = 0; $n < 12; $n++) {
        DB::table('hook_states')->update(['next_at' => null]);
        Hooks::make()->deliver();
        $pauses[] = (int) round(now()->diffInSeconds(DB::table('hook_states')->value('next_at')));
    }
    expect(DB::table('hook_states')->value('parked_at'))->not->toBeNull();
    $sorted = $pauses;
    sort($sorted);
    expect($pauses)->toBe($sorted)->and(max($pauses))->toBeLessThanOrEqual(86400);
    ($this->mode)('take');
    DB::table('hook_states')->update(['next_at' => null]);
    expect(Hooks::make()->deliver())->toBe(0);
    $this->actingAs($this->w->people['steward'])->get('/ship/hooks')->assertOk()->assertReads('parked after 12 tries');
    $this->post("/ship/hooks/$hook->id/again")->assertSessionHas('done');
    expect(Artisan::call('hooks:deliver'))->toBe(0)->and(($this->got)())->not->toBe([]);
    $this->post("/ship/hooks/$hook->id/test")->assertSessionHas('done');
});

it('loses nothing when it dies between the call and the note of it', function (): void {
    $hook = ($this->hook)(['kinds' => ['address']]);
    ($this->place)('till-1');
    Hooks::make()->deliver();
    // As if the note had not been written: at least once.
    DB::table('hook_states')->where('hook_id', $hook->id)->decrement('delivered');
    DB::table('hook_states')->update(['delivered' => (int) DB::table('outbox')->max('id') - 1]);
    Hooks::make()->deliver();
    expect(count(($this->got)()))->toBe(2);
});

it('calls only where it may', function (string $address, bool $inner, bool $fine): void {
    expect(HookClient::fault($address, $inner) === null)->toBe($fine);
})->with([
    ['https://events.example/x', false, true], ['http://events.example/x', false, false], ['http://10.0.0.1/', true, true],
    ['ftp://x/', true, false],
    ['https://', false, false], ['https://a:b@events.example/', false, false], ["https://x/\r\nHost: y", false, false],
    ['nonsense', true, false],
]);

it('does not reach into networks of our own', function (string $host): void {
    $answer = (new HookClient(0.3))->post("https://$host:$this->port/", false, [], '{}');
    expect($answer['status'])->toBeNull()->and($answer['says'])->toContain('not outside');
})->with([
    '127.0.0.1', '10.1.2.3', '192.168.0.1', '169.254.169.254', '100.64.0.1', '[::1]', '[fe80::1]', '[fd00::1]', '[::ffff:127.0.0.1]',
    '0.0.0.0',
]);

it('checks certificates', function (): void {
    $answer = (new HookClient(0.5))->post("https://127.0.0.1:$this->port/", true, [], '{}');
    expect($answer['status'])->toBeNull();
});

it('is made and removed by stewards, with a secret that is shown once', function (): void {
    $steward = $this->w->people['steward'];
    $this->actingAs($steward)->post('/act/make-hook', [
        'name' => 'cmdb', 'address' => 'https://events.example/x', 'then' => 'commit',
    ])->assertSessionHas('once');
    $hook = Hook::query()->where('name', 'cmdb')->sole();
    expect($hook->getRawOriginal('secret'))->not->toContain($hook->secret);
    foreach (DB::table('history')->where('object_type', 'hook')->get() as $row) {
        expect(json_encode($row))->not->toContain($hook->secret);
    }
    $this->get('/ship/hooks')->assertOk()->assertSee('cmdb')->assertReads($hook->secret);
    $this->get('/ship/hooks')->assertOk()->assertDontSee($hook->secret);
    foreach ([
        ['address' => 'http://events.example/x'], ['address' => 'nonsense'], ['name' => ''], ['kinds' => ['lighthouse']],
    ] as $wrong) {
        expect($this->w->refusal(MakeHook::class, $wrong + ['name' => 'x', 'address' => 'https://events.example/x']))->not->toBeNull();
    }
    $this->w->did(new RemoveHook($hook->id));
    $this->actingAs($this->w->people['planner'])->get('/ship/hooks')->assertForbidden();
});

it('passes nothing over that is being committed just now under an earlier number', function (): void {
    $hook = ($this->hook)();
    Hooks::make()->deliver();
    $other = new PDO(
        'mysql:host='.config('database.connections.mariadb.host').';port='.config('database.connections.mariadb.port').';dbname='
            .config('database.connections.mariadb.database'),
        config('database.connections.mariadb.username'),
        config('database.connections.mariadb.password'),
        [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
    );
    $other->beginTransaction();
    $other->exec("INSERT INTO outbox (act_id, at, kinds, body) VALUES ('SLOW', NOW(3), '|address|', '{\"act\":\"slow\"}')");
    $slow = (int) $other->lastInsertId();
    try {
        ($this->place)('till-1');
        expect((int) DB::table('outbox')->max('id'))->toBeGreaterThan($slow);
        DB::statement('SET SESSION innodb_lock_wait_timeout = 1');
        expect(Hooks::make()->deliver())->toBe(0);
        $other->commit();
        Hooks::make()->deliver();
        $acts = array_map(fn (array $e): string => json_decode($e['body'], true)['act'], ($this->got)());
        expect(array_slice($acts, -2))->toBe(['slow', 'place-host']);
    } finally {
        DB::statement('SET SESSION innodb_lock_wait_timeout = DEFAULT');
        $other->inTransaction() && $other->rollBack();
        // What this test holds is let go first, then the other's row goes.
        DB::rollBack(0);
        $other->exec("DELETE FROM outbox WHERE act_id = 'SLOW'");
    }
});

it('tells of one site alone, with all that stands in it', function (): void {
    $outer = App\Acts\Directory\MakeSite::fromInput(['name' => 'Outer '.bin2hex(random_bytes(3))]);
    $inner = App\Acts\Directory\MakeSite::fromInput(['name' => 'Inner '.bin2hex(random_bytes(3)), 'parent' => $outer->id]);
    $this->w->did($outer);
    $this->w->did($inner);
    ($this->hook)(['site' => $outer->id]);
    Hooks::make()->deliver();
    ($this->place)('elsewhere');
    $this->w->did(new App\Acts\Plan\ChangePrefix([$this->w->top->id], site: $inner->id));
    ($this->place)('till-1');
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'x', 'type' => 'TXT', 'data' => '"x"']));
    Hooks::make()->deliver();
    $lines = array_map(fn (array $e): string => json_decode($e['body'], true)['written'][0]['line'] ?? '', ($this->got)());
    expect(implode(' ', $lines))->toContain('till-1')->not->toContain('elsewhere')->not->toContain('"x"');
});
