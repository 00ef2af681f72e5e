<?php

declare(strict_types=1);

use App\Acts\Lease\KeepVendorTemplate;
use App\Acts\Lease\MakeClass;
use App\Acts\Lease\RemoveVendorTemplate;
use App\Acts\Lease\SetOption;
use App\Acts\Lease\SetVendorOptions;
use App\Models\OptionValue;
use App\Models\VendorTemplate;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\MacAddress;
use Tests\World;

/*
 * Templates of sub-options: described once, typed by name in the class of the maker's clients, sent as bytes, read back by name.
 */

beforeEach(function (): void {
    $this->w = World::make();
    $this->actingAs($this->w->people['operator']);
    $this->keep = function (array $with = []): VendorTemplate {
        $act = KeepVendorTemplate::fromInput($with + [
            'name' => 'Cabin phones', 'vendorClass' => 'CABIN-', 'subs' => "241 controllers: addresses\n2 voice VLAN: uint16",
        ]);
        $this->w->did($act);

        return VendorTemplate::query()->findOrFail($act->id);
    };
    $this->class = function (string $vendor, string $is = 'starts'): string {
        $act = MakeClass::fromInput([
            'name' => "Class $vendor", 'fields' => ['vendor-class'], 'comparisons' => [$is], 'values' => [$vendor],
        ]);
        $this->w->did($act);

        return $act->id;
    };
    $this->refused = fn (array $with): ?string => $this->w->refusal(KeepVendorTemplate::class, $with + [
        'name' => 'Other', 'vendorClass' => 'X', 'subs' => '1 a: text',
    ]);
});

it('sets sub-options by name in the class of the maker, and shows them so', function (): void {
    $template = ($this->keep)();
    $class = ($this->class)('CABIN-7');
    $this->get("/lease/options/class/$class")->assertOk()->assertReads('Cabin phones')->assertReads('voice VLAN');
    $this->post('/act/set-vendor-options', [
        'template' => $template->id, 'layer' => 'class', 'of' => $class, 'subs' => ['241' => '192.0.2.10, 192.0.2.11', '2' => '40'],
        'then' => 'commit',
    ])->assertRedirect("/lease/options/class/$class");
    $row = OptionValue::query()->where('layer', 'class')->where('layer_id', $class)->sole();
    expect($row->code)->toBe(43)->and($row->values)->toBe(['2=uint16:40', '241=address:192.0.2.10,192.0.2.11'])
        ->and(Hex::spaced((string) $row->payload()))->toBe('02 02 00 28 f1 08 c0 00 02 0a c0 00 02 0b');
    $this->get("/lease/options/class/$class")->assertOk()->assertReads('voice VLAN: 40; controllers: 192.0.2.10, 192.0.2.11')
        ->assertSee('value="192.0.2.10, 192.0.2.11"', false);
    // All blank gives the option back.
    $this->w->did(new SetVendorOptions($template->id, 'class', $class, ['2' => ' ']));
    expect(OptionValue::query()->where('layer_id', $class)->count())->toBe(0);
});

it('warns where clients of another maker would read it', function (): void {
    $template = ($this->keep)();
    $codes = fn (SetVendorOptions $act): array => array_column($this->w->acts()->rehearse(null, [$act])->notes(), 'code');
    $subs = ['2' => '40'];
    expect($codes(new SetVendorOptions($template->id, 'class', ($this->class)('CABIN-'), $subs)))->not->toContain('other-vendor-class')
        ->and($codes(new SetVendorOptions($template->id, 'class', ($this->class)('CAB'), $subs)))->toContain('other-vendor-class')
        ->and($codes(new SetVendorOptions($template->id, 'class', ($this->class)('X CABIN-', 'contains'), $subs)))
        ->toContain('other-vendor-class')
        ->and($codes(new SetVendorOptions($template->id, 'organisation', '', $subs)))->toContain('vendor-to-everyone')
        ->and($this->w->refusal(SetVendorOptions::class, ['template' => $template->id, 'layer' => 'organisation', 'subs' => ['2' => 'x']]))
        ->toBe('bad-sub-options')
        ->and($this->w->refusal(SetVendorOptions::class, [
            'template' => $template->id, 'layer' => 'class', 'of' => 'nothing', 'subs' => $subs,
        ]))->not->toBeNull();
});

it('says what a description lacks', function (array $with, string $code): void {
    ($this->keep)();
    expect(($this->refused)($with))->toBe($code);
})->with([
    'nobody\'s' => [['vendorClass' => ''], 'whose-devices'], 'two makers' => [['enterprise' => '9'], 'whose-devices'],
    'IPv6 by class' => [['family' => '6'], 'whose-devices'],
    'a number that is none' => [['vendorClass' => '', 'enterprise' => '9x'], 'bad-enterprise'],
    'too large' => [['vendorClass' => '', 'enterprise' => '4294967296'], 'bad-enterprise'],
    'a name twice' => [['name' => 'Cabin phones'], 'name-taken'],
    'no lines' => [['subs' => ' '], 'bad-sub-options'], 'a shape that is none' => [['subs' => '1 a: colour'], 'bad-sub-options'],
    'no name' => [['name' => ' '], 'no-name'], 'a code beyond a byte' => [['subs' => '300 a: text'], 'bad-sub-options'],
]);

it('reads a captured message by what its sender says of itself', function (): void {
    ($this->keep)();
    $packet = fn (string $vendor): string => bin2hex(Packet::fromClient(
        MessageType::Request, 7, MacAddress::parse('00:00:5e:00:53:07'), [60 => $vendor, 43 => "\x02\x02\x00\x28"],
    )->wire());
    $this->get('/lease/bytes?bytes='.$packet('CABIN-9'))->assertOk()->assertReads('by Cabin phones')->assertReads('voice VLAN: 40');
    $this->get('/lease/bytes?bytes='.$packet('DECK-9'))->assertOk()->assertDontSee('Cabin phones');
});

it('carries an enterprise\'s sub-options in option 125, and in 17 of IPv6', function (): void {
    $v4 = ($this->keep)(['name' => 'Lamps', 'vendorClass' => '', 'enterprise' => '3561']);
    $v6 = ($this->keep)([
        'name' => 'Lamps six', 'vendorClass' => '', 'enterprise' => '3561', 'family' => '6', 'subs' => '400 server: address',
    ]);
    $this->w->did(new SetVendorOptions($v4->id, 'organisation', '', ['2' => '7']));
    $this->w->did(new SetVendorOptions($v6->id, 'organisation', '', ['400' => '2001:db8::9']));
    expect(OptionValue::query()->where('layer', 'organisation')->orderBy('family')->pluck('code')->all())->toBe([125, 17]);
    $this->get('/lease/options')->assertOk()->assertReads('voice VLAN: 7')->assertReads('server: 2001:db8::9');
    expect($this->w->refusal(SetVendorOptions::class, [
        'template' => $v6->id, 'layer' => 'scope', 'of' => $this->w->scope->id, 'subs' => ['400' => '::1'],
    ]))->toBe('other-family');
});

it('changes how bytes are read and never what is sent, also when it goes', function (): void {
    $template = ($this->keep)();
    $class = ($this->class)('CABIN-');
    $this->w->did(new SetVendorOptions($template->id, 'class', $class, ['2' => '40']));
    $sent = fn (): ?string => OptionValue::query()->where('layer_id', $class)->sole()->payload();
    $before = $sent();
    $this->w->did(KeepVendorTemplate::fromInput([
        'template' => $template->id, 'name' => 'Cabin phones', 'vendorClass' => 'CABIN-', 'subs' => '2 flags: bytes',
    ]));
    $this->get("/lease/options/class/$class")->assertOk()->assertReads('flags: 00 28');
    $this->get("/lease/options?template=$template->id")->assertOk()->assertReads('Change Cabin phones');
    $this->w->did(new RemoveVendorTemplate($template->id));
    expect($sent())->toBe($before);
    $this->get("/lease/options/class/$class")->assertOk()->assertReads('2=uint16:40');
    expect($this->w->refusal(RemoveVendorTemplate::class, ['template' => $template->id]))->not->toBeNull();
});

it('is not misled by what was set by hand or by another template', function (): void {
    $template = ($this->keep)();
    $class = ($this->class)('DECK');
    $this->w->did(SetOption::fromInput(['layer' => 'class', 'of' => $class, 'code' => '43', 'value' => '2=hex:ffff']));
    $this->get("/lease/options/class/$class")->assertOk()->assertReads('2=hex:ffff')->assertDontSee('65535');
    $bad = ($this->class)('CABIN-');
    $this->w->did(SetOption::fromInput(['layer' => 'class', 'of' => $bad, 'code' => '43', 'value' => '0x090101']));
    $this->get("/lease/options/class/$bad")->assertOk()->assertReads('sub-option 9: 01 (no sub-option of Cabin phones)');
    expect($template->line())->toBe('Cabin phones, option 43 of vendor class CABIN-…');
});

it('has one template for the same devices, and goes by the one that says most of a class', function (): void {
    ($this->keep)();
    expect(($this->refused)(['vendorClass' => 'CABIN-']))->toBe('devices-described')
        ->and(($this->refused)(['vendorClass' => '', 'enterprise' => '4711']))->toBeNull();
    ($this->keep)(['name' => 'Zenith', 'vendorClass' => 'CABIN-9', 'subs' => '1 deck: uint8']);
    $read = fn (string $class): ?string => App\Queries\OwnOptions::now()->template(43, '', HarborPost\Core\Net\Family::V4, $class)?->name;
    expect($read('CABIN-9x'))->toBe('Zenith')->and($read('CABIN-7'))->toBe('Cabin phones')->and($read('GALLEY'))->toBeNull();
});
