<?php

declare(strict_types=1);

use App\Models\Person;
use App\Queries\Health;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Route;
use Tests\World;

it('says to machines that it answers, and whether it can be worked with', function (): void {
    $this->get('/up')->assertOk()->assertSee('up');
    $ready = $this->get('/ready')->assertOk()->json();
    expect($ready['ready'])->toBeTrue()->and(array_keys($ready['checks']))
        ->toBe(['database', 'tables', 'work', 'clockwork', 'disk', 'backup']);
    DB::table('migrations')->insert(['migration' => '2099_01_01_000000_tomorrow', 'batch' => 9]);
    expect($this->get('/ready')->assertStatus(503)->assertHeader('Retry-After')->json('checks.tables.says'))->toContain('newer version')
        ->and(Artisan::call('schema:fits'))->toBe(1);
    // From elsewhere nothing is told of the machine.
    expect($this->call('GET', '/ready', server: ['REMOTE_ADDR' => '198.51.100.7'])->assertStatus(503)->json())->toBe(['ready' => false]);
});

it('tells of work that waits too long, and of what failed', function (): void {
    DB::table('jobs')->insert(['queue' => 'default', 'payload' => '{}', 'attempts' => 0, 'available_at' => time() - 900,
        'created_at' => time()]);
    $checks = Health::checks();
    expect($checks['work']['ok'])->toBeFalse()->and($checks['work']['says'])->toContain('has waited 9')
        // It is slow, and can be worked with.
        ->and(Health::isReady($checks))->toBeTrue();
});

it('lets only who reads the machine become the first person', function (): void {
    DB::table('people')->delete();
    $file = dirname(storage_path()).'/first.code';
    file_put_contents($file, "abcd-1234\n");
    try {
        $form = ['signIn' => 'first', 'name' => 'First', 'password' => 'a-long-password'];
        $this->get('/first-person')->assertOk()->assertSee('Code from the terminal');
        $this->post('/first-person', $form)->assertSessionHas('bad');
        $this->post('/first-person', $form + ['code' => 'abcd-1235'])->assertSessionHas('bad');
        expect(Person::query()->count())->toBe(0);
        $this->post('/first-person', $form + ['code' => ' abcd-1234 '])->assertRedirect('/first-steps');
        expect(Person::query()->count())->toBe(1);
    } finally {
        unlink($file);
    }
});

it('lists what a new installation still needs', function (): void {
    $w = World::make();
    $this->actingAs($w->people['steward']);
    $this->get('/first-steps')->assertOk()->assertReads('Make a space')->assertReads('Take a backup');
    $this->actingAs($w->bound());
    $this->get('/first-steps')->assertForbidden();
});

it('says that the disk is full, to people and to programs, though the log cannot be written either', function (): void {
    config(['logging.channels.daily.path' => '/dev/full/harbor.log']);
    Log::forgetChannel();
    Log::forgetChannel('daily');
    $full = new PDOException("The table 'addresses' is full");
    $full->errorInfo = ['HY000', 1114, $full->getMessage()];
    foreach (['trial-full', 'api/trial-full'] as $path) {
        Route::get("/$path", fn () => throw new QueryException('mariadb', 'insert into `addresses`', [], $full));
    }
    $this->get('/trial-full')->assertStatus(507)->assertReads('The disk is full')->assertReads('nothing of what you sent was written');
    $this->getJson('/api/trial-full')->assertStatus(507)->assertJsonPath('type', 'urn:harbor-post:problem:disk-full');
    Route::get('/trial-other', fn () => file_put_contents('/dev/full', str_repeat('x', 9000)));
    $this->get('/trial-other')->assertStatus(507);
});

it('bounds how often one person may send packets to servers, and nothing else', function (): void {
    config(['harbor.throttle.packets' => 3]);
    $w = World::make(false);
    $this->actingAs($w->people['reader']);
    foreach (range(1, 3) as $n) {
        $this->get('/name/lookup')->assertOk();
    }
    $this->get('/name/lookup?name=www.example')->assertStatus(429)->assertHeader('Retry-After');
    expect($this->get('/name')->getStatusCode())->toBe(200);
    $this->app['auth']->forgetGuards();
    $this->actingAs($w->people['operator'])->get('/name/lookup')->assertOk();
});
