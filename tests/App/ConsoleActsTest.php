<?php

declare(strict_types=1);

use App\Api\Collections;
use App\Models\Draft;
use App\Models\Host;
use Illuminate\Support\Facades\Artisan;
use Tests\World;

/* Everything that screen and API do, the command line does: with the same checks, words and rights. */

beforeEach(function (): void {
    $this->w = World::make();
    $this->run1 = function (string $command, array $of = []): array {
        $status = Artisan::call($command, $of);

        return [$status, Artisan::output()];
    };
    $this->hosts = fn (): int => Host::query()->where('prefix_id', $this->w->subnet->id)->count();
});

it('lists every list, with its filters, fields and in the reach of somebody', function (): void {
    foreach (array_keys(Collections::OF) as $list) {
        [$status] = ($this->run1)('get', ['list' => $list, '--limit' => '1', '--json' => true]);
        expect($status)->toBeIn([0, 1], $list);
    }
    [$status, $said] = ($this->run1)('get', [
        'list' => 'prefixes', 'filters' => ['within=192.0.2.0/24', 'kind:subnet'], '--fields' => 'prefix,name',
    ]);
    expect($status)->toBe(0)->and($said)->toContain("192.0.2.0/25\tTicketing");
    [, $said] = ($this->run1)('get', ['list' => 'zones', '--one' => $this->w->zone->title(), '--json' => true]);
    expect(json_decode($said, true)['title'])->toBe($this->w->zone->title());
    expect(($this->run1)('get', ['list' => 'fish'])[0])->toBe(2)
        ->and(($this->run1)('get', ['list' => 'prefixes', 'filters' => ['within=fish']])[0])->toBe(2)
        ->and(($this->run1)('get', ['list' => 'prefixes', 'filters' => ['fish']])[0])->toBe(2)
        ->and(($this->run1)('get', ['list' => 'prefixes', '--as' => 'nobody-there'])[0])->toBe(2)
        ->and(($this->run1)('get', ['list' => 'zones', '--one' => 'no.such.zone'])[0])->toBe(1);
    $this->w->did($tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => 'Strangers '.bin2hex(random_bytes(3))]));
    $stranger = $this->w->person('stranger-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    [$status, $said] = ($this->run1)('get', ['list' => 'prefixes', '--as' => $stranger->sign_in, '--limit' => '0']);
    expect($status)->toBe(1)->and($said)->not->toContain('192.0.2');
});

it('rehearses, does and drafts an act, as somebody or as who owns the machine', function (): void {
    $place = ['prefix='.$this->w->subnet->id, 'name=till-1', 'address=192.0.2.10', 'zone='.$this->w->zone->id];
    [$status, $said] = ($this->run1)('act', ['key' => 'place-host', 'inputs' => $place, '--rehearse' => true]);
    expect($status)->toBe(0)->and($said)->toContain('192.0.2.10')->toContain('nothing was written')->and(($this->hosts)())->toBe(0);
    $operator = $this->w->people['operator']->sign_in;
    [$status, $said] = ($this->run1)('act', ['key' => 'place-host', 'inputs' => $place, '--as' => $operator, '--json' => true]);
    $told = json_decode($said, true);
    expect($status)->toBe(0)->and($told['committed'])->toBeTrue()->and(array_column($told['written'], 'line'))->not->toBe([])
        ->and(($this->hosts)())->toBe(1);
    // The same address once more: stopped, with the thing in the way.
    [$status, $said] = ($this->run1)('act', ['key' => 'place-host', 'inputs' => $place, '--json' => true]);
    expect($status)->toBe(1)->and(json_decode($said, true)['blocked'])->toBeTrue()->and(($this->hosts)())->toBe(1);
    [$status] = ($this->run1)('act', [
        'key' => 'place-host', 'inputs' => ['prefix='.$this->w->subnet->id, 'name=till-2'], '--draft' => true,
        '--as' => $this->w->people['planner']->sign_in,
    ]);
    expect($status)->toBe(0)->and(($this->hosts)())->toBe(1)
        ->and(Draft::query()->where('person_id', $this->w->people['planner']->id)->exists())->toBeTrue();
    expect(($this->run1)('act', ['key' => 'place-host', 'inputs' => $place, '--draft' => true])[0])->toBe(2);
});

it('holds who it speaks as to their rights, and says what is not understood', function (): void {
    $inputs = ['prefix='.$this->w->subnet->id, 'name=till-1'];
    expect(($this->run1)('act', ['key' => 'place-host', 'inputs' => $inputs, '--as' => $this->w->people['reader']->sign_in])[0])->toBe(1)
        ->and(($this->hosts)())->toBe(0)
        ->and(($this->run1)('act', ['key' => 'no-such-act', 'inputs' => $inputs])[0])->toBe(2)
        ->and(($this->run1)('act', ['key' => 'place-host', 'inputs' => ['fish=1']])[0])->toBe(2)
        ->and(($this->run1)('act', ['key' => 'place-host', 'inputs' => ['fish']])[0])->toBe(2)
        ->and(($this->run1)('act', ['key' => 'place-host', 'inputs' => ['name=@/no/such/file']])[0])->toBe(2);
    [$status, $said] = ($this->run1)('act', ['key' => 'place-host']);
    expect($status)->toBe(2)->and($said)->toContain('* --prefix')->toContain('  --mac');
    // A list apart by commas, and one that stands in a file.
    $file = tempnam(sys_get_temp_dir(), 'hp');
    file_put_contents($file, "till-7\ntill-8\n");
    [$status] = ($this->run1)('act', ['key' => 'place-several', 'inputs' => ['prefix='.$this->w->subnet->id, "names=@$file", 'count=2']]);
    unlink($file);
    expect($status)->toBe(0)->and(($this->hosts)())->toBe(2);
});

it('takes the inputs of an act as options, as a shell gives them', function (): void {
    $run = function (string ...$words): array {
        $process = proc_open(
            [PHP_BINARY, base_path('artisan'), ...$words], [['file', '/dev/null', 'r'], ['pipe', 'w'], ['pipe', 'w']], $pipes,
        );
        $said = stream_get_contents($pipes[1]).stream_get_contents($pipes[2]);

        return [proc_close($process), $said];
    };
    // No row of this test is seen there: what is read of the line shows in what is said of it.
    [$status, $said] = $run('act', 'place-host', '--prefix=10.99.0.0/16', '--name=till', '--rehearse');
    expect($status)->toBeIn([1, 2])->and($said)->toContain('10.99.0.0/16');
    [$status, $said] = $run('act', 'place-host', '--fish=1');
    expect($status)->toBe(2)->and($said)->toContain('"fish" is not asked for here');
});
