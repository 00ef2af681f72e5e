<?php

declare(strict_types=1);

use App\Acts\Directory\MakeSite;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Registry;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Site;
use App\Models\WrittenOutsideAction;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** @return array<string, string> table → checksum of all its rows */
function everyRow(): array
{
    $sums = [];
    foreach (DB::select('SHOW TABLES') as $row) {
        $table = (string) array_values((array) $row)[0];
        $sums[$table] = md5(
            serialize(
                DB::table($table)->get()
                    ->map(fn ($r): array => array_map(fn ($v): string => bin2hex((string) $v), (array) $r))->sort()
                    ->values()->all(),
            ),
        );
    }

    return $sums;
}

it('throws when a model is written outside an act', function (): void {
    expect(fn () => (new Site(['name' => 'x']))->save())->toThrow(WrittenOutsideAction::class)
        ->and(fn () => Site::query()->where('name', 'x')->update(['name' => 'y']))->toThrow(WrittenOutsideAction::class)
        ->and(fn () => Site::query()->where('name', 'x')->delete())->toThrow(WrittenOutsideAction::class)
        ->and(fn () => Site::query()->insert(['id' => 'x', 'name' => 'x']))->toThrow(WrittenOutsideAction::class);
});

it('rehearses without leaving a trace', function (): void {
    $w = World::make();
    $before = everyRow();
    $outcome = $w->acts()
        ->rehearse(
            $w->people['operator'],
            [
                PlaceHost::fromInput([
                    'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'ptr' => '1',
                    'reserve' => '1',
                ]),
            ],
        );
    expect($outcome->blocked())->toBeFalse()->and(count($outcome->written()))->toBe(4)->and(everyRow())->toBe($before);
});

it('keeps who, when, before and after of every write', function (): void {
    $w = World::make(false);
    $outcome = $w->did(new ChangePrefix([$w->subnet->id], stage: 'retiring', description: 'moves to slip 2'), $w->people['planner']);
    $row = DB::table('history')->where('act_id', $outcome->ledgers[0]->actId)->sole();
    expect($row->person_id)->toBe($w->people['planner']->id)->and(json_decode($row->before, true))
        ->toBe(['stage' => 'live', 'description' => ''])->and(json_decode($row->after, true))
        ->toBe(['stage' => 'retiring', 'description' => 'moves to slip 2'])->and($row->at)->not->toBeNull();
});

it('writes no secret into history', function (): void {
    $w = World::make(false);
    expect(DB::table('history')->whereIn('object_type', ['person', 'server'])->pluck('after')->implode(' '))->not
        ->toContain('password')->not->toContain('"token"')
        ->and(DB::table('servers')->where('id', $w->servers['ns1'])->value('token'))->not->toBe('t');
});

it('names what changed meanwhile instead of overwriting it', function (): void {
    $w = World::make(false);
    $seen = ["prefix:{$w->subnet->id}" => $w->subnet->version];
    $w->did(new ChangePrefix([$w->subnet->id], name: 'Tills'));
    $outcome = $w->acts()->commit($w->people['planner'], [new ChangePrefix([$w->subnet->id], name: 'Kiosks')], [$seen]);
    expect($outcome->block()?->code)->toBe('changed-meanwhile')->and($outcome->block()->message)->toContain('Tills')
        ->and($w->subnet->refresh()->name)->toBe('Tills');
});

it('lets each role do its own work only', function (): void {
    $w = World::make(false);
    $carve = CarvePrefix::fromInput(['space' => $w->space->id, 'prefix' => '192.0.2.128/26']);
    $place = PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']);
    foreach (
        [
            'planner' => [true, true], 'operator' => [false, true], 'reader' => [false, false], 'approver' => [false, false],
            'steward' => [false, false],
        ] as $role => [$mayCarve, $mayPlace]
    ) {
        expect($w->acts()->rehearse($w->people[$role], [$carve])->blocked())->toBe(! $mayCarve, "$role carves")
            ->and($w->acts()->rehearse($w->people[$role], [$place])->blocked())->toBe(! $mayPlace, "$role places");
    }
});

it('is all of it or none of it', function (): void {
    $w = World::make(false);
    $outcome = $w->acts()
        ->commit(
            $w->people['planner'],
            [MakeSite::fromInput(['name' => 'Slip 9']), CarvePrefix::fromInput(['space' => $w->space->id, 'prefix' => '192.0.2.0/26'])],
        );
    expect($outcome->block()?->code)->toBe('inside-link')->and(Site::query()->where('name', 'Slip 9')->exists())->toBeFalse();
});

it('carries every act through its own input and back', function (string $class): void {
    $input = [];
    foreach (Inputs::of($class) as $name => $field) {
        $input[$name] = match ($field->kind) {
            Kind::Number => (string) max(7, $field->least), Kind::Texts => ['a', 'b'], Kind::Map => ['a' => 'b'], Kind::Flag => '1',
            Kind::Choice => $field->choices[0],
            Kind::Id, Kind::NewId => '01JE7ZZZZZZZZZZZZZZZZZZZZZ', Kind::Ids => ['01JE7ZZZZZZZZZZZZZZZZZZZZZ'],
            default => substr('text', 0, $field->most),
        };
    }
    $act = $class::fromInput($input);
    expect($class::fromInput(json_decode(json_encode($act->toInput(), JSON_THROW_ON_ERROR), true))->toInput())->toBe($act->toInput());
})->with(Registry::ACTS);

it('has every input of every act declared', function (string $class): void {
    $parameters = array_map(
        fn (ReflectionParameter $p): string => $p->getName(),
        (new ReflectionClass($class))->getConstructor()?->getParameters() ?? [],
    );
    expect(array_keys(Inputs::of($class)))->toBe($parameters);
})->with(Registry::ACTS);

it('gives sixteen takers at once sixteen addresses', function (): void {
    $script = 'require "vendor/autoload.php"; $a = require "bootstrap/app.php";
        $a->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap();
    for ($i = 0; $i < 4; $i++) {
        $o = app(App\Acts\Engine\Acts::class)->commit(null, [App\Acts\Plan\PlaceHost::fromInput(["prefix" => $argv[1]])]);
        echo $o->made("address") ?? ("blocked: ".$o->trouble.($o->block()->message ?? "")), "\n"; }';
    DB::rollBack();
    $w = World::make(false);
    $running = $pipes = $given = [];
    for ($i = 0; $i < 8; $i++) {
        $running[] = proc_open(
            [PHP_BINARY, '-r', $script, '--', $w->subnet->id],
            [1 => ['pipe', 'w'], 2 => ['file', '/dev/null', 'w']],
            $pipes[$i],
            base_path(),
            ['HPOST_INSTANCE' => 'test'] + getenv(),
        );
    }
    foreach ($running as $i => $process) {
        $given = [...$given, ...explode("\n", trim((string) stream_get_contents($pipes[$i][1])))];
        proc_close($process);
    }
    expect($given)->toHaveCount(32)->and(array_unique($given))->toHaveCount(32)
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(32);
    foreach ($given as $address) {
        expect(
            Prefix::query()->find($w->subnet->id)?->prefix()->usable()->contains(HarborPost\Core\Net\Address::parse($address)),
        )->toBeTrue();
    }
    Illuminate\Support\Facades\Artisan::call('migrate:fresh', ['--force' => true]);
});
