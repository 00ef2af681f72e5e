<?php

declare(strict_types=1);

/** @return array{int, string, string} status, output, errors */
function hpost(array $arguments, string $input = ''): array
{
    $process = proc_open(
        [PHP_BINARY, base_path('launcher/console.php'), ...$arguments],
        [['pipe', 'r'], ['pipe', 'w'], ['pipe', 'w']],
        $pipes,
        base_path(),
        ['HPOST_INSTANCE' => 'test'] + getenv(),
    );
    fwrite($pipes[0], $input);
    fclose($pipes[0]);
    $out = (string) stream_get_contents($pipes[1]);
    $err = (string) stream_get_contents($pipes[2]);

    return [proc_close($process), $out, $err];
}

it('calculates a prefix', function (): void {
    [$status, $out] = hpost(['calc:prefix', '192.0.2.77/26', '--json']);
    expect($status)->toBe(0)->and(json_decode($out, true))
        ->toBe([
            'understood' => '192.0.2.64/26', 'family' => 4, 'network' => '192.0.2.64', 'length' => 26, 'mask' => '255.255.255.192',
            'wildcard' => '0.0.0.63', 'first' => '192.0.2.64', 'last' => '192.0.2.127', 'first_usable' => '192.0.2.65',
            'last_usable' => '192.0.2.126', 'broadcast' => '192.0.2.127', 'size' => '64', 'usable' => '62',
            'reverse_zones' => ['64/26.2.0.192.in-addr.arpa'], 'hex' => 'c0000240',
        ]);
    expect(json_decode(hpost(['calc:prefix', '2001:db8::/64', '--json'])[1], true))->toMatchArray([
        'broadcast' => null, 'size' => '18446744073709551616', 'usable' => '18446744073709551615',
        'wildcard' => '::ffff:ffff:ffff:ffff', 'first_usable' => '2001:db8::1',
    ]);
});

it('exits 2 on unusable input and usage', function (array $arguments, string $said): void {
    [$status, , $err] = hpost($arguments);
    expect($status)->toBe(2)->and($err)->toContain($said);
})->with([
    [['calc:prefix', '192.0.2.1-192.0.2.9'], 'calc:merge'], [['calc:prefix', '10.0.0.256'], '^'], [['calc:prefix'], 'missing'],
    [['no:such'], 'not defined'], [['calc:open'], '--in'], [['calc:open', '--in=10.0.0.1/8'], '10.0.0.0/8'],
    [['calc:open', '--in=10.0.0.0/8', '--fit=worst'], 'first, best or room'], [['zone:check', '/no/file', '--origin=x'], 'no file'],
    [['option:encode', '3', 'x'], 'option 3'], [['option:decode', '3', 'zz'], 'hexadecimal'],
    [['option:decode', '121', '21'], 'prefix length'], [['dns:ask', 'x.example'], 'address:port'],
    [['dns:ask', 'x.example', '--server=127.0.0.1:9', '--rd=2'], '1 or 0'],
    [['dns:ask', 'x..example', '--server=127.0.0.1:9'], 'label'], [['dns:ask', 'x.example', 'QQ', '--server=127.0.0.1:9'], 'QQ'],
]);

it('lists open space in the order of choice', function (): void {
    [$status, $out, $err] = hpost(
        ['calc:open', '--in=10.0.0.0/22', '--length=24', '--count=9', '--fit=room', '--json'],
        "10.0.0.0/24 # used\n10.9.0.0/16\n",
    );
    expect($status)->toBe(0)->and(json_decode($out, true))
        ->toBe(['in' => ['10.0.0.0/22'], 'open' => ['10.0.2.0/24', '10.0.1.0/24', '10.0.3.0/24']])->and($err)
        ->toContain('10.9.0.0/16 is outside');
    expect(hpost(['calc:open', '--in=10.0.0.0/24'], "10.0.0.0/24\n")[0])->toBe(1);
});

it('merges', function (): void {
    expect(
        json_decode(hpost(['calc:merge', '--json'], "2001:db8::/33\n10.0.0.128/25\n10.0.0.0-10.0.0.127\n2001:db8:8000::/33\n")[1], true),
    )->toBe(['prefixes' => ['10.0.0.0/24', '2001:db8::/32']]);
});

it('checks and prints zone files', function (): void {
    $file = (string) tempnam(sys_get_temp_dir(), 'zone');
    file_put_contents($file, "\$TTL 60\n@ SOA ns1 host 1 7200 900 1209600 300\n@ NS ns1\nns1 A 192.0.2.1\nwww A 192.0.2.300\n");
    [$status, $out] = hpost(['zone:check', $file, '--origin=example', '--json']);
    expect($status)->toBe(1)->and(json_decode($out, true)['findings'][0])
        ->toMatchArray([
            'code' => 'bad-data', 'severity' => 'error', 'line' => 5, 'column' => 15, 'owner' => 'www.example.', 'type' => 'A',
        ]);
    [$status, $out] = hpost(['zone:print', $file, '--origin=example']);
    expect($status)->toBe(1)->and($out)
        ->toBe(
            "example. 60 IN SOA ns1.example. host.example. 1 7200 900 1209600 300\nexample. 60 IN NS ns1.example.\nns1.example. "
                ."60 IN A 192.0.2.1\n",
        );
    file_put_contents($file, $out);
    expect(hpost(['zone:check', $file, '--origin=example.'])[0])->toBe(0)
        ->and(hpost(['zone:print', $file, '--origin=example'])[1])->toBe($out);
});

it('tells what turns one zone file into another, however they are written', function (): void {
    $a = (string) tempnam(sys_get_temp_dir(), 'zone');
    $b = (string) tempnam(sys_get_temp_dir(), 'zone');
    file_put_contents($a, "\$TTL 60\n@ SOA ns1 host 1 7200 900 1209600 300\n@ NS ns1\nns1 A 192.0.2.1\nwww A 192.0.2.3\n");
    file_put_contents(
        $b,
        "www.example. 60 IN A 192.0.2.4\nEXAMPLE. 60 SOA ns1.example. host.example. ( 1 2h\n 15m 2w 5m )\n@ 60 NS ns1\nns1 60 "
            ."IN A 192.0.2.1\n",
    );
    [$status, $out] = hpost(['zone:diff', $a, $b, '--origin=example']);
    expect($status)->toBe(1)->and($out)->toBe("- www.example. 60 IN A 192.0.2.3\n+ www.example. 60 IN A 192.0.2.4\n")
        ->and(hpost(['zone:diff', $a, $a, '--origin=example', '--json']))->toBe([0, "{\"removed\":[],\"added\":[]}\n", '']);
    file_put_contents($b, "@ 60 A 192.0.2.300\n");
    expect(hpost(['zone:diff', $a, $b, '--origin=example'])[0])->toBe(2)
        ->and(hpost(['zone:diff', $a, '/no/file', '--origin=example'])[2])->toContain('no file');
});

it('names the reverse zones of a prefix, and what an RFC 2317 parent needs', function (): void {
    expect(hpost(['dns:reverse', '10.1.0.0/23'])[1])->toBe("0.1.10.in-addr.arpa.\n1.1.10.in-addr.arpa.\n")
        ->and(hpost(['dns:reverse', '2001:db8:4b00::/40'])[1])->toBe("b.4.8.b.d.0.1.0.0.2.ip6.arpa.\n");
    // RFC 2317 §4 in its slash form
    $out = json_decode(hpost(['dns:reverse', '192.0.2.64/26', '--json'])[1], true);
    expect($out)->toMatchArray(['zones' => ['64/26.2.0.192.in-addr.arpa.'], 'parent' => '2.0.192.in-addr.arpa.'])
        ->and($out['aliases'])->toHaveCount(64)
        ->and($out['aliases'][1])->toBe('65.2.0.192.in-addr.arpa. CNAME 65.64/26.2.0.192.in-addr.arpa.')
        ->and(hpost(['dns:reverse', '10.0.0.1/8'])[0])->toBe(2);
});

it('encodes and decodes options', function (): void {
    expect(hpost(['option:encode', '121', '198.51.100.0/24 192.0.2.50'])[1])->toBe("18 c6 33 64 c0 00 02 32\n")
        ->and(hpost(['option:encode', '43', '241=address:192.0.2.10,192.0.2.11'])[1])
        ->toBe("f1 08 c0 00 02 0a c0 00 02 0b\n")
        ->and(hpost(['option:encode', '2', '--', '-3600'])[1])->toBe("ff ff f1 f0\n")
        ->and(json_decode(hpost(['option:decode', '6', 'c0000235', '--json'])[1], true))
        ->toBe(['code' => 6, 'name' => 'domain name servers', 'hex' => 'c0 00 02 35', 'values' => ['192.0.2.53']]);
});

it('signs a zone file, and audits what it signed', function (string $denial, string $algorithm): void {
    $folder = sys_get_temp_dir().'/hpost-sign-'.bin2hex(random_bytes(3));
    mkdir($folder);
    $zone = "quay.example. 3600 SOA ns1 host 5 7200 900 1209600 300\nquay.example. NS ns1\nns1 A 192.0.2.1\n*.w TXT \"any\"\n"
        ."a.b.c A 192.0.2.2\nsub NS ns.sub\nns.sub A 192.0.2.3\n";
    file_put_contents("$folder/zone", $zone);
    file_put_contents("$folder/key", hpost(['dnssec:key', $algorithm])[1]);
    $sign = ['dnssec:sign', "$folder/zone", '--origin=quay.example', "--ksk=$folder/key", "--denial=$denial"];
    [$status, $out, $err] = hpost($sign);
    expect($status)->toBe(0)->and($err)->toContain('records were added; the parent\'s DS: ')->and($out)->toContain(' RRSIG SOA ');
    file_put_contents("$folder/signed", $out);
    $audit = fn (): array => hpost(['zone:check', "$folder/signed", '--origin=quay.example', '--signed', '--json']);
    $signed = fn (): array => array_values(array_filter(
        json_decode($audit()[1], true)['findings'],
        fn (array $f): bool => in_array(
            $f['code'],
            ['signature', 'denial-missing', 'denial-wrong', 'denial-odd', 'no-keys', 'nsec3-costly'],
            true,
        ),
    ));
    expect($signed())->toBe([]);
    // A record that somebody adds is not signed, and is not in the chain; one that is changed does not fit its signature.
    file_put_contents("$folder/signed", str_replace('192.0.2.2', '192.0.2.9', $out)."zz.quay.example. 300 IN A 192.0.2.8\n");
    $found = array_map(fn (array $f): string => "$f[code] $f[owner] $f[type]", $signed());
    expect($found)->toContain('signature a.b.c.quay.example. A')->toContain('signature zz.quay.example. A')
        ->and(implode(' ', $found))->toContain('denial-missing');
    // Lines of another implementation's reader: it finds the same records.
    file_put_contents("$folder/signed", $out);
    exec(
        "/usr/bin/python3 -c \"import dns.zone;z=dns.zone.from_file('$folder/signed','quay.example.');print(sum(len(r) for _,n in "
            .'z.items() for r in n))"',
        $said,
    );
    expect((int) $said[0])->toBe(substr_count($out, "\n"));
    exec('rm -rf '.escapeshellarg($folder));
})->with([['nsec', '13'], ['nsec3', '15'], ['nsec3-opt-out', '8']]);

it('says what is not understood when it signs and validates', function (): void {
    expect(hpost(['dnssec:key', '5'])[0])->toBe(2)
        ->and(hpost(['dnssec:sign', '/nowhere', '--origin=a.example'])[0])->toBe(2)
        ->and(hpost(['dnssec:validate', 'a..b', '--server=127.0.0.1:9'])[0])->toBe(2)
        ->and(hpost(['dnssec:validate', 'a.example', '--server=127.0.0.1:9'])[0])->toBe(1)
        ->and(hpost(['dnssec:validate', 'a.example', '--server=nobody'])[0])->toBe(2)
        ->and(hpost(['dnssec:keys', 'none.example'])[0])->toBe(1);
});
