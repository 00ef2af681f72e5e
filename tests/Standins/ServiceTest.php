<?php

declare(strict_types=1);

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\Transfer;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

/*
 * Transfers, notifications, updates, lapse and recursion between stand-ins, seen by packets.
 */

const QUAY = [
    'quay.example. 300 SOA ns1.quay.example. hostmaster.quay.example. 5 600 60 86400 300', 'quay.example. 300 NS ns1.quay.example.',
    'ns1.quay.example. 300 A 192.0.2.53', 'till.quay.example. 300 A 192.0.2.7',
];

const SECRET = 'AAECAwQFBgcICQoLDA0ODxAREhMUFRYXGBkaGxwdHh8=';

function until(Closure $holds): bool
{
    for ($i = 0; $i < 100; $i++) {
        if ($holds()) {
            return true;
        }
        usleep(50_000);
    }

    return false;
}

function change(string $line): Record
{
    [$owner, $ttl, $type, $data] = explode(' ', $line, 4);

    return new Record(
        Name::parse($owner, Name::parse('quay.example.')),
        (int) $ttl,
        RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)),
    );
}

beforeEach(function (): void {
    $this->s = new Standins(['lamp' => 'dns', 'second' => 'dns', 'res' => 'resolver']);
    foreach (['lamp', 'second'] as $name) {
        $this->s->tell($name, 'views', ['views' => [['name' => 'inside', 'clients' => ['127.0.0.0/8', '10.0.0.0/8', '192.0.2.0/24']]]]);
        $this->s->tell($name, 'keys', ['keys' => [['name' => 'quay-key.', 'secret' => SECRET]]]);
    }
    $this->client = fn (string $name, ?TsigKey $key = null, ?string $source = null) => new DnsClient(
        $name,
        $this->s->endpoint($name),
        3.0,
        $key,
        $source === null ? null : Address::parse($source),
    );
    $this->origin = Name::parse('quay.example.');
    $this->put = fn (array $more = []) => $this->s->tell(
        'lamp',
        'apply',
        ['view' => 'inside', 'zone' => 'quay.example.', 'from' => null, 'first' => true, 'add' => QUAY] + $more,
    );
    $this->step = fn (int $from, array $add, array $remove = []) => $this->s->tell(
        'lamp',
        'apply',
        [
            'view' => 'inside', 'zone' => 'quay.example.', 'from' => $from,
            'remove' => [str_replace(' 5 600', " $from 600", QUAY[0]), ...$remove],
            'add' => [str_replace(' 5 600', ' '.($from + 1).' 600', QUAY[0]), ...$add],
        ],
    );
    $this->key = TsigKey::of(Name::parse('quay-key.'), SECRET);
    $this->standing = fn (string $name): array => collect($this->s->tell($name, 'zones')['zones'])->firstWhere('zone', 'quay.example.')
        ?? [];
});

it('lets only those transfer who are listed, by address or by key', function (): void {
    ($this->put)(['transfer' => ['192.0.2.54/32', 'key quay-key.']]);
    expect(fn () => iterator_to_array(($this->client)('lamp')->transfer($this->origin)))->toThrow(Unanswered::class)
        ->and(fn () => iterator_to_array(($this->client)('lamp', null, '192.0.2.55')->transfer($this->origin)))->toThrow(Unanswered::class)
        ->and(iterator_to_array(($this->client)('lamp', null, '192.0.2.54')->transfer($this->origin)))->toHaveCount(4)
        ->and(iterator_to_array(($this->client)('lamp', $this->key)->transfer($this->origin)))->toHaveCount(4)
        ->and(
            fn () => ($this->client)('lamp', TsigKey::of(Name::parse('quay-key.'), base64_encode(str_repeat('x', 32))))->serial(
                $this->origin,
            ),
        )->toThrow(Unanswered::class, 'the secret differs')
        ->and(fn () => ($this->client)('lamp', TsigKey::of(Name::parse('other.'), SECRET))->serial($this->origin))->toThrow(
            Unanswered::class,
            'does not know the key',
        );
});

it('hands on what changed since a serial, and the whole zone when it has not kept that', function (): void {
    ($this->put)(['transfer' => ['key quay-key.']]);
    ($this->step)(5, ['new.quay.example. 300 A 192.0.2.8'], [QUAY[3]]);
    ($this->step)(6, ['more.quay.example. 300 A 192.0.2.9']);
    $since = fn (int $serial) => ($this->client)('lamp', $this->key)->since(
        $this->origin,
        change(str_replace(' 5 600', " $serial 600", QUAY[0]))->data,
    );
    $steps = $since(5);
    expect($steps->kind())->toBe(Transfer::STEPS)->and($steps->steps())->toHaveCount(2)
        ->and((string) $steps->steps()[0]['removed'][0]->owner)->toBe('till.quay.example.')
        ->and($since(6)->steps())->toHaveCount(1)->and($since(7)->kind())->toBe(Transfer::CURRENT)
        ->and($since(3)->kind())->toBe(Transfer::WHOLE)->and($since(3)->records())->toHaveCount(5);
});

it('transfers by steps and by key to a standard client', function (): void {
    ($this->put)(['transfer' => ['key quay-key.']]);
    ($this->step)(5, ['new.quay.example. 300 A 192.0.2.8']);
    $script = <<<'PY'
import sys, dns.query, dns.rrset, dns.zone, dns.tsigkeyring, dns.tsig, dns.message, dns.xfr, dns.update
port = int(sys.argv[1])
ring = dns.tsigkeyring.from_text({"quay-key.": ("hmac-sha256", sys.argv[2])})
zone = dns.zone.Zone("quay.example.")
query, serial = dns.xfr.make_query(zone, keyring=ring, keyname="quay-key.")
dns.query.inbound_xfr("127.0.0.1", zone, query, port=port)
print(zone.get_soa().serial, len(list(zone.iterate_rdatas())))
ixfr = dns.message.make_query("quay.example.", "IXFR")
ixfr.use_tsig(ring, "quay-key.")
ixfr.authority.append(dns.rrset.from_text("quay.example.", 0, "IN", "SOA", "ns1.quay.example. hostmaster.quay.example. 5 600 60 86400 300"))
print(dns.query.tcp(ixfr, "127.0.0.1", port=port).answer[0].rdtype == 6)
update = dns.update.UpdateMessage("quay.example.", keyring=ring, keyname="quay-key.")
update.add("deck", 60, "A", "192.0.2.99")
print(dns.query.tcp(update, "127.0.0.1", port=port).rcode())
PY;
    $this->s->tell(
        'lamp',
        'settle',
        ['view' => 'inside', 'zone' => 'quay.example.', 'update' => ['mode' => 'key', 'from' => ['key quay-key.']]],
    );
    exec('/usr/bin/python3 -c '.escapeshellarg($script)." {$this->s->settings['lamp']['port']} ".SECRET.' 2>&1', $out);
    expect($out)->toBe(['6 5', 'True', '0'])->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('7');
});

it('takes a zone from its primary, is told of changes, serves on without it, and gives up when it expires', function (): void {
    $this->s->tell(
        'second',
        'secondary',
        [
            'view' => 'inside', 'zone' => 'quay.example.', 'primary' => $this->s->endpoint('lamp'), 'key' => 'quay-key.',
            'client' => '10.0.0.1',
        ],
    );
    expect(
        until(
            fn (): bool => str_contains((string) (($this->standing)('second')['trouble'] ?? ''), 'no authority')
                || str_contains((string) (($this->standing)('second')['trouble'] ?? ''), 'refuses'),
        ),
    )->toBeTrue();
    ($this->put)(['transfer' => ['key quay-key.'], 'notify' => [$this->s->endpoint('second').' 10.0.0.1']]);
    $serial = fn (): string => (string) ($this->client)('second')->serial($this->origin);
    expect(until(fn (): bool => $serial() === '5'))->toBeTrue()->and(($this->standing)('second')['transfer'])->toBe('whole');
    ($this->step)(5, ['new.quay.example. 300 A 192.0.2.8'], [QUAY[3]]);
    expect(until(fn (): bool => $serial() === '6'))->toBeTrue()->and(($this->standing)('second')['transfer'])->toBe('steps')
        ->and(
            ($this->client)('second')->ask(Name::parse('new.quay.example.'), RecordType::of(1), null, false)->message->answers,
        )->toHaveCount(1)
        ->and(($this->client)('second')->ask(Name::parse('till.quay.example.'), RecordType::of(1), null, false)->message->rcode)->toBe(
            Rcode::NxDomain,
        );
    $this->s->stop('lamp');
    $this->s->tell('second', 'clock', ['ahead' => 86000]);
    $standing = ($this->standing)('second');
    expect($serial())->toBe('6')->and($standing['expired'])->toBeFalse()->and($standing['expires'] - $standing['now'])
        ->toBeLessThanOrEqual(400);
    $this->s->tell('second', 'clock', ['ahead' => 500]);
    expect(($this->client)('second')->ask($this->origin, RecordType::of(6), null, false)->message->rcode)
        ->toBe(Rcode::ServFail)->and(($this->standing)('second')['expired'])->toBeTrue();
    $this->s->start('lamp');
    $this->s->tell('second', 'ask', ['view' => 'inside', 'zone' => 'quay.example.']);
    expect(until(fn (): bool => ($this->standing)('second')['expired'] === false && ($this->standing)('second')['trouble'] === ''))
        ->toBeTrue()->and($serial())->toBe('6');
    $this->s->stop('second');
    $this->s->start('second');
    expect($serial())->toBe('6')->and(($this->standing)('second')['part'])->toBe('secondary');
});

it('takes updates from whom it is told to, in order of prerequisites, and raises the serial', function (): void {
    ($this->put)();
    $add = fn (string $line, array $before = []) => new UpdateRequest($this->origin, $before, [change($line)]);
    expect(($this->client)('lamp')->update($add('deck 60 A 192.0.2.20')))->toBe(Rcode::Refused);
    $this->s->tell(
        'lamp',
        'settle',
        ['view' => 'inside', 'zone' => 'quay.example.', 'update' => ['mode' => 'key', 'from' => ['key quay-key.']]],
    );
    $free = UpdateRequest::none(Name::parse('deck.quay.example.'), RecordType::of(RecordType::ANY));
    expect(($this->client)('lamp')->update($add('deck 60 A 192.0.2.20')))->toBe(Rcode::Refused)
        ->and(($this->client)('lamp', $this->key)->update($add('deck 60 A 192.0.2.20', [$free])))->toBe(Rcode::NoError)
        ->and(($this->client)('lamp', $this->key)->update($add('deck 60 A 192.0.2.21', [$free])))->toBe(Rcode::YxDomain)
        ->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('6')
        // Who updates it may bring a later serial, and never an earlier one.
        ->and(($this->client)('lamp', $this->key)->update($add('@ 300 SOA ns1 hostmaster 40 600 60 86400 300')))->toBe(Rcode::NoError)
        ->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('40')
        ->and(($this->client)('lamp', $this->key)->update($add('@ 300 SOA ns1 hostmaster 12 600 60 86400 300')))->toBe(Rcode::NoError)
        ->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('40')
        ->and(($this->client)('lamp', $this->key)->update(new UpdateRequest(Name::parse('elsewhere.example.'), [], [])))->toBe(
            Rcode::NotAuth,
        );
    $this->s->tell(
        'lamp',
        'settle',
        ['view' => 'inside', 'zone' => 'quay.example.', 'update' => ['mode' => 'address', 'from' => ['192.0.2.0/25']]],
    );
    expect(($this->client)('lamp', null, '192.0.2.200')->update($add('bow 60 A 192.0.2.22')))->toBe(Rcode::Refused)
        ->and(($this->client)('lamp', null, '192.0.2.100')->update($add('bow 60 A 192.0.2.22')))->toBe(Rcode::NoError);
});

it('lets registered names lapse, writes renewals after the quiet part only, and leaves what people wrote', function (): void {
    ($this->put)(['update' => ['mode' => 'address', 'from' => ['127.0.0.0/8']], 'lapse' => ['after' => 1000, 'quiet' => 400]]);
    $renew = fn () => ($this->client)('lamp')->update(new UpdateRequest($this->origin, [], [change('deck 60 A 192.0.2.20')]));
    $renewals = fn (): array => $this->s->tell('lamp', 'renewals', ['view' => 'inside', 'zone' => 'quay.example.'])['renewals'];
    // What people wrote does not become a client's by being sent again.
    ($this->client)('lamp')->update(new UpdateRequest($this->origin, [], [change('till 300 A 192.0.2.7')]));
    expect($renewals())->toBe([]);
    $renew();
    $first = $renewals()['deck.quay.example. A'];
    $this->s->tell('lamp', 'clock', ['ahead' => 300]);
    expect($renew())->toBe(Rcode::NoError)->and($renewals()['deck.quay.example. A'])->toBe($first)
        ->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('6');
    $this->s->tell('lamp', 'clock', ['ahead' => 300]);
    $renew();
    expect($renewals()['deck.quay.example. A'])->toBeGreaterThan($first + 500)
        ->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('6');
    $this->s->tell('lamp', 'clock', ['ahead' => 900]);
    expect(
        ($this->client)('lamp')->ask(Name::parse('deck.quay.example.'), RecordType::of(1), null, false)->message->answers,
    )->toHaveCount(1);
    $this->s->tell('lamp', 'clock', ['ahead' => 101]);
    expect(($this->client)('lamp')->ask(Name::parse('deck.quay.example.'), RecordType::of(1), null, false)->message->rcode)->toBe(
        Rcode::NxDomain,
    )
        ->and(($this->client)('lamp')->ask(Name::parse('till.quay.example.'), RecordType::of(1), null, false)->message->answers)
        ->toHaveCount(1)->and((string) ($this->client)('lamp')->serial($this->origin))->toBe('7');
});

it('resolves by forwarders in order, down from the roots where it may, and from what it kept', function (): void {
    ($this->put)();
    // The second server plays the roots: it delegates example. to itself and quay.example. to the first.
    foreach (
        [
            '.' => [
                '. 300 SOA root. h. 1 600 60 86400 300', '. 300 NS root.', 'root. 300 A 198.51.100.1', 'example. 300 NS ns.example.',
                'ns.example. 300 A 198.51.100.2',
            ],
            'example.' => [
                'example. 300 SOA ns.example. h.example. 1 600 60 86400 300', 'example. 300 NS ns.example.',
                'ns.example. 300 A 198.51.100.2', 'quay.example. 300 NS ns1.quay.example.', 'ns1.quay.example. 300 A 192.0.2.53',
                'far.example. 300 CNAME till.quay.example.',
            ],
        ] as $zone => $lines
    ) {
        $this->s->tell('second', 'apply', ['view' => 'inside', 'zone' => $zone, 'from' => null, 'first' => true, 'add' => $lines]);
    }
    $reach = [
        '198.51.100.1' => $this->s->endpoint('second'),
        '198.51.100.2' => $this->s->endpoint('second'),
        '192.0.2.53' => $this->s->endpoint('lamp'),
    ];
    $resolving = fn (array $m) => $this->s->tell(
        'res',
        'resolving',
        $m + ['recursion' => true, 'forwarders' => [], 'fallback' => true, 'roots' => ['198.51.100.1'], 'reach' => $reach],
    );
    $ask = fn (string $name): array => [
        ($m = ($this->client)('res')->ask(Name::parse($name), RecordType::of(1))->message)->rcode,
        array_map(fn (Record $r): string => $r->data->text(), $m->answers),
        $m->recursionAvailable,
    ];
    $resolving([]);
    expect($ask('till.quay.example.'))->toBe([Rcode::NoError, ['192.0.2.7'], true])->and($ask('far.example.'))
        ->toBe([Rcode::NoError, ['till.quay.example.', '192.0.2.7'], true])
        ->and($ask('nothing.quay.example.')[0])->toBe(Rcode::NxDomain)->and($ask('a.nowhere.')[0])->toBe(Rcode::NxDomain);
    // What was learnt stays until its TTL is over, or until it is forgotten.
    ($this->step)(5, ['till.quay.example. 300 A 192.0.2.77'], [QUAY[3]]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.7']);
    $this->s->tell('res', 'clock', ['ahead' => 301]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.77']);
    // A forwarder that is down: the roots where that is allowed, nothing where it is not.
    $dead = '127.0.0.1:9';
    $resolving(['forwarders' => [$dead], 'fallback' => false]);
    expect($ask('till.quay.example.')[0])->toBe(Rcode::ServFail);
    $resolving(['forwarders' => [$dead], 'fallback' => true]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.77']);
    $resolving(['forwarders' => [$dead, $this->s->endpoint('lamp')], 'fallback' => false]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.77']);
    // A forwarded zone and a stub are asked of their own servers and of nobody else.
    $resolving([
        'forwarders' => [$dead],
        'fallback' => false,
        'zones' => [['zone' => 'quay.example.', 'kind' => 'forwarded', 'servers' => [$this->s->endpoint('lamp')]]],
    ]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.77'])->and($ask('far.example.')[0])->toBe(Rcode::ServFail);
    $resolving([
        'forwarders' => [$dead],
        'fallback' => false,
        'zones' => [['zone' => 'quay.example.', 'kind' => 'stub', 'servers' => ['192.0.2.53']]],
    ]);
    expect($ask('till.quay.example.')[1])->toBe(['192.0.2.77']);
    $resolving(['recursion' => false]);
    expect($ask('till.quay.example.')[0])->toBe(Rcode::Refused);
});

it('answers hostile messages with an error or not at all, and goes on', function (): void {
    ($this->put)();
    mt_srand(20261123);
    $query = HarborPost\Core\Dns\Wire\Message::query(1, new HarborPost\Core\Dns\Wire\Question($this->origin, RecordType::of(1)))->wire();
    $udp = stream_socket_client('udp://'.$this->s->endpoint('lamp'));
    for ($i = 0; $i < 400; $i++) {
        $packet = $query;
        for ($n = mt_rand(1, 6); $n > 0; $n--) {
            $packet[mt_rand(0, strlen($packet) - 1)] = chr(mt_rand(0, 255));
        }
        fwrite($udp, mt_rand(0, 3) === 0 ? substr($packet, 0, mt_rand(0, strlen($packet))) : $packet);
    }
    fwrite($udp, str_repeat("\xc0\x0c", 30000));
    expect((string) ($this->client)('lamp')->serial($this->origin))->toBe('5');
});
