<?php

declare(strict_types=1);

use App\Links\DhcpClient;
use App\Links\Unanswered;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

beforeEach(function (): void {
    $this->s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
    foreach (['dh1' => '192.0.2.10-192.0.2.12', 'dh2' => '192.0.2.20-192.0.2.21'] as $name => $range) {
        $this->s->tell(
            $name,
            'put',
            [
                'scope' => [
                    'id' => 's1',
                    'name' => 'x',
                    'subnet' => '192.0.2.0/24',
                    'ranges' => [$range],
                    'exclusions' => ['192.0.2.11'],
                    'lease_time' => 3600,
                    'options' => [3 => 'c0000201', 15 => bin2hex('quay.example')],
                    'reservations' => [['mac' => '00:00:5e:00:53:99', 'address' => '192.0.2.99', 'name' => 'printer']],
                ],
            ],
        );
    }
    $this->relay = Address::parse('192.0.2.1');
    $this->send = function (
        MessageType $type,
        string $mac,
        array $options = [],
        ?string $client = null,
        string $server = 'dh1',
        ?string $relay = '192.0.2.1',
        float $patience = 0.5,
    ): Packet {
        $packet = Packet::fromClient(
            $type,
            random_int(1, 0xFFFFFFF),
            MacAddress::parse($mac),
            $options,
            $relay === null ? null : Address::parse($relay),
            $client === null ? null : Address::parse($client),
        );

        return (new DhcpClient($server, $this->s->endpoint($server), $patience))->exchange($packet)[0];
    };
    $this->lease = function (string $mac, string $server = 'dh1'): Packet {
        $offer = ($this->send)(MessageType::Discover, $mac, server: $server);

        return ($this->send)(MessageType::Request, $mac, [50 => $offer->yourAddress->bytes, 54 => $offer->options[54]], server: $server);
    };
});

const ONE = '00:00:5e:00:53:01';
const TWO = '00:00:5e:00:53:02';

it('offers and acknowledges through the relay, what was asked for first', function (): void {
    $offer = ($this->send)(MessageType::Discover, ONE, [55 => "\x0f\x03", 61 => "\x01abc", 82 => "\x01\x02ab"]);
    expect($offer->type())->toBe(MessageType::Offer)->and((string) $offer->yourAddress)->toBe('192.0.2.10')
        ->and(array_values(array_intersect(array_keys($offer->options), [3, 15])))->toBe([15, 3])
        ->and($offer->options[61])->toBe("\x01abc")->and($offer->options[82])->toBe("\x01\x02ab")
        ->and(OptionTable::decode(58, $offer->options[58]))->toBe(['1800'])->and((string) $offer->relayAddress)
        ->toBe('192.0.2.1');
    expect(($this->lease)(ONE)->type())->toBe(MessageType::Ack);
});

it('gives two clients two addresses, passes over what is kept out, then is full', function (): void {
    expect((string) ($this->lease)(ONE)->yourAddress)->toBe('192.0.2.10')
        ->and((string) ($this->lease)(TWO)->yourAddress)->toBe('192.0.2.12')
        ->and(fn () => ($this->send)(MessageType::Discover, '00:00:5e:00:53:03'))->toThrow(Unanswered::class);
});

it('takes its own part of a shared scope', function (): void {
    expect((string) ($this->lease)(ONE, 'dh2')->yourAddress)->toBe('192.0.2.20');
});

it('honours a reservation with its name', function (): void {
    $ack = ($this->lease)('00:00:5e:00:53:99');
    expect((string) $ack->yourAddress)->toBe('192.0.2.99')->and($ack->options[12])->toBe('printer');
});

it('gives the same address again, after a restart too', function (): void {
    ($this->lease)(ONE);
    ($this->lease)(TWO);
    $this->s->stop('dh1');
    $this->s->start('dh1');
    expect((string) ($this->lease)(TWO)->yourAddress)->toBe('192.0.2.12');
});

it('keeps RFC 2131 in init-reboot', function (): void {
    ($this->lease)(ONE);
    expect(($this->send)(MessageType::Request, ONE, [50 => Address::parse('192.0.2.10')->bytes])->type())->toBe(MessageType::Ack)
        ->and(($this->send)(MessageType::Request, ONE, [50 => Address::parse('192.0.2.12')->bytes])->type())->toBe(MessageType::Nak)
        ->and(($this->send)(MessageType::Request, ONE, [50 => Address::parse('10.0.0.1')->bytes])->type())->toBe(MessageType::Nak)
        ->and(fn () => ($this->send)(MessageType::Request, TWO, [50 => Address::parse('192.0.2.12')->bytes]))->toThrow(Unanswered::class);
});

it('renews and rebinds', function (): void {
    ($this->lease)(ONE);
    expect(($this->send)(MessageType::Request, ONE, client: '192.0.2.10', relay: null)->type())->toBe(MessageType::Ack)
        ->and(($this->send)(MessageType::Request, ONE, client: '192.0.2.10')->type())->toBe(MessageType::Ack)
        ->and(($this->send)(MessageType::Request, ONE, client: '192.0.2.12', relay: null)->type())->toBe(MessageType::Nak);
});

it('stands down when the client chose another server', function (): void {
    $offer = ($this->send)(MessageType::Discover, ONE);
    expect(
        fn () => ($this->send)(MessageType::Request, ONE, [50 => $offer->yourAddress->bytes, 54 => Address::parse('192.0.2.68')->bytes]),
    )->toThrow(Unanswered::class);
    expect((string) ($this->lease)(TWO)->yourAddress)->toBe('192.0.2.10');
});

it('frees what is released and leaves alone what is declined', function (): void {
    $client = new DhcpClient('dh1', $this->s->endpoint('dh1'), 0.5);
    ($this->lease)(ONE);
    $client->tell(
        Packet::fromClient(
            MessageType::Release,
            1,
            MacAddress::parse(ONE),
            [54 => Address::parse('192.0.2.67')->bytes],
            null,
            Address::parse('192.0.2.10'),
        ),
    );
    usleep(100000);
    expect((string) ($this->lease)(TWO)->yourAddress)->toBe('192.0.2.10');
    $client->tell(
        Packet::fromClient(
            MessageType::Decline,
            1,
            MacAddress::parse(TWO),
            [50 => Address::parse('192.0.2.10')->bytes, 54 => Address::parse('192.0.2.67')->bytes],
            $this->relay,
        ),
    );
    usleep(100000);
    expect((string) ($this->lease)('00:00:5e:00:53:03')->yourAddress)->toBe('192.0.2.12');
});

it('informs without a lease', function (): void {
    $ack = ($this->send)(MessageType::Inform, ONE, client: '192.0.2.77');
    expect($ack->type())->toBe(MessageType::Ack)->and((string) $ack->yourAddress)->toBe('0.0.0.0')->and($ack->options)
        ->not->toHaveKey(51)->and($ack->options[15])->toBe('quay.example')
        ->and($this->s->tell('dh1', 'status')['leases'])->toBe(0);
});

it('says nothing for a link it has no scope for', function (): void {
    expect(fn () => ($this->send)(MessageType::Discover, ONE, relay: '198.51.100.1'))->toThrow(Unanswered::class);
});

it('misbehaves when told', function (): void {
    $this->s->tell('dh1', 'mode', ['mode' => 'wrong']);
    expect((string) ($this->send)(MessageType::Discover, ONE)->yourAddress)->toBe('192.0.2.66');
    $this->s->tell('dh1', 'mode', ['mode' => 'slow']);
    expect(fn () => ($this->send)(MessageType::Discover, ONE))->toThrow(Unanswered::class)
        ->and(($this->send)(MessageType::Discover, ONE, patience: 3.0)->type())->toBe(MessageType::Offer);
});
