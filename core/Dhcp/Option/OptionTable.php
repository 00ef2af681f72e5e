<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\V6\Registered;
use HarborPost\Core\Net\Family;

/** The one table from code to shape for the registered options of both families; any other code is opaque bytes. */
final class OptionTable
{
    public const MASK = 1;

    public const ROUTER = 3;

    public const NAME_SERVERS = 6;

    public const HOST_NAME = 12;

    public const CLIENT_FQDN = 81;

    public const DOMAIN = 15;

    public const VENDOR = 43;

    public const REQUESTED_ADDRESS = 50;

    public const LEASE_TIME = 51;

    public const OVERLOAD = 52;

    public const MESSAGE_TYPE = 53;

    public const SERVER_ID = 54;

    public const PARAMETERS = 55;

    public const MESSAGE = 56;

    public const RENEWAL = 58;

    public const REBINDING = 59;

    public const CLIENT_ID = 61;

    public const RELAY_AGENT = 82;

    public const SEARCH = 119;

    public const ROUTES = 121;

    public const MESSAGE_TYPES = [
        1 => 'discover', 2 => 'offer', 3 => 'request', 4 => 'decline', 5 => 'ack', 6 => 'nak', 7 => 'release', 8 => 'inform',
    ];

    /** code => [name, shape, standard]; the shapes are listed in {@see shape()} */
    private const ROWS = [
        1 => ['subnet mask', 'address', 'RFC 2132 §3.3'],
        2 => ['time offset', 'int32', 'RFC 2132 §3.4'],
        3 => ['router', 'addresses', 'RFC 2132 §3.5'],
        4 => ['time servers', 'addresses', 'RFC 2132 §3.6'],
        5 => ['name servers, IEN 116', 'addresses', 'RFC 2132 §3.7'],
        6 => ['domain name servers', 'addresses', 'RFC 2132 §3.8'],
        7 => ['log servers', 'addresses', 'RFC 2132 §3.9'],
        8 => ['cookie servers', 'addresses', 'RFC 2132 §3.10'],
        9 => ['LPR servers', 'addresses', 'RFC 2132 §3.11'],
        10 => ['Impress servers', 'addresses', 'RFC 2132 §3.12'],
        11 => ['resource location servers', 'addresses', 'RFC 2132 §3.13'],
        12 => ['host name', 'text', 'RFC 2132 §3.14'],
        13 => ['boot file size', 'uint16', 'RFC 2132 §3.15'],
        14 => ['merit dump file', 'text', 'RFC 2132 §3.16'],
        15 => ['domain name', 'text', 'RFC 2132 §3.17'],
        16 => ['swap server', 'address', 'RFC 2132 §3.18'],
        17 => ['root path', 'text', 'RFC 2132 §3.19'],
        18 => ['extensions path', 'text', 'RFC 2132 §3.20'],
        19 => ['IP forwarding', 'flag', 'RFC 2132 §4.1'],
        20 => ['non-local source routing', 'flag', 'RFC 2132 §4.2'],
        21 => ['policy filters', 'pairs', 'RFC 2132 §4.3'],
        22 => ['maximum datagram reassembly size', 'uint16', 'RFC 2132 §4.4'],
        23 => ['default IP time to live', 'uint8', 'RFC 2132 §4.5'],
        24 => ['path MTU aging timeout', 'seconds', 'RFC 2132 §4.6'],
        25 => ['path MTU plateau table', 'uint16s', 'RFC 2132 §4.7'],
        26 => ['interface MTU', 'uint16', 'RFC 2132 §5.1'],
        27 => ['all subnets are local', 'flag', 'RFC 2132 §5.2'],
        28 => ['broadcast address', 'address', 'RFC 2132 §5.3'],
        29 => ['perform mask discovery', 'flag', 'RFC 2132 §5.4'],
        30 => ['mask supplier', 'flag', 'RFC 2132 §5.5'],
        31 => ['perform router discovery', 'flag', 'RFC 2132 §5.6'],
        32 => ['router solicitation address', 'address', 'RFC 2132 §5.7'],
        33 => ['static routes', 'pairs', 'RFC 2132 §5.8'],
        34 => ['trailer encapsulation', 'flag', 'RFC 2132 §6.1'],
        35 => ['ARP cache timeout', 'seconds', 'RFC 2132 §6.2'],
        36 => ['Ethernet encapsulation', 'flag', 'RFC 2132 §6.3'],
        37 => ['TCP default time to live', 'uint8', 'RFC 2132 §7.1'],
        38 => ['TCP keepalive interval', 'seconds', 'RFC 2132 §7.2'],
        39 => ['TCP keepalive garbage', 'flag', 'RFC 2132 §7.3'],
        40 => ['NIS domain', 'text', 'RFC 2132 §8.1'],
        41 => ['NIS servers', 'addresses', 'RFC 2132 §8.2'],
        42 => ['NTP servers', 'addresses', 'RFC 2132 §8.3'],
        43 => ['vendor-specific information', 'suboptions', 'RFC 2132 §8.4'],
        44 => ['NetBIOS name servers', 'addresses', 'RFC 2132 §8.5'],
        45 => ['NetBIOS datagram distribution servers', 'addresses', 'RFC 2132 §8.6'],
        46 => ['NetBIOS node type', 'uint8', 'RFC 2132 §8.7'],
        47 => ['NetBIOS scope', 'text', 'RFC 2132 §8.8'],
        48 => ['X font servers', 'addresses', 'RFC 2132 §8.9'],
        49 => ['X display managers', 'addresses', 'RFC 2132 §8.10'],
        50 => ['requested address', 'address', 'RFC 2132 §9.1'],
        51 => ['lease time', 'seconds', 'RFC 2132 §9.2'],
        52 => ['option overload', 'uint8', 'RFC 2132 §9.3'],
        53 => ['message type', 'message', 'RFC 2132 §9.6'],
        54 => ['server identifier', 'address', 'RFC 2132 §9.7'],
        55 => ['parameter request list', 'uint8s', 'RFC 2132 §9.8'],
        56 => ['message', 'text', 'RFC 2132 §9.9'],
        57 => ['maximum message size', 'uint16', 'RFC 2132 §9.10'],
        58 => ['renewal time T1', 'seconds', 'RFC 2132 §9.11'],
        59 => ['rebinding time T2', 'seconds', 'RFC 2132 §9.12'],
        60 => ['vendor class identifier', 'text', 'RFC 2132 §9.13'],
        61 => ['client identifier', 'opaque', 'RFC 2132 §9.14'],
        64 => ['NIS+ domain', 'text', 'RFC 2132 §8.11'],
        65 => ['NIS+ servers', 'addresses', 'RFC 2132 §8.12'],
        66 => ['TFTP server name', 'text', 'RFC 2132 §9.4'],
        67 => ['boot file name', 'text', 'RFC 2132 §9.5'],
        68 => ['mobile IP home agents', 'maybe-addresses', 'RFC 2132 §8.13'],
        69 => ['SMTP servers', 'addresses', 'RFC 2132 §8.14'],
        70 => ['POP3 servers', 'addresses', 'RFC 2132 §8.15'],
        71 => ['NNTP servers', 'addresses', 'RFC 2132 §8.16'],
        72 => ['WWW servers', 'addresses', 'RFC 2132 §8.17'],
        73 => ['Finger servers', 'addresses', 'RFC 2132 §8.18'],
        74 => ['IRC servers', 'addresses', 'RFC 2132 §8.19'],
        75 => ['StreetTalk servers', 'addresses', 'RFC 2132 §8.20'],
        76 => ['StreetTalk directory assistance servers', 'addresses', 'RFC 2132 §8.21'],
        77 => ['user class', 'opaque', 'RFC 3004 §4'],
        81 => ['client FQDN', 'opaque', 'RFC 4702 §2'],
        82 => ['relay agent information', 'relay', 'RFC 3046 §2'],
        93 => ['client architecture', 'uint16s', 'RFC 4578 §2.1'],
        97 => ['client machine identifier', 'opaque', 'RFC 4578 §2.3'],
        100 => ['time zone, POSIX', 'text', 'RFC 4833 §2'],
        101 => ['time zone, database', 'text', 'RFC 4833 §2'],
        108 => ['IPv6-only preferred', 'seconds', 'RFC 8925 §3.1'],
        114 => ['captive portal', 'text', 'RFC 8910 §2.1'],
        116 => ['auto-configure', 'flag', 'RFC 2563 §2'],
        118 => ['subnet selection', 'address', 'RFC 3011 §2'],
        119 => ['domain search', 'names', 'RFC 3397 §2'],
        121 => ['classless static routes', 'routes', 'RFC 3442'],
        120 => ['SIP servers', 'sip', 'RFC 3361 §3'], 124 => ['vendor class, by enterprise', 'opaque', 'RFC 3925 §3'],
        125 => ['vendor information, by enterprise', 'enterprises', 'RFC 3925 §4'],
        138 => ['CAPWAP controllers', 'addresses', 'RFC 5417 §2'],
        150 => ['TFTP server addresses', 'addresses', 'RFC 5859 §3'],
        62 => ['NetWare/IP domain', 'text', 'RFC 2242 §2'],
        63 => ['NetWare/IP information', 'suboptions', 'RFC 2242 §3'],
        78 => ['SLP directory agents', 'opaque', 'RFC 2610 §3'],
        79 => ['SLP service scope', 'opaque', 'RFC 2610 §4'],
        80 => ['rapid commit', 'present', 'RFC 4039 §4'],
        83 => ['iSNS servers', 'opaque', 'RFC 4174 §2'],
        85 => ['NDS servers', 'addresses', 'RFC 2241 §2'],
        86 => ['NDS tree', 'text', 'RFC 2241 §3'],
        87 => ['NDS context', 'text', 'RFC 2241 §4'],
        88 => ['broadcast controllers, by name', 'names', 'RFC 4280 §4.1'],
        89 => ['broadcast controllers, by address', 'addresses', 'RFC 4280 §4.3'],
        90 => ['authentication', 'opaque', 'RFC 3118 §2'],
        91 => ['time since the last transaction', 'seconds', 'RFC 4388 §6.1'],
        92 => ['associated addresses', 'addresses', 'RFC 4388 §6.1'],
        94 => ['client network interface', 'opaque', 'RFC 4578 §2.2'],
        95 => ['LDAP servers', 'text', 'RFC 3679 §3.1'],
        98 => ['user authentication servers', 'text', 'RFC 2485 §2'],
        99 => ['civic location', 'opaque', 'RFC 4776 §3.1'],
        112 => ['NetInfo servers', 'addresses', 'RFC 3679 §3.2'],
        113 => ['NetInfo tag', 'text', 'RFC 3679 §3.2'],
        117 => ['name service search order', 'uint16s', 'RFC 2937 §2'],
        122 => ['cable client configuration', 'suboptions', 'RFC 3495 §4'],
        123 => ['coordinates', 'opaque', 'RFC 6225 §2.2'],
        136 => ['PANA agents', 'addresses', 'RFC 5192 §3'],
        137 => ['LoST server', 'names', 'RFC 5223 §3'],
        139 => ['mobility servers, by address', 'suboptions', 'RFC 5678 §2'],
        140 => ['mobility servers, by name', 'suboptions', 'RFC 5678 §3'],
        141 => ['SIP configuration domains', 'names', 'RFC 6011 §4.1'],
        142 => ['ANDSF servers', 'addresses', 'RFC 6153 §3'],
        144 => ['coordinates with uncertainty', 'opaque', 'RFC 6225 §2.2'],
        145 => ['forced renewal with a nonce', 'uint8s', 'RFC 6704 §3.1.2'],
        146 => ['selection of name servers', 'opaque', 'RFC 6731 §4.3'],
        147 => ['DOTS reference identifier', 'names', 'RFC 8973 §5.1'],
        148 => ['DOTS addresses', 'addresses', 'RFC 8973 §5.2'],
        151 => ['status code', 'opaque', 'RFC 6926 §6.2.2'],
        152 => ['base time', 'seconds', 'RFC 6926 §6.2.3'],
        153 => ['start time of the state', 'seconds', 'RFC 6926 §6.2.4'],
        154 => ['start time of the query', 'seconds', 'RFC 6926 §6.2.5'],
        155 => ['end time of the query', 'seconds', 'RFC 6926 §6.2.6'],
        156 => ['state of the lease', 'uint8', 'RFC 6926 §6.2.7'],
        157 => ['source of the data', 'uint8', 'RFC 6926 §6.2.8'],
        158 => ['PCP servers', 'opaque', 'RFC 7291 §4'],
        159 => ['port parameters', 'opaque', 'RFC 7618 §9'],
        161 => ['MUD address', 'text', 'RFC 8520 §10.1'],
        162 => ['encrypted name servers', 'opaque', 'RFC 9463 §5.1'],
        209 => ['configuration file of the boot loader', 'text', 'RFC 5071 §4'],
        210 => ['path of the boot loader', 'text', 'RFC 5071 §5'],
        211 => ['reboot time of the boot loader', 'seconds', 'RFC 5071 §6'],
        208 => ['boot loader mark', 'opaque', 'RFC 5071 §3'],
        212 => ['6rd', 'opaque', 'RFC 5969 §7.1.1'],
        213 => ['access network domain', 'names', 'RFC 5986 §3.1'],
        220 => ['subnet allocation', 'opaque', 'RFC 6656 §3'],
        221 => ['virtual subnet', 'opaque', 'RFC 6607 §3.1'],
    ];

    /** Options that clients send to servers, and no server to clients. */
    /** What relays say of a client inside option 82. */
    private const OF_RELAYS = [
        1 => 'circuit id', 2 => 'remote id', 4 => 'device class', 5 => 'link selection', 6 => 'subscriber id', 7 => 'RADIUS attributes',
        8 => 'authentication', 9 => 'vendor information', 10 => 'relay flags', 11 => 'server identifier override', 12 => 'relay id',
        13 => 'access technology', 14 => 'access network', 15 => 'access point', 16 => 'access point BSSID', 17 => 'operator',
        18 => 'operator realm', 19 => 'source port', 20 => 'link with a MUD', 151 => 'virtual subnet selection',
        152 => 'virtual subnet control',
    ];

    private const FROM_CLIENTS = [50, 55, 57, 60, 61, 77, 81, 93, 94, 97, 98, 118, 124, 145, 161];

    /** code → the least value that its standard allows */
    private const LEAST = [22 => 576, 23 => 1, 25 => 68, 26 => 68, 37 => 1];

    /** How raw bytes are written in place of values of any option. */
    public const RAW = '0x';

    public static function isFromClients(int $code, Family $family = Family::V4): bool
    {
        return in_array($code, $family === Family::V4 ? self::FROM_CLIENTS : Registered::FROM_CLIENTS, true);
    }

    /** @param  list<string>  $values */
    public static function belowLeast(int $code, array $values, Family $family = Family::V4): ?int
    {
        $least = ($family === Family::V4 ? self::LEAST : Registered::LEAST)[$code] ?? null;
        foreach ($least === null ? [] : $values as $value) {
            if (is_numeric($value) && (int) $value < $least) {
                return $least;
            }
        }

        return null;
    }

    /**
     * What somebody typed, cut into values as the option's shape has them: a text is one value, whatever stands in it.
     *
     * @return list<string>
     */
    public static function split(int $code, string $text, Family $family = Family::V4): array
    {
        return self::splitAs(self::definition($code, $family)->shape, $text);
    }

    /** @return list<string> */
    public static function splitAs(ValueShape $shape, string $text): array
    {
        $text = trim($text);
        $apart = match (true) {
            $shape instanceof Text, $shape instanceof Opaque, str_starts_with($text, self::RAW) => null,
            $shape instanceof SubOptions, $shape instanceof Enterprises => '/\R+/',
            $shape instanceof Routes, $shape instanceof AddressPairs => '/\s*[,;\r\n]+\s*/',
            default => '/[\s,;]+/',
        };

        return $apart === null ? ($text === '' ? [] : [$text]) : (preg_split($apart, $text, -1, PREG_SPLIT_NO_EMPTY) ?: []);
    }

    public static function definition(int $code, Family $family = Family::V4): Definition
    {
        $most = self::most($family);
        if ($code < 1 || $code > $most) {
            throw BadOption::value((string) $code, "an option code from 1 to $most");
        }
        [$name, $shape, $standard] = self::rows($family)[$code]
            ?? ['option '.$code, 'opaque', $family === Family::V4 ? 'RFC 2132' : 'RFC 8415 §21'];

        return new Definition($code, $name, self::shape($shape), $standard);
    }

    public static function isRegistered(int $code, Family $family = Family::V4): bool
    {
        return isset(self::rows($family)[$code]);
    }

    /** @return list<Definition> */
    public static function all(Family $family = Family::V4): array
    {
        return array_map(static fn (int $code): Definition => self::definition($code, $family), array_keys(self::rows($family)));
    }

    /** The highest code: one byte in DHCPv4, two in DHCPv6. */
    public static function most(Family $family): int
    {
        return $family === Family::V4 ? 254 : 65535;
    }

    /**
     * @param  list<string>  $values
     *
     * @throws BadOption
     */
    public static function encode(int $code, array $values, Family $family = Family::V4): string
    {
        try {
            return count($values) === 1
                && str_starts_with($values[0], self::RAW)
                    ? (new Opaque)->encode([substr($values[0], 2)])
                    : self::definition($code, $family)->shape->encode($values);
        } catch (BadOption $e) {
            throw $e->ofCode($code);
        }
    }

    /**
     * @return list<string>
     *
     * @throws BadOption
     */
    public static function decode(int $code, string $payload, Family $family = Family::V4): array
    {
        try {
            return self::definition($code, $family)->shape->decode($payload);
        } catch (BadOption $e) {
            throw $e->ofCode($code);
        }
    }

    /** Values for people; bytes that do not have the shape are shown as hex with the fault. */
    public static function meaning(int $code, string $payload, Family $family = Family::V4): string
    {
        try {
            return implode(', ', self::decode($code, $payload, $family));
        } catch (BadOption $e) {
            return Hex::spaced($payload)." ({$e->getMessage()})";
        }
    }

    /** @return array<int, array{string, string, string}> */
    private static function rows(Family $family): array
    {
        return $family === Family::V4 ? self::ROWS : Registered::ROWS;
    }

    private static function shape(string $shape): ValueShape
    {
        return match ($shape) {
            'address6' => new Addresses(one: true, family: Family::V6),
            'addresses6' => new Addresses(family: Family::V6),
            'maybe-addresses6' => new Addresses(mayBeEmpty: true, family: Family::V6),
            'plain-names' => new Names(compressed: false),
            'suboptions6' => new SubOptions(Family::V6),
            'enterprise6' => new Enterprise6,
            'address' => new Addresses(one: true),
            'addresses' => new Addresses,
            'maybe-addresses' => new Addresses(mayBeEmpty: true),
            'pairs' => new AddressPairs,
            'text' => new Text,
            'uint8' => new Numbers(1),
            'uint8s' => new Numbers(1, false),
            'uint16' => new Numbers(2),
            'uint16s' => new Numbers(2, false),
            'int32' => new Numbers(4, signed: true),
            'seconds' => new Numbers(4, unit: 'seconds'),
            'flag' => new Numbers(1, names: [0 => 'off', 1 => 'on']),
            'message' => new Numbers(1, names: self::MESSAGE_TYPES),
            'routes' => new Routes,
            'names' => new Names,
            'present' => new Present,
            'suboptions' => new SubOptions,
            'relay' => new SubOptions(names: self::OF_RELAYS),
            'sip' => new SipServers,
            'enterprises' => new Enterprises,
            default => new Opaque,
        };
    }
}
