<?php

declare(strict_types=1);

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

const ZONE = [
    'quay.example. 3600 SOA ns1.quay.example. host.quay.example. 5 7200 900 1209600 300',
    'quay.example. 3600 NS ns1.quay.example.',
    'ns1.quay.example. 3600 A 192.0.2.53',
    'a.b.quay.example. 60 A 192.0.2.1',
    'alias.quay.example. 60 CNAME chain.quay.example.',
    'chain.quay.example. 60 CNAME a.b.quay.example.',
    '*.wild.quay.example. 60 TXT "w"',
    'x.wild.quay.example. 60 A 192.0.2.9',
    'sub.quay.example. 60 NS ns.sub.quay.example.',
    'ns.sub.quay.example. 60 A 192.0.2.54',
    'quay.example. 60 MX 10 ns1.quay.example.',
];

beforeEach(function (): void {
    $this->s = new Standins(['lamp' => 'dns', 'res' => 'resolver']);
    $this->s->tell(
        'lamp',
        'views',
        [
            'views' => [
                ['name' => 'inside', 'clients' => ['192.0.2.0/24', '127.0.0.0/8']],
                ['name' => 'outside', 'clients' => ['0.0.0.0/0']],
            ],
        ],
    );
    $this->s->tell(
        'lamp',
        'apply',
        ['view' => 'inside', 'zone' => 'quay.example.', 'from' => null, 'first' => true, 'add' => ZONE, 'transfer' => ['127.0.0.0/8']],
    );
    $this->s->tell(
        'lamp',
        'apply',
        [
            'view' => 'outside', 'zone' => 'quay.example.', 'from' => null, 'first' => true,
            'add' => [str_replace('. 5 ', '. 9 ', ZONE[0]), ZONE[1]], 'transfer' => [],
        ],
    );
    $this->dns = new DnsClient('lamp', $this->s->endpoint('lamp'), 2.0);
    $this->ask = fn (string $name, string $type = 'A', ?string $for = null) => $this->dns->ask(
        Name::parse($name),
        RecordType::parse($type),
        $for === null ? null : Address::parse($for),
        false,
    )->message;
});

it('answers by RFC 1034 §4.3.2', function (string $name, string $type, string $rcode, bool $aa, array $answers, array $authority): void {
    $m = ($this->ask)($name, $type);
    expect($m->rcode->name)->toBe($rcode)->and($m->authoritative)->toBe($aa)->and(array_map(strval(...), $m->answers))
        ->toBe($answers)->and(array_map(fn (Record $r): string => (string) $r->type(), $m->authority))
        ->toBe($authority);
})->with([
    'data' => ['a.b.quay.example.', 'A', 'NoError', true, ['a.b.quay.example. 60 IN A 192.0.2.1'], []],
    'no such name' => ['nope.quay.example.', 'A', 'NxDomain', true, [], ['SOA']],
    'no data' => ['a.b.quay.example.', 'TXT', 'NoError', true, [], ['SOA']],
    'empty non-terminal' => ['b.quay.example.', 'A', 'NoError', true, [], ['SOA']],
    'chain of aliases' => [
        'alias.quay.example.',
        'A',
        'NoError',
        true,
        [
            'alias.quay.example. 60 IN CNAME chain.quay.example.',
            'chain.quay.example. 60 IN CNAME a.b.quay.example.',
            'a.b.quay.example. 60 IN A 192.0.2.1',
        ],
        [],
    ],
    'the alias itself' => ['alias.quay.example.', 'CNAME', 'NoError', true, ['alias.quay.example. 60 IN CNAME chain.quay.example.'], []],
    'wildcard' => ['q.wild.quay.example.', 'TXT', 'NoError', true, ['q.wild.quay.example. 60 IN TXT "w"'], []],
    'wildcard, no data' => ['q.wild.quay.example.', 'A', 'NoError', true, [], ['SOA']],
    'a name blocks the wildcard' => ['x.wild.quay.example.', 'TXT', 'NoError', true, [], ['SOA']],
    'below a blocked one' => ['q.x.wild.quay.example.', 'TXT', 'NxDomain', true, [], ['SOA']],
    'referral' => ['www.sub.quay.example.', 'A', 'NoError', false, [], ['NS']],
    'another zone' => ['www.other.', 'A', 'Refused', false, [], []],
]);

it('gives glue with a referral, and keeps a no for the shorter time (RFC 2308)', function (): void {
    expect(array_map(strval(...), ($this->ask)('www.sub.quay.example.')->additional))
        ->toBe(['ns.sub.quay.example. 60 IN A 192.0.2.54'])->and(($this->ask)('nope.quay.example.')->authority[0]->ttl)
        ->toBe(300);
});

it('answers each client from its view', function (): void {
    expect($this->dns->serial(Name::parse('quay.example.'), Address::parse('192.0.2.9'))?->value)->toBe(5)
        ->and($this->dns->serial(Name::parse('quay.example.'), Address::parse('198.51.100.1'))?->value)->toBe(9);
});

it('takes a difference against a serial and no other', function (): void {
    $lines = [
        'remove' => ['a.b.quay.example. 60 A 192.0.2.1', ZONE[0]],
        'add' => ['a.b.quay.example. 60 A 192.0.2.2', str_replace('. 5 ', '. 6 ', ZONE[0])],
    ];
    expect(fn () => $this->s->tell('lamp', 'apply', ['view' => 'inside', 'zone' => 'quay.example.', 'from' => 4] + $lines))->toThrow(
        Unanswered::class,
    );
    $this->s->tell('lamp', 'apply', ['view' => 'inside', 'zone' => 'quay.example.', 'from' => 5] + $lines);
    expect((string) ($this->ask)('a.b.quay.example.')->answers[0]->data->text())->toBe('192.0.2.2')
        ->and($this->dns->serial(Name::parse('quay.example.'))?->value)->toBe(6);
});

it('transfers a zone to those allowed, also to an independent client', function (): void {
    $records = iterator_to_array($this->dns->transfer(Name::parse('quay.example.')), false);
    expect($records)->toHaveCount(count(ZONE))
        ->and(fn () => iterator_to_array($this->dns->transfer(Name::parse('quay.example.'), Address::parse('198.51.100.1'))))
        ->toThrow(Unanswered::class);
    exec('/usr/bin/python3 -c '.escapeshellarg('import dns.query,dns.zone,sys
z=dns.zone.from_xfr(dns.query.xfr("127.0.0.1","quay.example",port=int(sys.argv[1]),relativize=False),relativize=False)
print(sum(len(r) for n in z.nodes.values() for r in n.rdatasets))').' '.$this->s->settings['lamp']['port'], $out);
    expect($out)->toBe([(string) count(ZONE)]);
});

it('cuts over UDP and answers whole over TCP', function (): void {
    $add = array_map(fn (int $i): string => 'many.quay.example. 60 TXT "'.str_repeat(chr(97 + $i % 26), 100).$i.'"', range(1, 40));
    $this->s->tell('lamp', 'apply', ['view' => 'inside', 'zone' => 'quay.example.', 'from' => 5, 'add' => $add]);
    $answer = $this->dns->ask(Name::parse('many.quay.example.'), RecordType::parse('TXT'), null, false);
    expect($answer->over)->toBe('TCP')->and($answer->wasTruncated)->toBeTrue()->and($answer->message->answers)->toHaveCount(40);
});

it('resolves by forwarding, and only when recursion is desired', function (): void {
    $resolver = new DnsClient('res', $this->s->endpoint('res'), 3.0);
    $m = $resolver->ask(Name::parse('alias.quay.example.'), RecordType::parse('A'))->message;
    expect($m->answers)->toHaveCount(3)->and($m->recursionAvailable)->toBeTrue()->and($m->authoritative)->toBeFalse()
        ->and($resolver->ask(Name::parse('alias.quay.example.'), RecordType::parse('A'), null, false)->message->rcode->name)
        ->toBe('Refused');
});

it('keeps its zones over a restart', function (): void {
    $this->s->stop('lamp');
    $this->s->start('lamp');
    expect($this->dns->serial(Name::parse('quay.example.'))?->value)->toBe(5)
        ->and(($this->ask)('q.wild.quay.example.', 'TXT')->answers)->toHaveCount(1);
});

it('misbehaves when told', function (): void {
    $this->s->tell('lamp', 'mode', ['mode' => 'refusing']);
    expect(($this->ask)('a.b.quay.example.')->rcode->name)->toBe('Refused');
    $this->s->tell('lamp', 'mode', ['mode' => 'wrong']);
    expect(($this->ask)('a.b.quay.example.')->answers[0]->data->text())->toBe('192.0.2.66');
    $this->s->tell('lamp', 'mode', ['mode' => 'silent']);
    expect(fn () => ($this->ask)('a.b.quay.example.'))->toThrow(Unanswered::class, 'did not answer');
    $this->s->stop('lamp');
    expect(fn () => ($this->ask)('a.b.quay.example.'))->toThrow(Unanswered::class, 'lamp cannot be reached');
});

it('refuses a wrong token', function (): void {
    $socket = stream_socket_client('tcp://127.0.0.1:'.$this->s->settings['lamp']['control']);
    fwrite($socket, json_encode(['op' => 'zones', 'token' => 'guess'])."\n");
    expect(json_decode((string) fgets($socket), true))->toBe(['error' => 'the token is wrong']);
});

it('survives junk', function (): void {
    mt_srand(15);
    $socket = stream_socket_client('udp://'.$this->s->endpoint('lamp'));
    for ($i = 0; $i < 300; $i++) {
        fwrite($socket, implode('', array_map(fn (): string => chr(mt_rand(0, 255)), range(1, mt_rand(1, 80)))));
    }
    expect(($this->ask)('a.b.quay.example.')->answers)->toHaveCount(1);
});
