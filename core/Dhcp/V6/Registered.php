<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** The registered DHCPv6 options: rows for {@see \HarborPost\Core\Dhcp\Option\OptionTable}. */
final class Registered
{
    /** code => [name, shape, standard] */
    public const ROWS = [
        1 => ['client identifier', 'opaque', 'RFC 8415 §21.2'],
        2 => ['server identifier', 'opaque', 'RFC 8415 §21.3'],
        3 => ['identity association of addresses', 'opaque', 'RFC 8415 §21.4'],
        4 => ['identity association of temporary addresses', 'opaque', 'RFC 8415 §21.5'],
        5 => ['leased address', 'opaque', 'RFC 8415 §21.6'],
        6 => ['option request', 'uint16s', 'RFC 8415 §21.7'],
        7 => ['preference', 'uint8', 'RFC 8415 §21.8'],
        8 => ['elapsed time', 'uint16', 'RFC 8415 §21.9'],
        9 => ['relayed message', 'opaque', 'RFC 8415 §21.10'],
        11 => ['authentication', 'opaque', 'RFC 8415 §21.11'],
        12 => ['server unicast', 'address6', 'RFC 8415 §21.12'],
        13 => ['status code', 'opaque', 'RFC 8415 §21.13'],
        14 => ['rapid commit', 'present', 'RFC 8415 §21.14'],
        15 => ['user class', 'opaque', 'RFC 8415 §21.15'],
        16 => ['vendor class', 'opaque', 'RFC 8415 §21.16'],
        17 => ['vendor-specific information', 'enterprise6', 'RFC 8415 §21.17'],
        18 => ['interface identifier', 'opaque', 'RFC 8415 §21.18'],
        19 => ['reconfigure message', 'uint8', 'RFC 8415 §21.19'],
        20 => ['reconfigure accept', 'present', 'RFC 8415 §21.20'],
        21 => ['SIP servers, by name', 'plain-names', 'RFC 3319 §3.1'],
        22 => ['SIP servers, by address', 'addresses6', 'RFC 3319 §3.2'],
        23 => ['domain name servers', 'addresses6', 'RFC 3646 §3'],
        24 => ['domain search', 'plain-names', 'RFC 3646 §4'],
        25 => ['identity association of prefixes', 'opaque', 'RFC 8415 §21.21'],
        26 => ['delegated prefix', 'opaque', 'RFC 8415 §21.22'],
        27 => ['NIS servers', 'addresses6', 'RFC 3898 §3'],
        28 => ['NIS+ servers', 'addresses6', 'RFC 3898 §4'],
        29 => ['NIS domain', 'plain-names', 'RFC 3898 §5'],
        30 => ['NIS+ domain', 'plain-names', 'RFC 3898 §6'],
        31 => ['SNTP servers', 'addresses6', 'RFC 4075 §4'],
        32 => ['information refresh time', 'seconds', 'RFC 8415 §21.23'],
        33 => ['broadcast controllers, by name', 'plain-names', 'RFC 4280 §4.2'],
        34 => ['broadcast controllers, by address', 'addresses6', 'RFC 4280 §4.4'],
        36 => ['civic location', 'opaque', 'RFC 4776 §3.2'],
        37 => ['remote identifier of the relay', 'opaque', 'RFC 4649 §3'],
        38 => ['subscriber identifier of the relay', 'opaque', 'RFC 4580 §2'],
        39 => ['client FQDN', 'opaque', 'RFC 4704 §4'],
        40 => ['PANA agents', 'addresses6', 'RFC 5192 §4'],
        41 => ['time zone, POSIX', 'text', 'RFC 4833 §3'],
        42 => ['time zone, database', 'text', 'RFC 4833 §3'],
        43 => ['echo request', 'uint16s', 'RFC 4994 §4'],
        44 => ['query', 'opaque', 'RFC 5007 §4.1.2'],
        45 => ['client data', 'opaque', 'RFC 5007 §4.1.2'],
        46 => ['time since the client was last heard', 'seconds', 'RFC 5007 §4.1.2'],
        47 => ['relay data', 'opaque', 'RFC 5007 §4.1.2'],
        48 => ['links of the client', 'addresses6', 'RFC 5007 §4.1.2'],
        51 => ['LoST server', 'plain-names', 'RFC 5223 §4'],
        52 => ['CAPWAP controllers', 'addresses6', 'RFC 5417 §3'],
        53 => ['relay identifier', 'opaque', 'RFC 5460 §5.4.1'],
        54 => ['mobility servers, by address', 'suboptions6', 'RFC 5678 §4'],
        55 => ['mobility servers, by name', 'suboptions6', 'RFC 5678 §5'],
        56 => ['NTP servers', 'suboptions6', 'RFC 5908 §4'],
        57 => ['access network domain', 'plain-names', 'RFC 5986 §3.2'],
        58 => ['SIP configuration domains', 'plain-names', 'RFC 6011 §4.2'],
        59 => ['boot file', 'text', 'RFC 5970 §3.1'],
        60 => ['boot file parameters', 'opaque', 'RFC 5970 §3.2'],
        61 => ['client architecture', 'uint16s', 'RFC 5970 §3.3'],
        62 => ['client network interface', 'opaque', 'RFC 5970 §3.4'],
        63 => ['coordinates', 'opaque', 'RFC 6225 §2.1'],
        64 => ['AFTR name', 'plain-names', 'RFC 6334 §3'],
        65 => ['ERP local domain', 'plain-names', 'RFC 6440 §4'],
        66 => ['options of the relay for the client', 'opaque', 'RFC 6422 §4'],
        67 => ['prefix excluded from the delegated one', 'opaque', 'RFC 6603 §4.2'],
        68 => ['virtual subnet', 'opaque', 'RFC 6607 §3.2'],
        74 => ['selection of name servers', 'opaque', 'RFC 6731 §4.2'],
        79 => ['link-layer address of the client', 'opaque', 'RFC 6939 §4'],
        82 => ['longest pause between solicitations', 'seconds', 'RFC 8415 §21.24'],
        83 => ['longest pause between information requests', 'seconds', 'RFC 8415 §21.25'],
        86 => ['PCP servers', 'addresses6', 'RFC 7291 §4.1'],
        88 => ['servers of DHCPv4 over DHCPv6', 'maybe-addresses6', 'RFC 7341 §7.2'],
        103 => ['captive portal', 'text', 'RFC 8910 §2.2'],
        112 => ['MUD address', 'text', 'RFC 8520 §10.2'],
        141 => ['DOTS reference identifier', 'plain-names', 'RFC 8973 §5.1'],
        142 => ['DOTS addresses', 'addresses6', 'RFC 8973 §5.2'],
        143 => ['ANDSF servers', 'addresses6', 'RFC 6153 §4'],
        144 => ['encrypted name servers', 'opaque', 'RFC 9463 §4.1'],
    ];

    /** Options that clients send to servers, or relays to servers, and no server to clients. */
    public const FROM_CLIENTS = [6, 8, 15, 16, 18, 37, 38, 44, 53, 61, 62, 112];

    /** code → the least value that its standard allows: IRT_MINIMUM, and the least of SOL_MAX_RT and INF_MAX_RT */
    public const LEAST = [32 => 600, 82 => 60, 83 => 60];
}
