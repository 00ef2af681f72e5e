<?php

declare(strict_types=1);

use App\Links\DhcpClient;
use App\Links\Names\DnsClient;
use App\Links\RelayedClient;
use HarborPost\Core\Dhcp\Names\ClientFqdn;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dhcp\V6\ClientSketch;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType as MessageTypeV6;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

beforeEach(function (): void {
    $this->s = new Standins(['ns1' => 'dns', 'dh1' => 'dhcp']);
    $secret = base64_encode(str_repeat('k', 32));
    $this->s->tell('ns1', 'views', ['views' => [['name' => 'inside', 'clients' => ['127.0.0.0/8', '192.0.2.0/24']]]]);
    $this->s->tell('ns1', 'keys', ['keys' => [['name' => 'tide.', 'secret' => $secret]]]);
    foreach (['crew.example.' => ['printer.crew.example. 300 A 192.0.2.99'], '2.0.192.in-addr.arpa.' => []] as $zone => $more) {
        $this->s->tell('ns1', 'apply', [
            'view' => 'inside', 'zone' => $zone, 'update' => ['mode' => 'key', 'from' => ['key tide.']],
            'from' => null, 'first' => true, 'add' => ["$zone 300 SOA ns1.$zone hostmaster.$zone 5 600 60 86400 300",
                "$zone 300 NS ns1.example.", ...$more],
        ]);
    }
    $this->put = function (array $names = [], int $time = 3600) use ($secret): void {
        $this->s->tell('dh1', 'key-put', ['name' => 'tide.', 'secret' => $secret]);
        $this->s->tell('dh1', 'put', ['scope' => [
            'id' => 's1', 'name' => 'crew', 'subnet' => '192.0.2.0/24', 'ranges' => ['192.0.2.10-192.0.2.90'], 'lease_time' => $time,
            'names' => $names + [
                'who' => 'server', 'from' => 'client', 'pattern' => '', 'ttl' => 300, 'zone' => 'crew.example.',
                'server' => $this->s->endpoint('ns1'),
                'key' => 'tide.', 'client' => '127.0.0.1', 'reverse' => ['2.0.192.in-addr.arpa.' => $this->s->endpoint('ns1')],
            ],
        ]]);
    };
    $this->lease = function (int $client, string $said = '', array $more = []): Packet {
        $mac = MacAddress::fromBytes("\x02\0\x5e\0\0".chr($client));
        $ask = fn (MessageType $type, array $options): Packet => (new DhcpClient('dh1', $this->s->endpoint('dh1'), 1.0))
            ->exchange(Packet::fromClient(
                $type, random_int(1, 99999), $mac, $options + $more + ($said === '' ? [] : [12 => $said]), Address::parse('192.0.2.1'),
            ))[0];
        $offer = $ask(MessageType::Discover, []);

        return $ask(MessageType::Request, [50 => $offer->yourAddress->bytes, 54 => $offer->options[54]]);
    };
    $this->ask = fn (string $name, string $type): array => array_map(
        static fn ($r): string => $r->data->text(),
        (new DnsClient('ns1', $this->s->endpoint('ns1'), 1.0))->ask(Name::parse($name), RecordType::parse($type), null, false)
            ->message->answers,
    );
    $this->until = function (callable $holds): bool {
        for ($end = microtime(true) + 9; microtime(true) < $end; usleep(100_000)) {
            if ($holds()) {
                return true;
            }
        }

        return false;
    };
    $this->entries = fn (): array => array_column($this->s->tell('dh1', 'names')['names'], 'state', 'name');
});

it('writes the names of leases by signed updates, and takes them out when the leases end', function (): void {
    ($this->put)();
    $till = (string) ($this->lease)(1, 'Till-1.elsewhere.example')->yourAddress;
    expect(($this->until)(fn (): bool => ($this->ask)('till-1.crew.example.', 'A') === [$till]))->toBeTrue();
    $back = implode('.', array_reverse(explode('.', $till))).'.in-addr.arpa.';
    expect(($this->until)(fn (): bool => ($this->entries)() === ['till-1.crew.example.' => 'there']))->toBeTrue()
        ->and(($this->ask)($back, 'PTR'))->toBe(['till-1.crew.example.'])
        ->and(($this->ask)('till-1.crew.example.', 'DHCID'))->toHaveCount(1);
    // Another client of the same name gets an address and not the name; nor does one that calls itself as what a person wrote.
    ($this->lease)(2, 'till-1');
    ($this->lease)(3, 'printer');
    expect(($this->until)(fn (): bool => (($this->entries)()['printer.crew.example.'] ?? '') === 'conflict'))->toBeTrue()
        ->and(($this->ask)('till-1.crew.example.', 'A'))->toBe([$till])->and(($this->ask)('printer.crew.example.', 'A'))
        ->toBe(['192.0.2.99']);
    // It is known over a restart; and given back, it goes.
    $this->s->kill('dh1');
    $this->s->start('dh1');
    (new DhcpClient('dh1', $this->s->endpoint('dh1'), 1.0))->tell(Packet::fromClient(
        MessageType::Release, 1, MacAddress::parse('02:00:5e:00:00:01'), [54 => Address::parse('192.0.2.67')->bytes], null,
        Address::parse($till),
    ));
    expect(($this->until)(fn (): bool => ($this->ask)('till-1.crew.example.', 'A') === [] && ($this->ask)($back, 'PTR') === []))->toBeTrue()
        ->and(($this->until)(fn (): bool => ($this->ask)('till-1.crew.example.', 'DHCID') === []))->toBeTrue();
});

it('answers who writes what, and names by a pattern who says nothing', function (): void {
    ($this->put)(['who' => 'client', 'pattern' => 'crew-{c}-{d}']);
    $ack = ($this->lease)(5, more: [81 => "\x00\0\0".'deck']);
    $fqdn = ClientFqdn::read($ack->options[81]);
    expect($fqdn->byServer)->toBeFalse()->and($fqdn->name)->toBe('deck.crew.example');
    $address = (string) ($this->lease)(6)->yourAddress;
    $octets = explode('.', $address);
    $name = "crew-$octets[2]-$octets[3].crew.example.";
    // The client writes its address itself: only the pointer is written here.
    expect(($this->until)(fn (): bool => ($this->ask)("$octets[3].2.0.192.in-addr.arpa.", 'PTR') === [$name]))->toBeTrue()
        ->and(($this->ask)($name, 'A'))->toBe([]);
    ($this->put)(['who' => 'nobody']);
    expect(ClientFqdn::read(($this->lease)(7, more: [81 => "\x01\0\0x"])->options[81])->none)->toBeTrue();
});

it('tries again when the name server is away, and says why', function (): void {
    ($this->put)();
    $this->s->kill('ns1');
    ($this->lease)(8, 'late');
    $why = '';
    expect(($this->until)(function () use (&$why): bool {
        $why = $this->s->tell('dh1', 'names')['names'][0]['why'] ?? '';

        return $why !== '';
    }))->toBeTrue()->and($this->s->tell('dh1', 'names')['names'][0]['state'])->toBe('waits');
    $this->s->start('ns1');
    expect(($this->until)(fn (): bool => count(($this->ask)('late.crew.example.', 'A')) === 1))->toBeTrue();
});

it('names leases of IPv6 by their DUID, beside the address of IPv4 and never over another client', function (): void {
    ($this->put)();
    $this->s->tell('ns1', 'apply', [
        'view' => 'inside', 'zone' => '1.0.0.0.6.3.0.0.8.b.d.0.1.0.0.2.ip6.arpa.', 'update' => ['mode' => 'key', 'from' => ['key tide.']],
        'from' => null, 'first' => true,
        'add' => ['1.0.0.0.6.3.0.0.8.b.d.0.1.0.0.2.ip6.arpa. 300 SOA ns1.x. hostmaster.x. 5 600 60 86400 300',
            '1.0.0.0.6.3.0.0.8.b.d.0.1.0.0.2.ip6.arpa. 300 NS ns1.example.'],
    ]);
    $this->s->tell('dh1', 'put', ['scope' => [
        'id' => 's6', 'family' => 6, 'name' => 'crew', 'subnet' => '2001:db8:36:1::/64',
        'ranges' => ['2001:db8:36:1::100-2001:db8:36:1::1ff'], 'lease_time' => 3600, 'preferred' => 1800, 'names' => [
            'who' => 'server', 'from' => 'client', 'pattern' => 'seat-{h}', 'ttl' => 300, 'zone' => 'crew.example.', 'key' => 'tide.',
            'server' => $this->s->endpoint('ns1'), 'client' => '127.0.0.1',
            'reverse' => ['1.0.0.0.6.3.0.0.8.b.d.0.1.0.0.2.ip6.arpa.' => $this->s->endpoint('ns1')],
        ],
    ]]);
    $lease = function (string $client, string $said, bool $release = false): Message {
        $sketch = new ClientSketch(Duid::ofName($client), name: $said);
        $ask = fn (Message $m): Message => (new RelayedClient('dh1', $this->s->endpoint('dh1'), 1.0))
            ->exchange(Relayed::through(Address::parse('2001:db8:36:1::1'), Address::parse('fe80::1'), $m))[0];
        $offer = $ask($sketch->first(random_int(1, 9999)));
        $server = (string) $offer->options->first(Code::SERVER_ID);

        return $ask($sketch->message($release ? MessageTypeV6::Release : MessageTypeV6::Request, 7, $offer->associations(), $server));
    };
    $reply = $lease('a', 'Purser');
    $address = (string) $reply->associations()[0]->leases[0]->net->first;
    $fqdn = ClientFqdn::readV6((string) $reply->options->first(Code::CLIENT_FQDN));
    expect([$fqdn->byServer, $fqdn->name])->toBe([true, 'purser.crew.example'])
        ->and(($this->until)(fn (): bool => ($this->ask)('purser.crew.example.', 'AAAA') === [$address]))->toBeTrue();
    $back = (string) HarborPost\Core\Dns\ReverseName::of(Address::parse($address));
    expect(($this->until)(fn (): bool => ($this->ask)($back, 'PTR') === ['purser.crew.example.']))->toBeTrue()
        ->and(($this->ask)('purser.crew.example.', 'DHCID'))->toHaveCount(1);
    // Another client, and one of IPv4 that cannot show to be the same, have an address and not the name.
    $lease('b', 'purser');
    ($this->lease)(9, 'purser');
    $states = fn (): array => array_count_values(array_column($this->s->tell('dh1', 'names')['names'], 'state'));
    expect(($this->until)(fn (): bool => ($states()['conflict'] ?? 0) === 2))->toBeTrue()
        ->and(($this->ask)('purser.crew.example.', 'AAAA'))->toBe([$address])->and(($this->ask)('purser.crew.example.', 'A'))->toBe([]);
    // Who says nothing is named by the pattern; given back, a name goes.
    $silent = (string) $lease('c', '')->associations()[0]->leases[0]->net->first;
    $name = 'seat-'.substr($silent, -3).'.crew.example.';
    expect(($this->until)(fn (): bool => ($this->ask)($name, 'AAAA') === [$silent]))->toBeTrue();
    $lease('a', 'Purser', release: true);
    expect(($this->until)(fn (): bool => ($this->ask)('purser.crew.example.', 'DHCID') === [] && ($this->ask)($back, 'PTR') === []))
        ->toBeTrue();
});
