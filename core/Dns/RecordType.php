<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** A record type: a number, with the mnemonic where the registry has one, `TYPE123` otherwise (RFC 3597 §5). */
final readonly class RecordType implements \Stringable
{
    public const A = 1;

    public const NS = 2;

    public const CNAME = 5;

    public const SOA = 6;

    public const PTR = 12;

    public const MX = 15;

    public const TXT = 16;

    public const AAAA = 28;

    public const SRV = 33;

    public const OPT = 41;

    public const HINFO = 13;

    public const RP = 17;

    public const LOC = 29;

    public const NAPTR = 35;

    public const CERT = 37;

    public const DNAME = 39;

    public const DS = 43;

    public const SSHFP = 44;

    public const RRSIG = 46;

    public const NSEC = 47;

    public const DNSKEY = 48;

    public const NSEC3 = 50;

    public const NSEC3PARAM = 51;

    public const TLSA = 52;

    public const SMIMEA = 53;

    public const CDS = 59;

    public const CDNSKEY = 60;

    public const DHCID = 49;

    public const OPENPGPKEY = 61;

    public const SVCB = 64;

    public const HTTPS = 65;

    public const EUI48 = 108;

    public const EUI64 = 109;

    public const URI = 256;

    public const IXFR = 251;

    public const AXFR = 252;

    public const ANY = 255;

    public const CAA = 257;

    /** Mnemonics of the registry that zone files use. */
    private const NAMES = [
        1 => 'A', 2 => 'NS', 5 => 'CNAME', 6 => 'SOA', 12 => 'PTR', 13 => 'HINFO', 15 => 'MX', 16 => 'TXT', 17 => 'RP', 18 => 'AFSDB',
        24 => 'SIG', 25 => 'KEY', 28 => 'AAAA', 29 => 'LOC', 33 => 'SRV', 35 => 'NAPTR', 36 => 'KX', 37 => 'CERT', 39 => 'DNAME',
        41 => 'OPT',
        42 => 'APL', 43 => 'DS', 44 => 'SSHFP', 45 => 'IPSECKEY', 46 => 'RRSIG', 47 => 'NSEC', 48 => 'DNSKEY', 49 => 'DHCID', 50 => 'NSEC3',
        51 => 'NSEC3PARAM', 52 => 'TLSA', 53 => 'SMIMEA', 55 => 'HIP', 59 => 'CDS', 60 => 'CDNSKEY', 61 => 'OPENPGPKEY', 62 => 'CSYNC',
        63 => 'ZONEMD', 64 => 'SVCB', 65 => 'HTTPS', 99 => 'SPF', 104 => 'NID', 105 => 'L32', 106 => 'L64', 107 => 'LP', 108 => 'EUI48',
        109 => 'EUI64', 249 => 'TKEY', 250 => 'TSIG', 251 => 'IXFR', 252 => 'AXFR', 255 => 'ANY', 256 => 'URI', 257 => 'CAA',
    ];

    private function __construct(public int $number)
    {
    }

    public static function of(int $number): self
    {
        /** @var array<int, self> $known */
        static $known = [];

        return $known[$number] ??= $number >= 0
            && $number <= 0xFFFF
                ? new self($number)
                : throw Malformed::because("a record type from 0 to 65535, not $number", 'RFC 1035 §3.2.2');
    }

    /** @throws Malformed when no standard type has that name */
    public static function parse(string $text): self
    {
        return self::tryParse($text) ?? throw Malformed::because("\"$text\" is no record type", 'RFC 3597 §5');
    }

    public static function tryParse(string $text): ?self
    {
        /** @var array<string, int> $numbers */
        static $numbers = [];
        $numbers = $numbers ?: array_flip(self::NAMES);
        $upper = strtoupper($text);
        if (isset($numbers[$upper])) {
            return self::of($numbers[$upper]);
        }

        return preg_match('/\ATYPE(\d{1,5})\z/', $upper, $m) === 1 && (int) $m[1] <= 0xFFFF ? self::of((int) $m[1]) : null;
    }

    /** Types that signing makes from the others: nobody writes them by hand (RFC 4034 §3, §4, RFC 5155 §3, §4). */
    public function isMadeBySigning(): bool
    {
        return in_array($this->number, [self::RRSIG, self::NSEC, self::NSEC3, self::NSEC3PARAM], true);
    }

    /** Types that records may have: not 0, not OPT, not those of questions and messages (RFC 6895 §3.1). */
    public function isData(): bool
    {
        return $this->number !== 0
            && $this->number !== self::OPT
            && ($this->number < 128 || $this->number > 255)
            && $this->number !== 0xFFFF;
    }

    public function equals(self $other): bool
    {
        return $this->number === $other->number;
    }

    public function compare(self $other): int
    {
        return $this->number <=> $other->number;
    }

    public function __toString(): string
    {
        return self::NAMES[$this->number] ?? "TYPE$this->number";
    }
}
