<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\Base32;
use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Fault;
use HarborPost\Core\Dns\Dnssec\Signatures;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Standins\Dns\ServedZone;
use Tests\Core\Dns\Dnssec\SignedWorld;

$key = static fn (string $text): Dnskey => Dnskey::fromText(Fields::ofLine($text));

test('the signatures and digests of the standards are understood', function (
    string $owner,
    string $dnskey,
    int $tag,
    string $ds,
    string $record,
    string $rrsig,
    string $at,
) use ($key) {
    $public = $key($dnskey);
    $zone = Name::parse($owner);
    expect($public->tag())->toBe($tag);
    if ($ds !== '') {
        expect(SigningKey::dsOf($zone, $public, (int) explode(' ', $ds)[2])->text())->toBe($ds);
    }
    $set = RecordSet::of([Record::ofLine($record)]);
    $signature = Rrsig::fromText(Fields::ofLine($rrsig));
    expect(Signatures::fault($signature, $set, $public, $zone, strtotime($at)))->toBeNull()
        ->and(Signatures::fault($signature, $set, $public, $zone, $signature->expiration + 1))->toBe(Fault::Expired)
        ->and(Signatures::fault($signature, $set, $public, $zone, $signature->inception - 1))->toBe(Fault::NotYetValid)
        ->and($signature->text())->toBe(preg_replace('/\s+/', ' ', $rrsig));
    $wrong = $signature->withSignature(substr($signature->signature, 0, -1).chr(ord($signature->signature[-1]) ^ 1));
    expect(Signatures::fault($wrong, $set, $public, $zone, strtotime($at)))->toBe(Fault::NotVerified);
})->with([
    'RFC 8080 §6.1' => [
        'example.com.', '257 3 15 l02Woi0iS8Aa25FQkUd9RMzZHJpBoRQwAQEX1SxZJA4=', 3613,
        '3613 15 2 3aa5ab37efce57f737fc1627013fee07bdf241bd10f3b1964ab55c78e79a304b',
        'example.com. 3600 MX 10 mail.example.com.',
        'MX 15 2 3600 20150819220000 20150729220000 3613 example.com. oL9krJun7xfBOIWcGHi7mag5/hdZrKWw15jPGrHp'
            .'jQeRAvTdszaPD+QLs3fx8A4M3e23mRZ9VrbpMngwcrqNAg==',
        '2015-08-01',
    ],
    'RFC 6605 §6.1' => [
        'example.net.', '257 3 13 GojIhhXUN/u4v54ZQqGSnyhWJwaubCvTmeexv7bR6edbkrSqQpF64cYbcB7wNcP+e+MAnLr+Wi9xMWyQLc8NAA==', 55648,
        '55648 13 2 b4c8c1fe2e7477127b27115656ad6256f424625bf5c1e2770ce6d6e37df61d17',
        'www.example.net. 3600 A 192.0.2.1',
        'A 13 3 3600 20100909100439 20100812100439 55648 example.net. qx6wLYqmh+l9oCKTN6qIc+bw6ya+KJ8oMz0YP107'
            .'epXAyGmt+3SNruPFKG7tZoLBLlUzGGus7ZwmwWep666VCw==',
        '2010-09-01',
    ],
    'RFC 6605 §6.2' => [
        'example.net.',
        '257 3 14 xKYaNhWdGOfJ+nPrL8/arkwf2EY3MDJ+SErKivBVSum1w/egsXvSADtNJhyem5RCOpgQ6K8X1DRSEkrbYQ+OB+v8/uX4'
            .'5NBwY8rp65F6Glur8I/mlVNgF6W/qTI37m40',
        10771,
        '10771 14 4 72d7b62976ce06438e9c0bf319013cf801f09ecc84b8d7e9495f27e305c6a9b0563a9b5f4d288405c3008a946df983d6',
        'www.example.net. 3600 A 192.0.2.1',
        'A 14 3 3600 20100909102025 20100812102025 10771 example.net. /L5hDKIvGDyI1fcARX3z65qrmPsVz73QD1Mr5CEq'
            .'OiLP95hxQouuroGCeZOvzFaxsT8Glr74hbavRKayJNuydCuzWTSSPdz7wnqXL5bdcJzusdnI0RSMROxxwGipWcJm',
        '2010-09-01',
    ],
    'RFC 5702 §6.1' => [
        'example.net.',
        '256 3 8 AwEAAcFcGsaxxdgiuuGmCkVImy4h99CqT7jwY3pexPGcnUFtR2Fh36BponcwtkZ4cAgtvd4Qs8PkxUdp6p/DlUmObdk=', 9033, '',
        'www.example.net. 3600 A 192.0.2.91',
        'A 8 3 3600 20300101000000 20000101000000 9033 example.net. kRCOH6u7l0QGy9qpC9l1sLncJcOKFLJ7GhiUOibu4t'
            .'eYp5VE9RncriShZNz85mwlMgNEacFYK/lPtPiVYP4bwg==',
        '2026-01-01',
    ],
]);

test('a key whose signatures have no chance in them signs as the standard says', function () {
    $key = SigningKey::ofSecret(Algorithm::Ed25519, true, 'ODIyNjAzODQ2MjgwODAxMjI2NDUxOTAyMDQxNDIyNjI=');
    $set = RecordSet::of([Record::ofLine('example.com. 3600 MX 10 mail.example.com.')]);
    $made = Signatures::make($set, $key, Name::parse('example.com.'), 1438207200, 1440021600);
    expect($key->public->text())->toBe('257 3 15 l02Woi0iS8Aa25FQkUd9RMzZHJpBoRQwAQEX1SxZJA4=')
        ->and($made->data->text())->toEndWith('oL9krJun7xfBOIWcGHi7mag5/hdZrKWw15jPGrHpjQeRAvTdszaPD+QLs3fx8A4M3e23mRZ9VrbpMngwcrqNAg==');
});

test('digests by SHA-256 are those of RFC 4509 §2.3', function () use ($key) {
    $dnskey = $key('256 3 5 AQOeiiR0GOMYkDshWoSKz9XzfwJr1AYtsmx3TGkJaNXVbfi/2pHm822aJ5iI9BMzNXxeYCmZDRD99WYwYqUSdjMmmAphXdvx'
        .'egXd/M5+X7OrzKBaMbCVdFLUUh6DhweJBjEVv5f2wwjM9XzcnOf+EPbtG9DMBmADjFDc2w/rljwvFw==');
    expect(SigningKey::dsOf(Name::parse('dskey.example.com.'), $dnskey)->text())
        ->toBe('60485 5 2 d4b7d520e7bb5f0f67674a0cceb1e3e0614b93c4f9e99b8383f6a1e4469da50a');
});

test('names are hashed as in RFC 5155 appendix A', function (string $name, string $hash) {
    $bytes = Denial::hash(Name::parse($name), (string) hex2bin('aabbccdd'), 12);
    expect(Base32::Hex->encode($bytes))->toBe($hash)->and(Base32::Hex->decode(strtoupper($hash)))->toBe($bytes);
})->with([
    ['example.', '0p9mhaveqvm6t7vbl5lop2u3t2rp3tom'], ['a.example.', '35mthgpgcu1qg68fab165klnsnk3dpvl'],
    ['ai.example.', 'gjeqe526plbf1g8mklp59enfd789njgi'], ['ns1.example.', '2t7b4g4vsa5smi47k61mv5bv1a22bojr'],
    ['w.example.', 'k8udemvp1j2f7eg6jebps17vp3n8i58h'], ['*.w.example.', 'r53bq7cc2uvmubfu5ocmm6pers9tk9en'],
    ['x.w.example.', 'b4um86eghhds6nea196smvmlo4ors995'], ['X.Y.W.example.', '2vptu5timamqttgl4luu9kg21e0aor3s'],
    ['xx.example.', 't644ebqk9bibcna874givr6joj62mlhv'],
]);

test('what signing makes is read and written alike', function (string $line) {
    $record = Record::ofLine($line);
    expect(ServedZone::line($record))->toBe($line);
})->with([
    'alfa.example.com. 86400 NSEC host.example.com. A MX RRSIG NSEC TYPE1234',
    'example. 0 NSEC3PARAM 1 0 12 aabbccdd',
    '0p9mhaveqvm6t7vbl5lop2u3t2rp3tom.example. 300 NSEC3 1 1 12 aabbccdd 2t7b4g4vsa5smi47k61mv5bv1a22bojr NS S'
        .'OA MX RRSIG DNSKEY NSEC3PARAM',
    '2t7b4g4vsa5smi47k61mv5bv1a22bojr.example. 300 NSEC3 1 0 0 - 2vptu5timamqttgl4luu9kg21e0aor3s A RRSIG',
    'b4um86eghhds6nea196smvmlo4ors995.example. 300 NSEC3 1 0 0 - gjeqe526plbf1g8mklp59enfd789njgi',
]);

test('the bitmap of RFC 4034 §4.3 has the bytes that stand there', function () {
    $nsec = Record::ofLine('alfa.example.com. 86400 NSEC host.example.com. A MX RRSIG NSEC TYPE1234')->data;
    expect(bin2hex($nsec->wire()))->toBe('04686f7374076578616d706c6503636f6d00'.'0006400100000003'.'041b'.str_repeat('00', 26).'20');
});

test('data that is not sound is refused', function (string $line) {
    expect(fn () => Record::ofLine($line))->toThrow(HarborPost\Core\Dns\Malformed::class);
})->with([
    'a.example. 1 NSEC b.example. A NOTYPE', 'example. 1 NSEC3PARAM 1 0 0 abc',
    'h.example. 1 NSEC3 1 0 0 - xyz A', 'a.example. 1 RRSIG A 8 2 3600 20301301000000 20000101000000 1 example. AAAA',
    'a.example. 1 RRSIG A 8 2 3600 20300101000000 20000101000000 1 example.', 'a.example. 1 RRSIG BAD 8 2 1 1 1 1 example. AA==',
]);

test('an independent implementation believes what is signed here, and this one what is signed there', function () {
    $python = <<<'PY'
        import sys, dns.dnssec, dns.rrset, dns.name, dns.rdata
        for line in sys.stdin:
            zone, key, records, sig, now = line.rstrip("\n").split("|")
            z = dns.name.from_text(zone)
            keys = {z: dns.rrset.from_text(zone, 3600, "IN", "DNSKEY", key).to_rdataset()}
            rows = [r.split(" ", 3) for r in records.split(";")]
            rrset = dns.rrset.from_text_list(rows[0][0], int(rows[0][1]), "IN", rows[0][2], [r[3] for r in rows])
            rrsig = dns.rrset.from_text(rows[0][0], int(rows[0][1]), "IN", "RRSIG", sig)
            try:
                dns.dnssec.validate(rrset, rrsig, keys, None, float(now)); print("good")
            except dns.dnssec.ValidationFailure as e:
                print("bad %s" % e)
        PY;
    mt_srand(7);
    $lines = $expected = [];
    $zone = Name::parse('Kittiwake.example.');
    $keys = array_map(static fn (Algorithm $a): SigningKey => SigningKey::make($a, false, random_bytes(32)), Algorithm::cases());
    for ($i = 0; $i < 1000; $i++) {
        $key = $keys[$i % count($keys)];
        $owner = ['kittiwake.example.', 'a.kittiwake.example.', '*.kittiwake.example.', 'Q-'.mt_rand().'.X.kittiwake.example.'][$i % 4];
        $type = ['A', 'MX', 'TXT', 'NS', 'SRV', 'AAAA'][$i % 6];
        $data = static fn (): string => match ($type) {
            'A' => '10.'.mt_rand(0, 255).'.0.'.mt_rand(0, 255),
            'MX' => mt_rand(0, 65535).' Mail'.mt_rand(0, 9).'.Example.',
            'TXT' => '"'.bin2hex((string) mt_rand()).'" ""',
            'NS' => 'NS'.mt_rand(0, 99).'.example.',
            'SRV' => '0 0 '.mt_rand(0, 65535).' Target.example.',
            default => '2001:db8::'.dechex(mt_rand(0, 65535)),
        };
        $records = array_map(static fn () => Record::ofLine("$owner 600 $type {$data()}"), range(1, mt_rand(1, 4)));
        $set = RecordSet::of($records);
        $rrsig = Signatures::make($set, $key, $zone, SignedWorld::NOW - 10, SignedWorld::NOW + 1000)->data;
        $good = $i % 10 !== 9;
        $text = $good ? $rrsig->text() : (clone $rrsig)->withSignature(strrev($rrsig->signature))->text();
        $lines[] = implode('|', [
            $zone, $key->public->text(), implode(';', array_map(ServedZone::line(...), $set->records)), $text, SignedWorld::NOW,
        ]);
        $expected[] = $good ? 'good' : 'bad';
    }
    $process = proc_open(['/usr/bin/python3', '-c', $python], [['pipe', 'r'], ['pipe', 'w']], $pipes);
    fwrite($pipes[0], implode("\n", $lines)."\n");
    fclose($pipes[0]);
    $said = array_map(static fn (string $l): string => substr($l, 0, 4), explode("\n", trim((string) stream_get_contents($pipes[1]))));
    expect(array_map(trim(...), $said))->toBe($expected);
    proc_close($process);
});
