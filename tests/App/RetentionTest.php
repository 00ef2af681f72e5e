<?php

declare(strict_types=1);

use App\Acts\Watch\KeepRetention;
use App\Imports\ImportFile;
use App\Models\Import;
use App\Models\Kept;
use App\Models\Retention;
use App\Queries\KeptRows;
use App\View\Words;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Tests\World;

/*
 * What is over goes by rule: shown with its size, trimmed in small steps, and told in the history.
 */

beforeEach(function (): void {
    $this->travelTo(CarbonImmutable::parse('2026-03-04 10:00:00'));
    $this->w = World::make(false);
    foreach (Kept::cases() as $kind) {
        DB::table($kind->place()[0])->delete();
    }
    DB::table('retention')->delete();
    $this->former = function (int $days, int $many = 1): void {
        $row = [
            'server_id' => $this->w->servers['dh1'], 'address' => pack('N', 0xC0000201), 'state' => 'active',
            'starts_at' => now()->subDays($days + 1), 'ends_at' => now()->subDays($days), 'until_at' => now()->subDays($days),
        ];
        foreach (array_chunk(array_fill(0, $many, $row), 1000) as $rows) {
            DB::table('lease_bindings')->insert($rows);
        }
    };
    $this->count = fn (): int => DB::table('lease_bindings')->count();
});

it('takes away what is older than it is kept, all of it, and says so in the history', function (): void {
    ($this->former)(729);
    ($this->former)(731, 2500);
    expect(KeptRows::older(Kept::FormerLeases, 730))->toBe(2500);
    Artisan::call('data:trim --dry');
    expect(Artisan::output())->toContain('2,500 older than 730 days')->and(($this->count)())->toBe(2501);
    Artisan::call('data:trim');
    expect(($this->count)())->toBe(1)->and(Artisan::output())->toContain('2,500 older than 730 days went');
    $rule = Retention::query()->where('kind', 'former-leases')->firstOrFail();
    expect($rule->trimmed_rows)->toBe(2500)->and($rule->days)->toBe(730);
    expect(DB::table('history')->where('object_id', $rule->id)->value('after'))->toContain('2500');
    // Once more there is nothing to do, and nothing to tell.
    $told = DB::table('history')->count();
    Artisan::call('data:trim');
    expect(DB::table('history')->count())->toBe($told);
});

it('tells in the history what a run took that was killed midway', function (): void {
    ($this->former)(900, 2500);
    $cuts = 0;
    DB::listen(function ($query) use (&$cuts): void {
        if (str_starts_with($query->sql, 'delete from `lease_bindings`') && ++$cuts === 3) {
            throw new RuntimeException('killed');
        }
    });
    expect(fn () => Artisan::call('data:trim'))->toThrow(RuntimeException::class, 'killed');
    // What the third step took came back with it; what the two before took is not told yet.
    expect(($this->count)())->toBe(500)->and(Retention::query()->where('kind', 'former-leases')->value('trimmed_at'))->toBeNull();
    $cuts = 10;
    Artisan::call('data:trim');
    $rule = Retention::query()->where('kind', 'former-leases')->firstOrFail();
    expect(($this->count)())->toBe(0)->and($rule->trimmed_rows)->toBe(2500)->and($rule->going)->toBe(0);
    expect(DB::table('history')->where('object_id', $rule->id)->pluck('after')->implode(' '))->toContain('2500')->not->toContain('going');
});

it('keeps what is not over, what waits, and what is kept for ever', function (): void {
    ($this->former)(9000);
    $this->w->did(new KeepRetention('former-leases'));
    $mail = ['person_id' => $this->w->people['reader']->id, 'address' => 'a@b.example', 'subject' => 's', 'body' => 'b'];
    foreach (['waiting', 'sent'] as $i => $state) {
        DB::table('mails')->insert($mail + [
            'cause' => "c$i", 'state' => $state, 'tries' => 0, 'made_at' => now()->subDays(400), 'next_at' => now(), 'says' => '',
        ]);
    }
    Artisan::call('data:trim');
    expect(($this->count)())->toBe(1)->and(Artisan::output())->toContain('Former leases: who had an address: kept for ever')
        ->and(DB::table('mails')->pluck('state')->all())->toBe(['waiting']);
});

it('takes away imports that ended with their rows and files, and never a file of somebody else', function (): void {
    $theirs = (string) tempnam(sys_get_temp_dir(), 'own');
    file_put_contents($theirs, 'x');
    $import = fn (string $state, int $days, string $path): string => tap((string) Str::ulid(), fn ($id) => DB::table('imports')->insert([
        'id' => $id, 'kind' => 'plan', 'target_id' => $this->w->space->id, 'file_name' => 'f', 'path' => $path, 'state' => $state,
        'bytes' => 1, 'counts' => '{}', 'started_at' => now()->subDays($days), 'message' => '',
    ]));
    $over = [$import('taken', 100, $theirs), $import('cancelled', 100, $theirs)];
    $stays = [$import('judged', 400, $theirs), $import('taken', 10, $theirs)];
    $copies = [];
    foreach ([...$over, ...$stays] as $id) {
        ImportFile::keep($id, $theirs);
        $copies[$id] = ImportFile::path(Import::query()->findOrFail($id));
        for ($n = 0; $n < 1200; $n += 400) {
            DB::table('import_rows')->insert(array_map(fn (int $i): array => [
                'import_id' => $id, 'line' => $n + $i, 'verdict' => 'add', 'what' => 'x', 'reason' => '', 'payload' => '{}',
            ], range(1, 400)));
        }
    }
    // Of one that never began, since yesterday and since today.
    DB::table('import_pieces')->insert(array_map(fn (int $days): array => [
        'import_id' => (string) Str::ulid(), 'edition' => 0, 'name' => '', 'place' => 0, 'bytes' => 'x', 'at' => now()->subDays($days),
    ], [2, 0]));
    touch($copies[$over[0]], time() - 3 * 86400);
    Artisan::call('data:trim');
    expect(DB::table('imports')->orderBy('id')->pluck('id')->all())->toBe(collect($stays)->sort()->values()->all())
        ->and(DB::table('import_rows')->count())->toBe(2400)
        ->and(DB::table('import_pieces')->whereIn('import_id', $stays)->count())->toBe(2)->and(DB::table('import_pieces')->count())->toBe(3)
        ->and(is_file($copies[$over[0]]))->toBeFalse()->and(is_file($theirs))->toBeTrue();
    unlink($theirs);
});

it('takes away leases that are gone, sightings and calls of hooks, and none that still stand', function (): void {
    $lease = fn (int $n, ?int $gone): array => [
        'server_id' => $this->w->servers['dh1'], 'address' => inet_pton("192.0.2.$n"), 'mac' => random_bytes(6), 'state' => 'active',
        'starts_at' => now()->subDays(900), 'ends_at' => now()->subDays(800), 'gone_at' => $gone === null ? null : now()->subDays($gone),
    ];
    DB::table('leases')->insert([$lease(60, 400), $lease(61, 10), $lease(62, null)]);
    $seen = fn (int $n, int $days): array => [
        'space_id' => $this->w->space->id, 'family' => 4, 'address' => inet_pton("192.0.2.$n"), 'first_seen' => now()->subDays(900),
        'last_seen' => now()->subDays($days),
    ];
    DB::table('sightings')->insert([$seen(1, 800), $seen(2, 100)]);
    Artisan::call('data:trim');
    expect(DB::table('leases')->count())->toBe(2)->and(DB::table('sightings')->count())->toBe(1)
        ->and(Artisan::output())->toContain('Leases that their server has no more: 1 older than 365 days went')
        ->and(App\Models\Kept::cases())->toHaveCount(11);
});

it('says what goes before a rule is kept, and refuses what pages compute with', function (): void {
    ($this->former)(40, 3);
    $rehearse = fn (int $days) => $this->w->acts()->rehearse($this->w->people['steward'], [new KeepRetention('former-leases', $days)]);
    expect(array_column($rehearse(30)->ledgers[0]->later, 0))->toBe(['3 rows go in the next night, and do not come back'])
        ->and($rehearse(50)->ledgers[0]->later)->toBe([])
        ->and($rehearse(3)->block()?->code)->toBe('kept-too-short')
        ->and($this->w->refusal(KeepRetention::class, ['kind' => 'use', 'days' => '100']))->toBe('kept-too-short')
        ->and($this->w->refusal(KeepRetention::class, ['kind' => 'history', 'days' => '100']))->toBe('bad-input')
        ->and($this->w->refusal(KeepRetention::class, ['kind' => 'use', 'days' => '-1']))->toBe('bad-input')
        ->and(KeepRetention::may($this->w->people['planner']))->toBeFalse();
});

it('shows each kind with its size, edited in its row by stewards', function (): void {
    ($this->former)(731, 3);
    $page = $this->actingAs($this->w->people['steward'])->get('/watch/kept?edit=former-leases')->assertOk();
    $page->assertReads('Former leases: who had an address')->assertSee('data-was="730"', false)->assertReads('nothing of it is cut')
        ->assertReads('a day for 3,650 days');
    $this->get('/watch/kept?edit=nonsense')->assertOk()->assertDontSee('id="keepfor"', false);
    $this->actingAs($this->w->people['reader'])->get('/watch/kept?edit=former-leases')->assertOk()->assertDontSee('id="keepfor"', false);
    $this->actingAs($this->w->bound())->get('/watch/kept')->assertForbidden();
    expect(Words::size(0))->toBe('0 B')->and(Words::size(1536))->toBe('1.5 kB')->and(Words::size(1023))->toBe('1,023 B')
        ->and(Words::size(230 * 1024 ** 2))->toBe('230 MB');
});

it('has an index and its words for every kind', function (): void {
    foreach (Kept::cases() as $kind) {
        [$table, $column] = $kind->place();
        $first = DB::table('information_schema.statistics')->where('table_schema', DB::getDatabaseName())->where('table_name', $table)
            ->where('seq_in_index', 1)->pluck('column_name')->all();
        expect($first)->toContain($column)->and($kind->usual())->toBeGreaterThanOrEqual($kind->least());
    }
    $choices = App\Acts\Engine\Inputs::of(KeepRetention::class)['kind']->choices;
    expect($choices)->toBe(array_column(Kept::cases(), 'value'));
});
