<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Names;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** The name of a client in a zone: what it says of itself, its first label made one that a host may have; or a pattern. */
final readonly class LeaseName
{
    /** What a pattern may hold, with what stands there then. */
    public const PARTS = [
        '{a}' => 'first octet', '{b}' => 'second', '{c}' => 'third', '{d}' => 'fourth', '{mac}' => 'the MAC address',
        '{h}' => 'the address in hexadecimal, of IPv6 its last 64 bits',
    ];

    /** @throws Malformed when the pattern gives no label of a host, or the same one to several clients */
    public static function checkPattern(string $pattern, Family $family = Family::V4): void
    {
        $tried = strtr($pattern, ['{a}' => '255', '{b}' => '255', '{c}' => '255', '{d}' => '255', '{mac}' => '00005e0053ff',
            '{h}' => 'ffffffffffffffff']);
        if (preg_match('/\A[a-z0-9]([a-z0-9-]*[a-z0-9])?\z/i', $tried) !== 1 || strlen($tried) > 63) {
            throw Malformed::because("\"$pattern\" gives no label of a host, from a letter or digit to a letter or digit", 'RFC 1123 §2.1');
        }
        if ($family === Family::V6) {
            if (! str_contains($pattern, '{h}') || preg_match('/\{(?:[a-d]|mac)\}/', $pattern) === 1) {
                throw Malformed::because('the pattern of an IPv6 scope needs {h}: there are no octets, and a DUID need not tell a MAC',
                    'RFC 8415 §11');
            }

            return;
        }
        if (str_contains($pattern, '{h}')) {
            return;
        }
        if (! str_contains($pattern, '{mac}') && ! (str_contains($pattern, '{d}') && str_contains($pattern, '{c}'))) {
            throw Malformed::because('the pattern gives the same name to several clients: it needs {mac}, or {c} and {d}', 'RFC 4703 §5');
        }
    }

    /**
     * @param  string  $said  what the client calls itself; only its first label counts
     * @param  string  $pattern  empty for none
     * @param  string  $mac  twelve hexadecimal digits, empty when it is not known
     * @return ?Name null when nothing can be made of it
     */
    public static function of(string $said, string $pattern, Address $address, string $mac, Name $zone): ?Name
    {
        $label = strtolower(explode('.', $said)[0]);
        $label = trim(substr(trim((string) preg_replace('/[^a-z0-9-]+/', '-', $label), '-'), 0, 63), '-');
        if ($label === '' && $pattern !== '') {
            $octets = array_map(ord(...), str_split($address->bytes));
            $label = strtr($pattern, [
                '{a}' => (string) $octets[0], '{b}' => (string) ($octets[1] ?? ''), '{c}' => (string) ($octets[2] ?? ''),
                '{d}' => (string) ($octets[3] ?? ''), '{mac}' => $mac, '{h}' => ltrim(bin2hex(substr($address->bytes, -8)), '0') ?: '0',
            ]);
        }
        try {
            return $label === '' ? null : Name::parse($label, $zone);
        } catch (Malformed) {
            return null;
        }
    }
}
