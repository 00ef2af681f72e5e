<?php

declare(strict_types=1);

use App\Domain\Watch\Duty;
use App\Domain\Watch\Machines;
use App\Imports\ImportFile;
use App\Models\Import;
use App\Queries\Health;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Str;
use Tests\World;

it('gives a duty to one alone, and to the next when the first is not heard of', function (): void {
    [$first, $second] = [new Duty('default', 'web1'), new Duty('default', 'web2')];
    expect($first->take())->toBeTrue()->and($first->holds())->toBeTrue()->and($second->take())->toBeFalse()
        ->and($second->holds())->toBeFalse();
    $since = DB::table('duties')->where('name', 'default')->value('since');
    expect($first->take())->toBeTrue()->and(DB::table('duties')->value('since'))->toBe($since, 'kept, not taken anew');
    // Another duty is another's.
    expect((new Duty('ship-0', 'web2'))->take())->toBeTrue();
    DB::table('duties')->where('name', 'default')->update(['until' => DB::raw('UTC_TIMESTAMP(3) - INTERVAL 1 SECOND')]);
    expect($second->take())->toBeTrue()->and($first->take())->toBeFalse()->and($first->holds())->toBeFalse()
        ->and(DB::table('duties')->where('name', 'default')->value('machine'))->toBe('web2');
    // Who comes too late takes nothing away.
    $first->leave();
    expect(DB::table('duties')->where('name', 'default')->exists())->toBeTrue();
    $second->leave();
    expect($first->take())->toBeTrue();
});

it('waits for no process of its own machine that has ended', function (): void {
    DB::table('duties')->insert([
        'name' => 'default', 'machine' => 'web1', 'since' => now(), 'until' => now()->addMinute(),
        'holder' => '999999999-1-'.substr(str_replace('-', '', (string) file_get_contents('/proc/sys/kernel/random/boot_id')), 0, 12),
    ]);
    DB::table('duties')->insert([
        'name' => 'ship-0', 'machine' => 'web1', 'since' => now(), 'until' => now()->addMinute(), 'holder' => '999999999-1-000000000000',
    ]);
    expect((new Duty('ship-0', 'web1'))->take())->toBeFalse('another system that was given the same name');
    expect((new Duty('default', 'web2'))->take())->toBeFalse('another machine cannot know that')
        ->and((new Duty('default', 'web1'))->take())->toBeTrue();
    // One that lives is waited for: this process itself, by its beginning.
    expect((new Duty('default', 'web1'))->take())->toBeTrue('it is the same process')
        ->and(DB::table('duties')->count())->toBe(2);
});

it('says which machines there are, what each does, and which one is silent', function (): void {
    $w = World::make(false);
    config(['harbor.machine' => 'web1']);
    Machines::beat();
    DB::table('machines')->insert([
        'name' => 'web2', 'started_at' => now()->subHour(), 'seen_at' => DB::raw('UTC_TIMESTAMP(3) - INTERVAL 90 SECOND'),
    ]);
    (new Duty('clockwork', 'web1'))->take();
    $page = $this->actingAs($w->people['operator'])->get(at('watch.servers'))->assertOk()->assertReads('web1')
        ->assertReads('does what is due by itself')->assertReads('web2 not heard of for a minute or more');
    expect(Health::checks()['machines'])->toBe(['ok' => false, 'must' => false, 'says' => 'web2 was not heard of for a minute'])
        ->and(Health::checks())->not->toHaveKey('nodes');
    // A reader is not told how the application itself is.
    $this->actingAs($w->people['reader'])->get(at('watch.servers'))->assertDontSee('not heard of');
    expect($page->status())->toBe(200);
});

it('reads a file on another machine than took it in, in the edition that counts', function (): void {
    $w = World::make(false);
    $path = (string) tempnam(sys_get_temp_dir(), 'import');
    file_put_contents($path, str_repeat("192.0.2.9,x\n", 200_000));
    mkdir("$path.d");
    file_put_contents("$path.d/".hash('sha256', 'hosts.inc'), 'included');
    $id = (string) Str::ulid();
    DB::table('imports')->insert([
        'id' => $id, 'kind' => 'plan', 'target_id' => $w->space->id, 'file_name' => 'f', 'path' => $path, 'state' => 'reading',
        'bytes' => 1, 'counts' => '{}', 'started_at' => now(), 'message' => '',
    ]);
    ImportFile::keep($id, $path);
    expect(DB::table('import_pieces')->where('import_id', $id)->count())->toBe(4);
    $import = Import::query()->findOrFail($id);
    File::deleteDirectory(storage_path('app/imports'));
    $there = ImportFile::path($import);
    expect(hash_file('sha256', $there))->toBe(hash_file('sha256', $path))
        ->and(file_get_contents("$there.d/".hash('sha256', 'hosts.inc')))->toBe('included');
    ImportFile::rewrite($import, fn (string $copy) => file_put_contents($copy, "anew\n"));
    File::deleteDirectory(storage_path('app/imports'));
    expect(file_get_contents(ImportFile::path(Import::query()->findOrFail($id))))->toBe("anew\n")
        ->and(Import::query()->findOrFail($id)->bytes)->toBe(5);
    // One that ends midway leaves the edition before.
    expect(fn () => ImportFile::rewrite($import, fn () => throw new DomainException('ended')))->toThrow(DomainException::class)
        ->and(file_get_contents(ImportFile::path(Import::query()->findOrFail($id))))->toBe("anew\n");
    ImportFile::drop($id);
    expect(DB::table('import_pieces')->where('import_id', $id)->exists())->toBeFalse()->and(ImportFile::isThere($import))->toBeFalse();
});

it('waits for another node outside a transaction, and gives up in time', function (): void {
    config(['harbor.acts.take_over' => 1.0]);
    $connection = DB::connection();
    $tries = 0;
    $ask = function () use (&$tries): string {
        if (++$tries < 4) {
            $e = new PDOException('WSREP has not yet prepared node for application use');
            $e->errorInfo = ['08S01', 1047, $e->getMessage()];
            throw $e;
        }

        return 'answered';
    };
    $run = fn () => (new ReflectionMethod($connection, 'run'))->invoke($connection, 'select 1', [], $ask);
    // A test stands in a transaction, in which nothing may be sent twice.
    expect($run)->toThrow(Illuminate\Database\QueryException::class)->and($tries)->toBe(1);
});
