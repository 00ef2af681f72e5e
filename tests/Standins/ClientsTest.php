<?php

declare(strict_types=1);

use App\Links\DhcpClient;
use App\Links\Unanswered;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

/** Clients told apart by a server on loopback: classes, ranges kept for them, reservations by identifier, offers held back. */
beforeEach(function (): void {
    $this->s = new Standins(['dh1' => 'dhcp']);
    $this->put = fn (array $more): array => $this->s->tell('dh1', 'put', ['scope' => $more + [
        'id' => 's1', 'name' => 'x', 'subnet' => '192.0.2.0/24', 'ranges' => ['192.0.2.10-192.0.2.12', '192.0.2.20-192.0.2.29'],
        'exclusions' => [], 'lease_time' => 3600, 'options' => [3 => 'c0000201', 66 => bin2hex('all')], 'reservations' => [],
        'classes' => [
            [
                'id' => 'box', 'name' => 'Callboxes', 'any' => false,
                'conditions' => [['field' => 'vendor-class', 'is' => 'starts', 'value' => 'callbox-']],
                'options' => [66 => bin2hex('boxes'), 3 => null],
            ],
            [
                'id' => 'deck', 'name' => 'Deck', 'any' => true,
                'conditions' => [
                    ['field' => 'user-class', 'is' => 'is', 'value' => 'deck'], ['field' => 'circuit', 'is' => 'is', 'value' => 'ge1'],
                    ['field' => 'vendor-class', 'is' => 'contains', 'value' => 'both'],
                ],
                'options' => [66 => bin2hex('deck'), 15 => bin2hex('deck.example')],
            ],
        ],
        'kept' => ['192.0.2.10-192.0.2.12' => ['class' => 'box', 'only' => true]],
    ]]);
    ($this->put)([]);
    $this->offer = fn (ClientSketch $client, float $patience = 0.5): Packet => (new DhcpClient('dh1', $this->s->endpoint('dh1'), $patience))
        ->exchange($client->discover(random_int(1, 0xFFFFFFF), Address::parse('192.0.2.1')))[0];
    $this->client = fn (
        int $n,
        string $vendor = '',
        string $user = '',
        string $circuit = '',
        string $identifier = '',
    ): ClientSketch => new ClientSketch(
        MacAddress::parse('00:00:5e:00:53:'.sprintf('%02x', $n)), vendorClass: $vendor, userClass: $user, circuit: $circuit,
        identifier: $identifier,
    );
});

it('gives options by class, the first class before the next, and none where that is meant', function (): void {
    $box = ($this->offer)(($this->client)(1, 'callbox-7'));
    expect($box->options[66])->toBe('boxes')->and($box->options)->not->toHaveKey(3);
    $deck = ($this->offer)(($this->client)(2, user: 'deck'));
    expect($deck->options[66])->toBe('deck')->and($deck->options[15])->toBe('deck.example')->and($deck->options[3])
        ->toBe("\xc0\x00\x02\x01");
    expect(($this->offer)(($this->client)(3, circuit: 'ge1'))->options[66])->toBe('deck');
    $both = ($this->offer)(($this->client)(4, 'callbox-both'));
    expect($both->options[66])->toBe('boxes')->and($both->options[15])->toBe('deck.example');
    expect(($this->offer)(($this->client)(5, 'other'))->options[66])->toBe('all');
});

it('keeps a range for a class, and closes one to it', function (): void {
    expect((string) ($this->offer)(($this->client)(1, 'callbox-1'))->yourAddress)->toBe('192.0.2.10')
        ->and((string) ($this->offer)(($this->client)(2))->yourAddress)->toBe('192.0.2.20');
    ($this->put)(
        [
            'kept' => [
                '192.0.2.10-192.0.2.12' => ['class' => 'box', 'only' => false],
                '192.0.2.20-192.0.2.29' => ['class' => 'deck', 'only' => true],
            ],
        ],
    );
    expect((string) ($this->offer)(($this->client)(3))->yourAddress)->toBe('192.0.2.11');
    expect(fn () => ($this->offer)(($this->client)(4, 'callbox-1'), 0.2))->toThrow(Unanswered::class);
    expect((string) ($this->offer)(($this->client)(5, 'callbox-1', 'deck'))->yourAddress)->toBe('192.0.2.21');
});

it('knows a client by its identifier before its MAC, with options of its own', function (): void {
    ($this->put)(['reservations' => [
        [
            'mac' => '',
            'client' => 'ff00000001',
            'address' => '192.0.2.77',
            'name' => 'boat-1',
            'options' => [66 => bin2hex('mine'), 3 => null],
        ],
        ['mac' => '00:00:5e:00:53:09', 'client' => '', 'address' => '192.0.2.78', 'name' => '', 'options' => []],
    ]]);
    $boat = ($this->offer)(($this->client)(8, 'callbox-1', identifier: "\xff\x00\x00\x00\x01"));
    expect((string) $boat->yourAddress)->toBe('192.0.2.77')->and($boat->options[66])->toBe('mine')->and($boat->options)->not->toHaveKey(3)
        ->and($boat->options[12])->toBe('boat-1');
    expect((string) ($this->offer)(($this->client)(9, identifier: "\xff\x22\x33"))->yourAddress)->toBe('192.0.2.78')
        ->and((string) ($this->offer)(($this->client)(10))->yourAddress)->toBe('192.0.2.20');
});

it('holds its offers back, and nothing else', function (): void {
    ($this->put)(['delay_ms' => 400]);
    $client = ($this->client)(1);
    expect(fn () => ($this->offer)($client, 0.2))->toThrow(Unanswered::class);
    expect((string) ($this->offer)($client, 2.0)->yourAddress)->toBe('192.0.2.20');
    $inform = Packet::fromClient(
        MessageType::Inform, 7, MacAddress::parse('00:00:5e:00:53:01'), [], Address::parse('192.0.2.1'), Address::parse('192.0.2.99'),
    );
    expect((new DhcpClient('dh1', $this->s->endpoint('dh1'), 0.2))->exchange($inform)[0]->type())->toBe(MessageType::Ack);
});

it('ends the leases it is told to, and none that another client has', function (): void {
    $lease = ['mac' => '00:00:5e:00:53:01', 'name' => 'a', 'starts' => time(), 'ends' => time() + 3600, 'scope' => 's1'];
    $this->s->tell('dh1', 'grant', ['leases' => [['address' => '192.0.2.20'] + $lease, ['address' => '192.0.2.21'] + $lease]]);
    $answer = $this->s->tell('dh1', 'end', ['leases' => [
        ['address' => '192.0.2.20', 'mac' => '00:00:5e:00:53:01'], ['address' => '192.0.2.21', 'mac' => '00:00:5e:00:53:02'],
        ['address' => '192.0.2.29', 'mac' => '00:00:5e:00:53:01'], 'nonsense',
    ]]);
    expect($answer['ended'])->toBe(['192.0.2.20'])->and($answer['kept'])->toBe(['192.0.2.21', '192.0.2.29', '']);
    $states = array_column($this->s->tell('dh1', 'leases', [])['leases'], 'state', 'address');
    expect($states)->toBe(['192.0.2.20' => 'released', '192.0.2.21' => 'active']);
    // Told twice, it ends nothing twice.
    expect($this->s->tell('dh1', 'end', ['leases' => [['address' => '192.0.2.20', 'mac' => '00:00:5e:00:53:01']]])['ended'])->toBe([]);
});

it('keeps the start of a binding over its renewals', function (): void {
    $this->s->tell('dh1', 'grant', ['leases' => [[
        'address' => '192.0.2.20', 'mac' => '00:00:5e:00:53:01', 'name' => 'a', 'starts' => time() - 5000, 'ends' => time() + 60,
        'scope' => 's1',
    ]]]);
    $renew = Packet::fromClient(
        MessageType::Request, 9, MacAddress::parse('00:00:5e:00:53:01'), [61 => "\x01\x00\x00\x5e\x00\x53\x01"], null,
        Address::parse('192.0.2.20'),
    );
    expect((new DhcpClient('dh1', $this->s->endpoint('dh1'), 0.5))->exchange($renew)[0]->type())->toBe(MessageType::Ack);
    $lease = $this->s->tell('dh1', 'leases', [])['leases'][0];
    expect(time() - $lease['starts'])->toBeGreaterThan(4900)->and($lease['ends'] - time())->toBeGreaterThan(3500);
});
