<?php

declare(strict_types=1);

use App\Acts\Lease\AddReservation;
use App\Acts\Lease\MakeScope;
use App\Acts\Lease\SetOption;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeRecord;
use App\Acts\Name\MakeZone;
use App\Acts\Name\RemoveRecords;
use App\Models\OptionValue;
use App\Models\Part;
use App\Models\Record;
use App\Models\Zone;
use Illuminate\Support\Facades\DB;
use Tests\World;

function addRecord(World $w, string $name, string $type, string $data, string $ttl = ''): Record
{
    $act = AddRecord::fromInput(['zone' => $w->zone->id, 'name' => $name, 'type' => $type, 'data' => $data, 'ttl' => $ttl]);
    $w->did($act);

    return Record::query()->findOrFail($act->id);
}

it('makes a zone with NS and glue', function (): void {
    $w = World::make(false);
    $act = MakeZone::fromInput([
        'name' => 'ops.example', 'view' => $w->view, 'servers' => [$w->servers['ns1'], $w->servers['ns2']], 'nameServers' => 'a b',
        'mailbox' => 'dns.team@ops.example',
    ]);
    $w->did($act);
    $zone = Zone::query()->findOrFail($act->id);
    $lines = Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('data')->get()
        ->map(fn (Record $r): string => $r->line());
    expect($lines->all())->toBe([
        'NS ops.example. → a.ops.example.', 'NS ops.example. → b.ops.example.', 'A a.ops.example. → 192.0.2.53',
        'A b.ops.example. → 192.0.2.54',
    ])
        ->and($zone->mailbox)->toBe('dns\.team.ops.example.')
        ->and($zone->placements()->orderBy('part')->pluck('part')->all())->toBe([Part::Primary, Part::Secondary]);
});

it('names the reverse zone of a prefix', function (string $prefix, ?string $name): void {
    $w = World::make(false);
    $act = MakeZone::fromInput([
        'name' => $prefix, 'view' => $w->view, 'servers' => [$w->servers['ns1']], 'nameServers' => 'ns1.quay.example.',
    ]);
    $outcome = $w->acts()->commit(null, [$act]);
    expect($outcome->blocked())->toBe($name === null)->and(Zone::query()->find($act->id)?->title())->toBe($name);
})->with([
    ['198.51.100.0/24', '100.51.198.in-addr.arpa'], ['203.0.113.0/25', '0/25.113.0.203.in-addr.arpa'],
    ['2001:db8:1::/48', '1.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa'], ['10.0.0.0/15', null],
]);

it('checks a record before it is written', function (string $name, string $type, string $data, string $code): void {
    $w = World::make(false);
    addRecord($w, 'www', 'A', '192.0.2.9');
    addRecord($w, 'alias', 'CNAME', 'www');
    $outcome = $w->acts()
        ->rehearse(
            $w->people['operator'],
            [AddRecord::fromInput(['zone' => $w->zone->id, 'name' => $name, 'type' => $type, 'data' => $data])],
        );
    expect(array_column($outcome->notes(), 'code'))->toContain($code);
})->with([
    ['www', 'CNAME', 'x', 'cname-beside-data'], ['alias', 'A', '192.0.2.1', 'cname-beside-data'],
    ['@', 'CNAME', 'www', 'cname-at-apex'], ['www', 'A', '192.0.2.9', 'record-twice'], ['@', 'MX', '10 alias', 'target-is-alias'],
    ['@', 'MX', '10 gone', 'target-missing'], ['x.other.', 'A', '192.0.2.1', 'owner-outside'], ['x', 'A', '2001:db8::1', 'bad-data'],
    ['x', 'FOO', '1', 'type-unknown'], ['x', 'SOA', 'a b 1 2 3 4 5', 'type-not-here'], ['a..b', 'A', '192.0.2.1', 'bad-name'],
]);

it('sets the TTL of the whole record set', function (): void {
    $w = World::make(false);
    $one = addRecord($w, 'www', 'A', '192.0.2.9');
    addRecord($w, 'www', 'A', '192.0.2.10', '600');
    expect(Record::query()->where('owner', "www.{$w->zone->name}")->pluck('ttl')->unique()->all())->toBe([600]);
    $w->did(new ChangeRecord($one->id, ttl: '1h'));
    expect(Record::query()->where('owner', "www.{$w->zone->name}")->pluck('ttl')->unique()->all())->toBe([3600]);
    $w->did(new ChangeRecord($one->id, ttl: ''));
    expect(Record::query()->where('owner', "www.{$w->zone->name}")->pluck('ttl')->unique()->values()->all())->toBe([null]);
});

it('keeps a journal whose net is the change', function (): void {
    $w = World::make(false);
    $from = (int) DB::table('record_changes')->max('id');
    $record = addRecord($w, 'www', 'A', '192.0.2.9');
    $w->did(new ChangeRecord($record->id, data: '192.0.2.10'));
    $w->did(new RemoveRecords([Record::query()->where('owner', "www.{$w->zone->name}")->value('id')]));
    expect(
        DB::table('record_changes')->where('id', '>', $from)->orderBy('id')->get()->map(fn ($c): string => $c->op.$c->data)->all(),
    )->toBe(['+192.0.2.9', '-192.0.2.9', '+192.0.2.10', '-192.0.2.10']);
});

it('warns of what points at a removed name, and keeps the last NS', function (): void {
    $w = World::make(false);
    $www = addRecord($w, 'www', 'A', '192.0.2.9');
    addRecord($w, 'alias', 'CNAME', 'www');
    expect(array_column($w->acts()->rehearse(null, [new RemoveRecords([$www->id])])->notes(), 'code'))->toContain('left-dangling');
    $ns = Record::query()->where('zone_id', $w->zone->id)->where('type', 2)->pluck('id')->all();
    expect($w->acts()->rehearse(null, [new RemoveRecords($ns)])->block()?->code)->toBe('last-ns');
});

it('checks a scope', function (array $input, string $code): void {
    $w = World::make(false);
    $outcome = $w->acts()
        ->rehearse(
            $w->people['operator'],
            [MakeScope::fromInput($input + ['prefix' => $w->subnet->id, 'servers' => array_values($w->servers), 'divide' => '1'])],
        );
    expect(array_column($outcome->notes(), 'code'))->toContain($code);
})->with([
    [['ranges' => ['192.0.2.100-192.0.2.200']], 'range-outside'], [['ranges' => ['192.0.2.1-192.0.2.20']], 'gateway-in-range'],
    [['ranges' => ['192.0.2.20-30', '192.0.2.30-40']], 'range-overlap'], [['ranges' => ['x']], 'bad-range'],
    [['ranges' => ['192.0.2.20-30@nobody']], 'share-orphaned'], [['ranges' => ['192.0.2.20-30'], 'divide' => '0'], 'undivided'],
    [['router' => '198.51.100.1'], 'router-off-subnet'], [['leaseTime' => '30'], 'short-lease'],
    [['leaseTime' => 'soon'], 'bad-lease-time'], [['ranges' => ['192.0.2.20-30'], 'exclusions' => ['192.0.2.50']], 'exclusion-outside'],
    [['servers' => []], 'no-servers'],
]);

it('checks options by their shape and sense', function (int $code, string $value, string $note): void {
    $w = World::make();
    expect(
        array_column($w->acts()->rehearse($w->people['operator'], [new SetOption($w->scope->id, $code, $value)])->notes(), 'code'),
    )->toContain($note);
})->with([
    [121, '10.0.0.0/8 192.0.2.1', 'routes-without-default'], [121, '0.0.0.0/0 198.51.100.1', 'hop-off-link'],
    [43, '1=text:x', 'vendor-to-everyone'], [3, '192.0.2.2', 'router-not-gateway'], [26, 'many', 'bad-option'],
    [51, '60', 'not-by-hand'], [300, 'x', 'bad-option'],
]);

it('keeps option values in their normal form and gives them back', function (): void {
    $w = World::make();
    $w->did(new SetOption($w->scope->id, 119, "A.example\nb.example"));
    expect(OptionValue::query()->where('layer_id', $w->scope->id)->where('code', 119)->sole()->values)->toBe(['A.example', 'b.example']);
    $w->did(new SetOption($w->scope->id, 119, ''));
    expect(OptionValue::query()->where('layer_id', $w->scope->id)->where('code', 119)->exists())->toBeFalse();
});

it('reserves once', function (string $address, string $mac, string $code): void {
    $w = World::make();
    $w->did(new AddReservation($w->scope->id, '192.0.2.9', '00:00:5e:00:53:01'));
    expect($w->acts()->rehearse(null, [new AddReservation($w->scope->id, $address, $mac)])->block()?->code)->toBe($code);
})->with([
    ['192.0.2.10', '00:00:5e:00:53:01', 'mac-reserved'], ['192.0.2.9', '00:00:5e:00:53:02', 'address-reserved'],
    ['192.0.2.200', '00:00:5e:00:53:02', 'reservation-outside'], ['192.0.2.0', '00:00:5e:00:53:02', 'reservation-outside'],
]);

it('takes a record by its typed fields, and gives a TTL back to the zone', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['operator']);
    $form = [
        'zone' => $w->zone->id, 'name' => 'mailbox', 'type' => 'MX', 'fields' => ['10', 'ns1'], 'ttl' => '600', 'then' => 'commit',
        'reason' => 'the exchanger comes later',
    ];
    $this->post('/act/add-record', ['fields' => ['ten', 'ns1'], 'then' => 'preview'] + $form)->assertStatus(422)
        ->assertSee('Preference is a number from 0 to 65535')->assertSee('data-field="fields[0]"', false);
    $this->post('/act/add-record', $form)->assertRedirect();
    $record = Record::query()->where('zone_id', $w->zone->id)->where('type', 15)->sole();
    expect($record->data)->toBe("10 ns1.{$w->zone->name}")->and($record->ttl)->toBe(600);
    $page = $this->get("/name/zone/{$w->zone->id}?edit=$record->id")->assertOk();
    $page->assertSee('Preference')->assertSee('Mail exchanger')->assertSee('name="fields[0]"', false)->assertSee('value="ns1"', false);
    $this
        ->post(
            '/act/change-record',
            ['record' => $record->id, 'name' => 'post', 'fields' => ['20', 'ns2'], 'ttl' => '', 'then' => 'commit', 'reason' => 'as above'],
        )
        ->assertRedirect();
    $record->refresh();
    expect($record->data)->toBe("20 ns2.{$w->zone->name}")->and($record->ttl)->toBeNull()->and($record->owner)
        ->toBe("post.{$w->zone->name}");
    $this->post('/act/change-record', ['record' => $record->id, 'data' => '30 ns2', 'then' => 'commit', 'reason' => 'as above']);
    expect($record->refresh()->data)->toBe("30 ns2.{$w->zone->name}");
});
