<?php

declare(strict_types=1);

use App\Acts\Engine\Acts;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\StartImport;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Imports\ImportFile;
use App\Jobs\ReadImport;
use App\Jobs\TakeOverImport;
use App\Models\Host;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Prefix;
use App\Models\Record;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Tests\World;

function staged(World $w, string $kind, string $target, string $text): Import
{
    $path = (string) tempnam(sys_get_temp_dir(), 'import');
    file_put_contents($path, $text);
    $act = StartImport::fromInput(['kind' => $kind, 'target' => $target, 'fileName' => 'file', 'path' => $path]);
    ImportFile::keep($act->id, $path);
    $w->did($act);
    (new ReadImport($act->id))->handle(app(Acts::class));

    return Import::query()->findOrFail($act->id);
}

function takenOver(Import $import, bool $removals = false): void
{
    app(Acts::class)->commit(null, [new MarkImport($import->id, ImportState::Taking)]);
    (new TakeOverImport($import->id, null, $removals))->handle(app(Acts::class));
    $import->refresh();
}

/** @return array<string, string> what → verdict and reason */
function verdicts(Import $import): array
{
    return DB::table('import_rows')->where('import_id', $import->id)->orderBy('line')->orderBy('id')->get()
        ->mapWithKeys(fn ($r): array => ["$r->line $r->what" => trim("$r->verdict $r->reason")])->all();
}

it('judges an address plan row by row', function (): void {
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9', 'mac' => '00:00:5e:00:53:01']));
    $import = staged($w, 'plan', $w->space->id, implode("\n", [
        'prefix,kind,stage,name,site,vlan,description,address,mac', '192.0.2.128/26,subnet,live,Gates,,,x,,',
        '192.0.2.129/26,subnet,live,,,,,,', '192.0.2.128/27,subnet,live,,,,,,', '192.0.2.0/25,subnet,live,Ticketing,,,,,',
        '192.0.2.0/25,subnet,retiring,,,,,,',
        '10.0.0.0/8,supernet,planned,Ten,,,,,', '10.1.0.0 255.255.0.0,subnet,planned,,,,,,', '192.0.2.192/26,link,live,,,,,,',
        '192.0.2.192/26,subnet,live,,Nowhere,,,,', '192.0.2.192/26,subnet,live,,,4095,,,',
        ',,,till-1,,,,192.0.2.130,00-00-5e-00-53-09', ',,,,,,,192.0.2.128,', ',,,,,,,198.51.100.1,',
        ',,,,,,,192.0.2.9,00:00:5e:00:53:01', ',,,,,,,192.0.2.9,00:00:5e:00:53:02', ',,,a..b,,,,192.0.2.131,', 'a,b,c,d,e,f,g,h,i,j',
        '255.255.250,subnet,,,,,,,',
    ])."\n");
    $v = array_values(verdicts($import));
    expect($import->state)->toBe(ImportState::Judged)->and($v[0])->toBe('add')->and($v[1])->toContain('refused')
        ->toContain('192.0.2.128/26')->and($v[2])->toContain('refused lies inside 192.0.2.128/26 of line 2')->and($v[3])
        ->toBe('same')->and($v[4])->toContain('refused stands already on line 5')
        ->and($v[5])->toBe('add')->and($v[6])->toBe('add')->and($v[7])->toContain('supernet, subnet, pool')->and($v[8])
        ->toContain('site "Nowhere"')->and($v[9])->toContain('1 to 4094')->and($v[10])->toBe('add')->and($v[11])
        ->toContain('network or broadcast')->and($v[12])->toContain('no subnet holds it')
        ->and($v[13])->toBe('same')->and($v[14])->toContain('refused stands already')->and($v[15])
        ->toContain('no domain name')->and($v[16])->toContain('10 cells')->and($v[17])->toContain('character');
    takenOver($import);
    expect($import->refresh()->state)->toBe(ImportState::Taken)
        ->and(Prefix::query()->where('space_id', $w->space->id)->where('name', 'Gates')->sole()->parent_id)
        ->toBe($w->top->id)
        ->and((string) Host::query()->where('space_id', $w->space->id)->where('name', 'till-1')->sole()->mac)
        ->toBe('00:00:5e:00:53:09');
    // The same file again finds nothing to do.
    expect(
        array_intersect_key(
            staged($w, 'plan', $w->space->id, file_get_contents(ImportFile::path($import)))->counts,
            ['add' => 1, 'change' => 1],
        ),
    )->toBe([]);
});

it('gives hosts their names both ways where zones are there', function (): void {
    $w = World::make(false);
    $import = staged($w, 'plan', $w->space->id, "address,name,mac\n192.0.2.20,till-20.{$w->zone->title()},\n");
    takenOver($import);
    expect(Record::query()->where('owner', "till-20.{$w->zone->name}")->value('data'))->toBe('192.0.2.20')
        ->and(Record::query()->where('owner', '20.2.0.192.in-addr.arpa.')->value('data'))
        ->toBe("till-20.{$w->zone->name}");
});

it('understands a short name of a host as one in its zone', function (): void {
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9', 'name' => 'x', 'zone' => $w->zone->id]));
    $file = "address,name\n192.0.2.9,gate-9\n";
    takenOver($import = staged($w, 'plan', $w->space->id, $file));
    expect($import->state)->toBe(ImportState::Taken)->and($import->message)->toBe('')
        ->and(Record::query()->where('owner', "gate-9.{$w->zone->name}")->value('data'))->toBe('192.0.2.9')
        ->and(staged($w, 'plan', $w->space->id, $file)->counts)->toBe(['same' => 1]);
});

it('reads back what it writes', function (): void {
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9', 'name' => 'x', 'zone' => $w->zone->id]));
    $own = App\Acts\Directory\MakeOwnField::fromInput(['name' => 'Power '.bin2hex(random_bytes(3)), 'kind' => 'text']);
    $w->did($own);
    $w->did(new App\Acts\Plan\ChangePrefix([$w->subnet->id], own: [$own->id => 'grid, 16 A'], tags: 'tills, quay'));
    $this->actingAs($w->people['planner']);
    foreach (['csv', 'json'] as $form) {
        $file = $this->get("/plan/{$w->space->id}/export.$form")->streamedContent();
        expect($file)->toContain('grid, 16 A')->and(staged($w, 'plan', $w->space->id, $file)->counts)->toBe(['same' => 3], $form);
    }
    $zone = $this->get("/name/zone/{$w->zone->id}/export.zone")->streamedContent();
    expect(array_keys(staged($w, 'zone', $w->zone->id, $zone)->counts))->toBe(['same']);
});

it('judges a zone file and keeps removals apart', function (): void {
    $w = World::make(false);
    foreach ([['keep', '192.0.2.7'], ['old', '192.0.2.8'], ['other', '192.0.2.9']] as [$name, $data]) {
        $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => $name, 'type' => 'A', 'data' => $data]));
    }
    $import = staged(
        $w,
        'zone',
        $w->zone->id,
        "\$TTL 3600\n@ SOA ns1.quay.example. host 99 7200 900 1209600 600\n@ NS ns1.quay.example.\n@ NS ns2.quay.example.\nkeep "
            ."A 192.0.2.7\nother 60 A 192.0.2.9\nnew A 192.0.2.10\nkeep CNAME x\nbad A 192.0.2.300\nnew A 192.0.2.10\n",
    );
    expect($import->counts)->toBe(['add' => 1, 'change' => 2, 'cut' => 1, 'refused' => 3, 'same' => 3]);
    takenOver($import);
    expect(Record::query()->where('zone_id', $w->zone->id)->where('owner', "new.{$w->zone->name}")->exists())
        ->toBeTrue()->and(Record::query()->where('owner', "old.{$w->zone->name}")->exists())->toBeTrue()
        ->and(Record::query()->where('owner', "other.{$w->zone->name}")->value('ttl'))->toBe(60)
        ->and($w->zone->refresh()->negative_ttl)->toBe(600);
    $again = staged($w, 'zone', $w->zone->id, file_get_contents(ImportFile::path($import)));
    takenOver($again, true);
    expect(Record::query()->where('owner', "old.{$w->zone->name}")->exists())->toBeFalse();
});

it('goes on after a crash, and stages nothing twice', function (string $kind): void {
    $w = World::make(false);
    $rows = implode(
        '',
        array_map(fn (int $i): string => $kind === 'plan' ? sprintf("192.0.2.%d,x%d\n", $i, $i) : "h$i 60 A 192.0.2.1\n", range(2, 100)),
    );
    $path = (string) tempnam(sys_get_temp_dir(), 'import');
    file_put_contents($path, ($kind === 'plan' ? "address,name\n" : '').$rows);
    $act = StartImport::fromInput([
        'kind' => $kind, 'target' => $kind === 'plan' ? $w->space->id : $w->zone->id, 'fileName' => 'f', 'path' => $path,
    ]);
    ImportFile::keep($act->id, $path);
    $w->did($act);
    (new ReadImport($act->id))->handle(app(Acts::class));
    // As if it had been killed when the first forty rows were in.
    $keep = DB::table('import_rows')->where('import_id', $act->id)->where('verdict', '!=', 'cut')->orderBy('id')->limit(40)->get();
    DB::table('import_rows')->where('import_id', $act->id)->whereNotIn('id', $keep->pluck('id'))->delete();
    $head = array_sum(array_map(strlen(...), array_slice(file($path), 0, $kind === 'plan' ? 41 : 40)));
    DB::table('imports')->where('id', $act->id)->update(['state' => 'reading', 'lines' => $keep->last()->line, 'bytes_read' => $head]);
    (new ReadImport($act->id))->handle(app(Acts::class));
    expect(DB::table('import_rows')->where('import_id', $act->id)->where('verdict', 'add')->count())->toBe(99)
        ->and(DB::table('import_rows')->where('import_id', $act->id)->where('verdict', 'add')->distinct()->count('what'))
        ->toBe(99);
})->with(['plan', 'zone']);

it('explains a file it cannot use', function (string $text, string $message): void {
    $w = World::make(false);
    $import = staged($w, 'plan', $w->space->id, $text);
    expect($import->state)->toBe(ImportState::Headings)->and($import->message)->toContain($message);
})->with([
    ["name,role\n1,2\n", 'needs "prefix" or "address"'],
    ["prefix,prefix\n10.0.0.0/8,x\n", 'Two columns mean "prefix"'],
    ["prefix,colour\n10.0.0.0/8,red\n", 'Unknown columns: colour'],
]);

it('works by upload, with a preview before anything is written', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner']);
    $page = $this
        ->post(
            '/import',
            [
                'kind' => 'plan',
                'target' => $w->space->id,
                'file' => UploadedFile::fake()->createWithContent('../../plan.csv', "prefix,name\n192.0.2.128/26,Gates\n192.0.2.9/26,x\n"),
            ],
        )
        ->assertRedirect();
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    $this->get($page->headers->get('Location'))->assertOk()->assertSee('1 to add')->assertSee('192.0.2.0/26');
    expect($import->file_name)->toBe('plan.csv')
        ->and(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeFalse();
    $this->post("/import/$import->id/take-over")->assertRedirect();
    expect(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeTrue();
    $this->post("/import/$import->id/take-over")->assertSessionHas('bad');
});

it('takes over nothing of a file that was not read to its end', function (): void {
    $w = World::make(false);
    $import = staged($w, 'plan', $w->space->id, "prefix,name\n192.0.2.128/26,Gates\n");
    DB::table('imports')->where('id', $import->id)->update(['state' => 'failed']);
    takenOver($import);
    expect($import->state)->toBe(ImportState::Failed)
        ->and(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeFalse();
    $this->actingAs($w->people['planner'])->get("/import/$import->id")->assertOk()
        ->assertDontSee('Take over as one')->assertSee('Cancel the import');
});

it('leaves taking a plan in to planners, whoever read the file', function (): void {
    $w = World::make(false);
    $import = staged($w, 'plan', $w->space->id, "prefix,name\n192.0.2.128/26,Gates\n");
    $this->actingAs($w->people['operator']);
    $this->get('/import')->assertOk()->assertSee('Planners take plans in')->assertDontSee('Into the space');
    $this->post('/act/take-over', ['import' => $import->id, 'then' => 'commit']);
    $this->post("/import/$import->id/take-over");
    expect(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeFalse()
        ->and($import->refresh()->state)->toBe(ImportState::Judged);
    $this->actingAs($w->people['planner'])->post('/act/take-over', ['import' => $import->id, 'then' => 'commit'])->assertRedirect();
    expect(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeTrue();
});

it('writes no cell that a spreadsheet would run', function (): void {
    $w = World::make(false);
    $w->carve('192.0.2.128/26', ['name' => '=1+1']);
    expect($this->actingAs($w->people['planner'])->get("/plan/{$w->space->id}/export.csv")->streamedContent())->toContain("'=1+1");
});

it('sees a clash inside a file whichever way round and however far apart the lines are', function (bool $aliasFirst): void {
    $w = World::make(false);
    $filler = implode('', array_map(fn (int $i): string => "host-$i A 192.0.2.".($i % 250 + 1)."\n", range(1, 2300)));
    [$one, $two] = $aliasFirst ? ["far CNAME mail\n", "far A 192.0.2.9\n"] : ["far A 192.0.2.9\n", "far CNAME mail\n"];
    $import = staged($w, 'zone', $w->zone->id, "\$TTL 3600\n{$one}twice A 192.0.2.7\n$filler{$two}twice A 192.0.2.7\nalone CNAME mail\n");
    $of = fn (string $name): array => DB::table('import_rows')->where('import_id', $import->id)->where('what', 'like', "$name.%")
        ->orderBy('line')->get()->map(fn ($r): string => "$r->verdict ".mb_strimwidth($r->reason, 0, 40))->all();
    expect($of('far'))->toBe(array_fill(0, 2, 'refused an alias stands alone: lines 2, 2304 are'))
        ->and($of('twice'))->toBe(['add ', 'refused stands already on line 3'])->and($of('alone'))->toBe(['add '])
        ->and($import->counts['add'])->toBe(2302);
})->with([true, false]);
