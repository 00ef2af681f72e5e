<?php

declare(strict_types=1);

use App\Links\DhcpClient;
use App\Links\Unanswered;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Exchange\Pair\LoadBalance;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

beforeEach(function (): void {
    $this->s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
    $this->pair = function (array $keys = ['k1' => 'abcdef'], string $only = '', array $more = []): void {
        foreach (['dh1' => 'first', 'dh2' => 'second'] as $name => $side) {
            if ($only === '' || $only === $name) {
                $this->s->tell($name, 'pair-put', ['pair' => $more + [
                    'id' => 'p1', 'name' => 'quays', 'side' => $side, 'partner' => $this->s->endpoint($name === 'dh1' ? 'dh2' : 'dh1'),
                    'mode' => 'balance', 'percent' => 50, 'lead' => 600, 'keys' => $keys,
                ]]);
            }
        }
    };
    $this->scope = fn (string $name, string $pair = 'p1', array $ranges = ['192.0.2.10-192.0.2.109']): array => $this->s->tell(
        $name,
        'put',
        ['scope' => ['id' => 's1', 'name' => 'x', 'subnet' => '192.0.2.0/24', 'ranges' => $ranges, 'lease_time' => 3600, 'pair' => $pair]],
    );
    $this->state = fn (string $name): array => $this->s->tell($name, 'pairs')['states'][0] ?? [];
    $this->until = function (callable $holds, float $patience = 12): bool {
        for ($end = microtime(true) + $patience; microtime(true) < $end;) {
            if ($holds()) {
                return true;
            }
            usleep(100_000);
        }

        return false;
    };
    $this->both = fn (string $state): bool => ($this->until)(
        fn (): bool => ($this->state)('dh1')['state'] === $state && ($this->state)('dh2')['state'] === $state
            && ($this->state)('dh1')['ready'] === ['s1'] && ($this->state)('dh2')['ready'] === ['s1'],
    );
    $this->ask = function (string $server, MessageType $type, int $client, array $options = [], ?string $address = null,
        int $secs = 0): ?Packet {
        $mac = MacAddress::fromBytes("\x02\0\x5e\0".pack('n', $client));
        $packet = Packet::fromClient(
            $type,
            random_int(1, 0xFFFFFFF),
            $mac,
            $options,
            $address === null ? Address::parse('192.0.2.1') : null,
            $address === null ? null : Address::parse($address),
        );
        $packet = new Packet(1, $packet->xid, $mac, $packet->options, $packet->clientAddress, $packet->yourAddress, $packet->serverAddress,
            $packet->relayAddress, $secs);
        try {
            return (new DhcpClient($server, $this->s->endpoint($server), 0.25))->exchange($packet)[0];
        } catch (Unanswered) {
            return null;
        }
    };
    /** The address that a client gets from whoever answers; null when nobody does. */
    $this->lease = function (int $client, array $servers = ['dh1', 'dh2']): ?string {
        $got = null;
        foreach ($servers as $server) {
            $offer = ($this->ask)($server, MessageType::Discover, $client);
            if ($offer !== null && $got === null) {
                $ack = ($this->ask)($server, MessageType::Request, $client, [50 => $offer->yourAddress->bytes, 54 => $offer->options[54]]);
                $got = $ack?->type() === MessageType::Ack ? [(string) $ack->yourAddress, $server, $ack->options[51]] : null;
            } elseif ($offer !== null) {
                throw new RuntimeException("both answered client $client");
            }
        }
        $this->last = $got;

        return $got[0] ?? null;
    };
});

it('divides clients between two servers, and each knows of the other\'s leases', function (): void {
    ($this->pair)();
    ($this->scope)('dh1');
    ($this->scope)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue();
    $given = $by = [];
    for ($client = 1; $client <= 30; $client++) {
        $address = ($this->lease)($client);
        $key = "\1\x02\0\x5e\0".pack('n', $client);
        expect($address)->not->toBeNull()
            ->and($this->last[1])->toBe(LoadBalance::bucket($key) < 128 ? 'dh1' : 'dh2')
            // No further ahead of the partner than the lead time.
            ->and(unpack('N', $this->last[2])[1])->toBe(600);
        $given[$client] = $address;
        $by[$this->last[1]][] = $client;
    }
    expect(array_unique($given))->toHaveCount(30)->and(array_keys($by))->toEqualCanonicalizing(['dh1', 'dh2']);
    // What one gave the other holds; only who gave it tells it.
    expect(($this->until)(fn (): bool => ($this->state)('dh1')['leases'] === 30 && ($this->state)('dh2')['leases'] === 30))->toBeTrue()
        ->and($this->s->tell('dh1', 'leases')['leases'])->toHaveCount(count($by['dh1']));
    // Acknowledged by the partner, the next renewal is given whole.
    $client = $by['dh1'][0];
    $ack = ($this->ask)('dh1', MessageType::Request, $client, [], $given[$client]);
    expect(unpack('N', $ack->options[51])[1])->toBe(3600);
    // Who asks in vain for some seconds is answered by the other one.
    $client = 100;
    while (LoadBalance::bucket("\1\x02\0\x5e\0".pack('n', $client)) >= 128) {
        $client++;
    }
    expect(($this->ask)('dh2', MessageType::Discover, $client))->toBeNull()
        ->and(($this->ask)('dh2', MessageType::Discover, $client, secs: 5))->not->toBeNull();
});

it('goes on alone when one is killed, and puts everything together when it is back', function (): void {
    ($this->pair)();
    ($this->scope)('dh1');
    ($this->scope)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue();
    $given = [];
    for ($client = 1; $client <= 12; $client++) {
        $given[$client] = ($this->lease)($client);
    }
    expect(($this->until)(fn (): bool => ($this->state)('dh1')['leases'] === 12))->toBeTrue();
    $this->s->kill('dh2');
    expect(($this->until)(fn (): bool => ($this->state)('dh1')['state'] === 'COMMUNICATIONS-INTERRUPTED'))->toBeTrue();
    // Whoever holds a lease keeps it, whoever gave it.
    foreach ($given as $client => $address) {
        expect((string) ($this->ask)('dh1', MessageType::Request, $client, [], $address)?->yourAddress)->toBe($address);
    }
    for ($client = 40; $client <= 50; $client++) {
        $given[$client] = ($this->lease)($client, ['dh1']);
        expect(LoadBalance::bucket(Address::parse($given[$client])->bytes))->toBeLessThan(128);
    }
    $this->s->start('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue()
        ->and(($this->until)(fn (): bool => ($this->state)('dh2')['leases'] === 23))->toBeTrue()
        ->and(array_unique($given))->toHaveCount(23);
    // The other one killed: those whom it served alone are known here too.
    $this->s->kill('dh1');
    expect(($this->until)(fn (): bool => ($this->state)('dh2')['state'] === 'COMMUNICATIONS-INTERRUPTED'))->toBeTrue();
    foreach ($given as $client => $address) {
        expect((string) ($this->ask)('dh2', MessageType::Request, $client, [], $address)?->yourAddress)->toBe($address);
    }
    expect($this->s->tell('dh2', 'partner-down', ['id' => 'p1'])['state']['state'])->toBe('PARTNER-DOWN');
    $this->s->start('dh1');
    expect(($this->both)('NORMAL'))->toBeTrue();
});

it('is not told that a partner is off that answers, and does not let a scope go while it does not hear it', function (): void {
    ($this->pair)();
    ($this->scope)('dh1');
    ($this->scope)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue()
        ->and(fn () => $this->s->tell('dh1', 'partner-down', ['id' => 'p1']))->toThrow(Unanswered::class, 'Its partner answers');
    $this->s->kill('dh2');
    expect(($this->until)(fn (): bool => ($this->state)('dh1')['state'] !== 'NORMAL'))->toBeTrue()
        ->and(fn () => ($this->scope)('dh1', '', ['192.0.2.10-192.0.2.50']))->toThrow(Unanswered::class, 'cannot leave its pair now');
    $this->s->tell('dh1', 'partner-down', ['id' => 'p1']);
    expect(($this->scope)('dh1', '', ['192.0.2.10-192.0.2.50'])['scopes'])->toBe(1);
});

it('gives nobody new an address before both have the scope in the pair, and brings its old leases along', function (): void {
    foreach (['dh1' => '192.0.2.10-192.0.2.59', 'dh2' => '192.0.2.60-192.0.2.109'] as $name => $range) {
        ($this->scope)($name, '', [$range]);
    }
    $old = ($this->lease)(7, ['dh2']);
    ($this->pair)();
    ($this->scope)('dh1');
    expect(($this->lease)(8, ['dh1']))->toBeNull();
    ($this->scope)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue()
        ->and(($this->until)(fn (): bool => ($this->state)('dh1')['leases'] === 1))->toBeTrue()
        ->and((string) ($this->ask)('dh1', MessageType::Request, 7, [], $old)?->yourAddress)->toBe($old)
        ->and(($this->lease)(8))->not->toBeNull();
});

it('speaks only with who has its key, under the same terms; the key is changed without a break', function (): void {
    ($this->pair)(['k1' => 'one'], 'dh1');
    ($this->pair)(['k9' => 'other'], 'dh2');
    ($this->scope)('dh1');
    ($this->scope)('dh2');
    usleep(1_500_000);
    expect(($this->state)('dh1')['connected'])->toBeFalse();
    ($this->pair)(['k1' => 'one'], 'dh2');
    expect(($this->both)('NORMAL'))->toBeTrue()->and(($this->state)('dh1')['key'])->toBe('k1');
    ($this->pair)(['k1' => 'one', 'k2' => 'two'], 'dh1');
    expect(($this->both)('NORMAL'))->toBeTrue()->and(($this->state)('dh2')['key'])->toBe('k1');
    ($this->pair)(['k1' => 'one', 'k2' => 'two'], 'dh2');
    expect(($this->until)(fn (): bool => ($this->state)('dh2')['key'] === 'k2'))->toBeTrue();
    ($this->pair)(['k2' => 'two'], 'dh2', ['lead' => 700]);
    expect(($this->until)(fn (): bool => str_contains((string) ($this->state)('dh1')['refusal'], 'different terms')))->toBeTrue();
});

it('is not moved by whatever comes to its port', function (): void {
    ($this->pair)();
    ($this->scope)('dh1');
    ($this->scope)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue();
    foreach (["\n", "{}\n", random_bytes(8000), json_encode(['pair' => 'p1', 'number' => str_repeat('a', 32), 'keys' => ['k1']])."\n"
        .random_bytes(900),
        '{"pair":"p1","number":"'.str_repeat('b', 32).'","keys":["k1"]}'."\n".pack('N', 0xFFFFFFFF)] as $bytes) {
        $socket = stream_socket_client('tcp://'.$this->s->endpoint('dh2'));
        fwrite($socket, $bytes);
        usleep(50_000);
        fclose($socket);
    }
    expect(($this->both)('NORMAL'))->toBeTrue()->and(($this->lease)(3))->not->toBeNull();
});

it('gives no address to two clients while either of the two is killed again and again', function (): void {
    mt_srand(67);
    $this->put = function (string $name): void {
        ($this->pair)(['k1' => 'one'], $name, ['lead' => 6]);
        $this->s->tell($name, 'put', ['scope' => [
            'id' => 's1', 'name' => 'x', 'subnet' => '192.0.2.0/24', 'ranges' => ['192.0.2.10-192.0.2.29'],
            'lease_time' => 12, 'pair' => 'p1',
        ]]);
    };
    ($this->put)('dh1');
    ($this->put)('dh2');
    expect(($this->both)('NORMAL'))->toBeTrue();
    $up = ['dh1' => true, 'dh2' => true];
    /** @var array<int, array{string, float}> $held client → its address, and until when by its own clock */
    $held = [];
    $given = $kills = 0;
    for ($end = microtime(true) + (int) (getenv('PAIR_SECONDS') ?: 15); microtime(true) < $end;) {
        $server = ['dh1', 'dh2'][mt_rand(0, 1)];
        if (mt_rand(0, 119) === 0) {
            // Never both at once, so that there is somebody to ask.
            if ($up[$server] && $up[$server === 'dh1' ? 'dh2' : 'dh1']) {
                $this->s->kill($server);
                $up[$server] = false;
                $kills++;
            } elseif (! $up[$server]) {
                $this->s->start($server);
                $up[$server] = true;
            }

            continue;
        }
        $client = mt_rand(1, 24);
        if (! $up[$server]) {
            continue;
        }
        $began = microtime(true);
        $holds = ($held[$client][1] ?? 0) > $began;
        if ($holds && mt_rand(0, 3) === 0) {
            (new DhcpClient($server, $this->s->endpoint($server), 0.2))->tell(Packet::fromClient(
                MessageType::Release,
                1,
                MacAddress::fromBytes("\x02\0\x5e\0".pack('n', $client)),
                [54 => Address::parse($server === 'dh1' ? '192.0.2.67' : '192.0.2.68')->bytes],
                null,
                Address::parse($held[$client][0]),
            ));
            unset($held[$client]);

            continue;
        }
        $offer = $holds ? null : ($this->ask)($server, MessageType::Discover, $client, secs: mt_rand(0, 5));
        $ack = $holds
            ? ($this->ask)($server, MessageType::Request, $client, [], $held[$client][0])
            : ($offer === null ? null : ($this->ask)(
                $server,
                MessageType::Request,
                $client,
                [50 => $offer->yourAddress->bytes, 54 => $offer->options[54]],
            ));
        if ($holds && $ack?->type() === MessageType::Nak && $held[$client][1] > microtime(true)) {
            throw new RuntimeException("client $client holds {$held[$client][0]} and was refused it by $server");
        }
        if ($ack?->type() !== MessageType::Ack) {
            continue;
        }
        $address = (string) $ack->yourAddress;
        // It counts from when it asked (RFC 2131 §4.4.1).
        $held[$client] = [$address, $began + unpack('N', $ack->options[51])[1]];
        $given++;
        foreach ($held as $other => [$theirs, $until]) {
            if ($other !== $client && $theirs === $address && $until > microtime(true)) {
                throw new RuntimeException("$address is valid for $other and for $client, by $server, after $kills kills");
            }
        }
    }
    expect($given)->toBeGreaterThan(20)->and($kills)->toBeGreaterThan(0);
});
