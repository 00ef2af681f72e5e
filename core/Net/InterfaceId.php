<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/** Ways to choose the last 64 bits of an IPv6 address in a /64. */
final class InterfaceId
{
    /**
     * Modified EUI-64 from a MAC (RFC 4291 appendix A): ff:fe in the middle, the universal bit turned.
     *
     * @throws NotUnderstood when the prefix is no /64
     */
    public static function eui64(Prefix $link, MacAddress $mac): Address
    {
        $b = $mac->bytes;

        return self::join($link, chr(ord($b[0]) ^ 0x02).substr($b, 1, 2)."\xff\xfe".substr($b, 3));
    }

    /**
     * Stable and opaque (RFC 7217 §5): the same host gets the same address in a network, and nobody can tell it from another network.
     *
     * @param  string  $interface  what names the interface, a MAC or a name
     * @param  string  $secret  at least 128 bits
     * @param  int  $counter  raised when the address is taken (§5, DAD_Counter)
     */
    public static function stable(Prefix $link, string $interface, string $secret, int $counter = 0, string $network = ''): Address
    {
        do {
            $hash = hash_hmac(
                'sha256',
                substr($link->first->bytes, 0, 8)
                    .pack('N', strlen($interface))
                    .$interface
                    .pack('N', strlen($network))
                    .$network
                    .pack('N', $counter++),
                $secret,
                true,
            );
            $id = substr($hash, -8);
        } while (self::isReserved($id));

        return self::join($link, $id);
    }

    /** Reserved interface identifiers (RFC 5453): subnet-router anycast, reserved subnet anycast, and the range of RFC 4941 §3.3. */
    public static function isReserved(string $id): bool
    {
        return $id === str_repeat("\0", 8) || str_starts_with($id, "\x02\x00\x5e\xff\xfe")
            || str_starts_with($id, "\xfd\xff\xff\xff\xff\xff\xff") && ord($id[7]) >= 0x80;
    }

    private static function join(Prefix $link, string $id): Address
    {
        if ($link->family() !== Family::V6 || $link->length !== 64) {
            throw NotUnderstood::at((string) $link, 0, 'an IPv6 /64');
        }

        return Address::fromBytes(substr($link->first->bytes, 0, 8).$id);
    }
}
