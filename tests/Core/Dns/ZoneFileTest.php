<?php

declare(strict_types=1);

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneDifference;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use HarborPost\Core\Dns\Zone\ZoneFileWriter;

/** @return array{Zone, list<Fault>} */
function readZone(string $text, string $origin = 'example.'): array
{
    $faults = [];
    $reader = new ZoneFileReader(Name::parse($origin), function (Fault $f) use (&$faults): void {
        $faults[] = $f;
    });
    $zone = Zone::of(Name::parse($origin), $reader->read(preg_split('/(?<=\n)/', $text)), true);

    return [$zone, $faults];
}

/** @return list<string> */
function printed(Zone $zone): array
{
    return array_map(rtrim(...), iterator_to_array(ZoneFileWriter::lines($zone), false));
}

const HEAD = "\$TTL 3600\n@ IN SOA ns1 host 1 7200 900 1209600 300\n@ NS ns1\nns1 A 192.0.2.1\n";

it('reads what RFC 1035 §5 allows', function (): void {
    [$zone, $faults] = readZone(
        "\xEF\xBB\xBF\$ORIGIN example.\r\n\$TTL 1h\r\n@\tIN SOA ns1 host ( 1 ; serial\r\n  7200 900\r\n  1209600 300 )\r\n  NS "
            ."ns1\r\nns1 300 IN A 192.0.2.1\r\nns1 IN 300 AAAA 2001:db8::1\r\n\$ORIGIN sub\r\nwww A 192.0.2.2 ; here\r\n    TXT "
                ."\"a;b\" c\\;d\r\nx.example. TYPE65280 \\# 2 0102",
    );
    expect(array_map(fn (Fault $f): string => "$f->code $f->severity", $faults))->toBe(['time-with-units note']);
    expect(printed($zone))->toBe([
        'example. 3600 IN SOA ns1.example. host.example. 1 7200 900 1209600 300', 'example. 3600 IN NS ns1.example.',
        'ns1.example. 300 IN A 192.0.2.1', 'ns1.example. 300 IN AAAA 2001:db8::1',
        'www.sub.example. 3600 IN A 192.0.2.2', 'www.sub.example. 3600 IN TXT "a;b" "c;d"', 'x.example. 3600 IN TYPE65280 \\# 2 0102',
    ]);
});

it('lists every fault with its line and column and reads on', function (): void {
    [$zone, $faults] = readZone(
        HEAD
            ."bad A 192.0.2.300\n\$INCLUDE /etc/passwd\n\$FOO x\nwww.other. A 192.0.2.1\na..b A 192.0.2.1\nx CH TXT y\nx APL "
                ."1:192.0.2.0/24 2\nx FOO y\nx A 192.0.2.7 8\ngood A 192.0.2.9\nmx MX 10\nq TXT \"open\n) y A 192.0.2.1\nlast ( "
                    ."A 192.0.2.2\n",
    );
    expect(array_map(fn (Fault $f): string => "$f->line:$f->column $f->code", $faults))->toBe([
        '5:15 bad-data', '6:1 include-refused', '7:1 unknown-directive', '8:1 owner-outside', '9:3 bad-name', '10:3 class-not-in',
        '11:3 type-not-built', '12:3 type-unknown', '13:15 bad-data', '15:7 bad-data', '16:7 quote-open', '17:1 parenthesis-stray',
        '18:6 parenthesis-open',
    ])->and($zone->has(Name::parse('good.example.')))->toBeTrue();
});

it('counts columns in characters, not bytes', function (): void {
    [, $faults] = readZone(HEAD."é TXT \"ü\" ; x\nx TXT \"üü\" \"".str_repeat('y', 256)."\"\n");
    expect([$faults[0]->line, $faults[0]->column])->toBe([6, 12]);
});

it('needs a TTL from somewhere', function (): void {
    [, $faults] = readZone("x A 192.0.2.1\n@ 60 SOA ns1 host 1 2 3 4 5\ny A 192.0.2.1\n");
    expect(array_map(fn (Fault $f): string => "$f->line $f->code", $faults))->toBe(['1 no-ttl']);
});

it('prints the same bytes for the same zone', function (): void {
    [$a] = readZone(HEAD."B A 192.0.2.2\na A 192.0.2.3\na 60 A 192.0.2.1\nc.a A 192.0.2.1\n*.a A 192.0.2.1\n");
    $text = implode("\n", printed($a))."\n";
    [$b, $faults] = readZone($text);
    expect($faults)->toBe([])->and(implode("\n", printed($b))."\n")->toBe($text)->and(printed($a))->toBe([
        'example. 3600 IN SOA ns1.example. host.example. 1 7200 900 1209600 300', 'example. 3600 IN NS ns1.example.',
        'a.example. 60 IN A 192.0.2.1', 'a.example. 60 IN A 192.0.2.3',
        '*.a.example. 3600 IN A 192.0.2.1', 'c.a.example. 3600 IN A 192.0.2.1', 'b.example. 3600 IN A 192.0.2.2',
        'ns1.example. 3600 IN A 192.0.2.1',
    ])->and(ZoneDifference::between($a, $b)->isEmpty())->toBeTrue();
});

it('agrees with an independent reader on a random zone', function (): void {
    mt_srand(13);
    $text = HEAD;
    for ($i = 0; $i < 400; $i++) {
        $owner = ['h'.mt_rand(0, 99), '@', 'a.b'.mt_rand(0, 9), '*.w'][mt_rand(0, 3)];
        $text .= $owner
            .[' ', "\t", ' IN ', ' 60 IN '][mt_rand(0, 3)]
            .[
                'A 192.0.2.'.mt_rand(0, 255), 'TXT "x \"y\" '.mt_rand(0, 9).'"', 'MX '.mt_rand(0, 9).' m', 'SRV 0 0 ( 5060'."\n".' s )',
                'AAAA 2001:db8::'.mt_rand(1, 99), 'CAA 0 issue "c"',
            ][mt_rand(0, 5)]
            ."\n";
    }
    $file = tempnam(sys_get_temp_dir(), 'zone');
    file_put_contents($file, $text);
    $python = 'import sys,dns.zone
z=dns.zone.from_file(sys.argv[1],"example.",relativize=False)
for n,t,d in z.iterate_rdatas(): print(str(n).lower(),dns.rdatatype.to_text(d.rdtype),d.to_text())';
    exec('/usr/bin/python3 -c '.escapeshellarg($python).' '.escapeshellarg($file), $rows, $status);
    unlink($file);
    sort($rows);
    [$zone, $faults] = readZone($text);
    $ours = array_map(fn (string $l): string => (string) preg_replace('/^(\S+) \d+ IN /', '$1 ', $l), printed($zone));
    sort($ours);
    expect($status)->toBe(0)->and($faults)->toBe([])->and($ours)->toBe(array_values(array_unique($rows)));
});

it('finds what is wrong in a zone', function (string $text, array $codes): void {
    [$zone] = readZone(HEAD.$text);
    $found = array_map(fn (Finding $f): string => $f->code, iterator_to_array(ZoneRules::check($zone), false));
    sort($found);
    sort($codes);
    expect($found)->toBe($codes);
})->with([
    'clean' => ["www A 192.0.2.2\nmail MX 10 www\nsub NS ns.sub\nns.sub A 192.0.2.9\n", []],
    'alias beside data' => ["a CNAME ns1\na A 192.0.2.2\n", ['cname-beside-data']],
    'two aliases' => ["a CNAME ns1\na CNAME www\nwww A 192.0.2.2\n", ['cname-twice']],
    'alias at the top' => ["@ CNAME ns1\n", ['cname-at-apex']],
    'target is an alias' => ["a CNAME ns1\n@ MX 10 a\n_x._tcp SRV 0 0 1 a\n", ['target-is-alias', 'target-is-alias']],
    'target missing' => ["a CNAME gone\n", ['target-missing']],
    'wildcard covers a target' => ["a CNAME x.w\n*.w A 192.0.2.2\n", []],
    'unequal TTLs' => ["a 60 A 192.0.2.2\na 90 A 192.0.2.3\n", ['ttl-unequal']],
    'twice the same' => ["a A 192.0.2.2\na A 192.0.2.2\n", ['record-twice']],
    'TTL zero' => ["a 0 A 192.0.2.2\n", ['ttl-zero']],
    'glue missing' => ["sub NS ns.sub\n", ['glue-missing']],
    'below a delegation' => ["sub NS ns.other.\nx.sub TXT y\n", ['below-delegation']],
    'pointless glue' => ["sub NS ns.other.\nx.sub A 192.0.2.2\n", ['glue-pointless']],
    'two SPF texts' => ["@ TXT \"v=spf1 -all\"\n@ TXT \"v=spf1 mx -all\"\n", ['spf-twice']],
    'second SOA' => ["a SOA ns1 host 1 7200 900 1209600 300\n", ['soa-below-apex']],
]);

it('misses SOA and NS', function (): void {
    [$zone] = readZone("\$TTL 60\nx A 192.0.2.1\n");
    expect(array_map(fn (Finding $f): string => $f->code, iterator_to_array(ZoneRules::check($zone), false)))->toBe([
        'soa-missing',
        'ns-missing',
    ]);
});

it('judges SOA timers', function (): void {
    [$zone] = readZone("\$TTL 60\n@ SOA ns1 host 1 900 7200 3600 604800\n@ NS ns1\nns1 A 192.0.2.1\n");
    expect(array_map(fn (Finding $f): string => $f->code, iterator_to_array(ZoneRules::check($zone), false)))->toBe([
        'soa-retry',
        'soa-expire',
        'soa-negative-ttl',
    ]);
});

it('follows $INCLUDE to files of the bundle and nowhere else, and says in which file a fault is', function (): void {
    $files = [
        'hosts' => "deck A 192.0.2.1\n\tA 192.0.2.2\nbad A 192.0.2.300\n",
        'sub' => "@ A 192.0.2.3\n\$INCLUDE hosts\n",
        'loop' => "\$INCLUDE loop\nx A 192.0.2.9\n",
    ];
    $faults = [];
    $read = function (string $text, bool $bundle = true) use ($files, &$faults): array {
        $faults = [];
        $reader = new ZoneFileReader(Name::parse('quay.example.'), function (Fault $f) use (&$faults): void {
            $faults[] = "$f->line $f->code $f->message";
        }, $bundle ? fn (string $name): ?array => isset($files[$name]) ? preg_split(
            '/(?<=\n)/',
            $files[$name],
            -1,
            PREG_SPLIT_NO_EMPTY,
        ) : null : null);

        return array_map(strval(...), iterator_to_array($reader->read(preg_split('/(?<=\n)/', $text, -1, PREG_SPLIT_NO_EMPTY)), false));
    };
    expect($read("\$TTL 60\na A 192.0.2.9\n\$INCLUDE hosts boat\nb A 192.0.2.8\n"))->toBe([
        'a.quay.example. 60 IN A 192.0.2.9', 'deck.boat.quay.example. 60 IN A 192.0.2.1', 'deck.boat.quay.example. 60 IN A 192.0.2.2',
        'b.quay.example. 60 IN A 192.0.2.8',
    ])
        ->and($faults)->toHaveCount(1)->and($faults[0])->toStartWith('3 ')->toContain('in "hosts", line 3, column 15');
    expect($read("\$TTL 60\n\$INCLUDE sub pier\n"))->toContain(
        'pier.quay.example. 60 IN A 192.0.2.3',
        'deck.pier.quay.example. 60 IN A 192.0.2.1',
    );
    expect($read("\$TTL 60\n\$INCLUDE loop\n"))->toBe(['x.quay.example. 60 IN A 192.0.2.9'])->and($faults[0])->toContain('includes itself');
    expect($read("\$TTL 60\n\$INCLUDE /etc/hostname\na A 192.0.2.9\n"))->toHaveCount(1)->and($faults[0])->toContain('include-missing');
    expect($read("\$TTL 60\n\$INCLUDE hosts\n", false))->toBe([])->and($faults[0])->toContain('include-refused');
});

it('sees wildcards that do not reach and SPF words that run together', function (string $text, array $codes): void {
    $zone = Zone::of(
        Name::parse('quay.example.'),
        (new ZoneFileReader(Name::parse('quay.example.'), fn (): null => null))->read(
            preg_split('/(?<=\n)/', "@ 60 SOA ns h 1 7200 900 1209600 300\n@ 60 NS ns\nns 60 A 192.0.2.1\n".$text, -1, PREG_SPLIT_NO_EMPTY),
        ),
    );
    expect(array_map(fn ($f): string => $f->code, iterator_to_array(HarborPost\Core\Checks\ZoneRules::check($zone), false)))->toBe($codes);
})->with([
    'a neighbour without the MX of the wildcard' => ["*.x 60 MX 10 ns\nmail.x 60 TXT \"t\"\n", ['wildcard-missed']],
    'a neighbour with all of it' => ["*.x 60 MX 10 ns\nmail.x 60 MX 20 ns\n", []],
    'words that run together' => ["@ 60 TXT \"v=spf1 mx\" \"include:a.example -all\"\n", ['spf-joined']],
    'a space between' => ["@ 60 TXT \"v=spf1 mx \" \"include:a.example -all\"\n", []],
]);

it('refuses owners below an $ORIGIN outside the zone, also on ordinary lines', function (): void {
    $codes = [];
    $reader = new ZoneFileReader(Name::parse('quay.example.'), function (Fault $f) use (&$codes): void {
        $codes[] = "$f->line $f->code";
    });
    $records = iterator_to_array(
        $reader->read([
            "\$TTL 60\n", "\$ORIGIN far.example.\n", "a A 192.0.2.1\n", "a.b A 192.0.2.2\n", "\$ORIGIN pier.quay.example.\n",
            "a A 192.0.2.3\n",
        ]),
        false,
    );
    expect($codes)->toBe(['3 owner-outside', '4 owner-outside'])->and(array_map(strval(...), $records))
        ->toBe(['a.pier.quay.example. 60 IN A 192.0.2.3']);
});
