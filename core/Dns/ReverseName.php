<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Bits;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;

/** Names of the reverse tree: octets below in-addr.arpa (RFC 1035 §3.5), nibbles below ip6.arpa (RFC 3596 §2.5). */
final class ReverseName
{
    /** The owner of an address's PTR record. */
    public static function of(Address $address): Name
    {
        return self::zone($address, $address->family->bits());
    }

    /**
     * The zones on octet or nibble boundaries that together cover a prefix exactly; for IPv4 longer than /24 the one child
     * zone of RFC 2317, named by its first address and length.
     *
     * @return list<Name> in address order
     */
    public static function zones(Prefix $prefix): array
    {
        if ($prefix->family() === Family::V4 && $prefix->length > 24) {
            return [self::classless($prefix)];
        }
        $unit = self::unit($prefix->family());
        $length = intdiv($prefix->length + $unit - 1, $unit) * $unit;
        $zones = [];
        $at = $prefix->first;
        for ($i = 0; $i < 1 << ($length - $prefix->length); $i++) {
            $zones[] = self::zone($at, $length);
            $following = Bits::next($at->in($length)->last()->bytes);
            if ($following === null) {
                break;
            }
            $at = Address::fromBytes($following);
        }

        return $zones;
    }

    /** `64/26.2.0.192.in-addr.arpa` for 192.0.2.64/26 (RFC 2317 §4). */
    public static function classless(Prefix $prefix): Name
    {
        return self::zone($prefix->first, 24)->prepend(ord($prefix->first->bytes[3]).'/'.$prefix->length);
    }

    /** The zone on the next boundary up that holds a whole prefix: for a /20 that of its /16, for a /26 that of its /24. */
    public static function around(Prefix $prefix): Name
    {
        $unit = self::unit($prefix->family());
        $most = $prefix->family() === Family::V4 ? 24 : 128;

        return self::zone($prefix->first, min($most, intdiv($prefix->length, $unit) * $unit));
    }

    /** The owner of an address's PTR in a zone: below an RFC 2317 child it is the last octet, elsewhere the full reverse name. */
    public static function inZone(Address $address, Name $zone): Name
    {
        $child = self::prefixOf($zone);

        return $child !== null
            && $child->family() === Family::V4
            && $child->length > 24
            && str_contains($zone->labels()[0], '/')
            && $child->contains($address)
            ? $zone->prepend((string) ord($address->bytes[3])) : self::of($address);
    }

    /**
     * The prefix that a name of the reverse tree stands for, RFC 2317 children included; null for any other name.
     */
    public static function prefixOf(Name $name): ?Prefix
    {
        $labels = array_map(strtolower(...), $name->labels());
        $root = implode('.', array_splice($labels, -2));
        $labels = array_reverse($labels);

        return match ($root) {
            'in-addr.arpa' => self::prefixOfOctets($labels),
            'ip6.arpa' => self::prefixOfNibbles($labels),
            default => null,
        };
    }

    /** The address whose PTR stands at a name, also below an RFC 2317 child; null for any other name. */
    public static function addressOf(Name $name): ?Address
    {
        $prefix = self::prefixOf($name);
        if ($prefix !== null && $prefix->length === $prefix->family()->bits() && ! str_contains($name->labels()[0], '/')) {
            return $prefix->first;
        }
        $child = $name->parent() === null ? null : self::prefixOf($name->parent());
        $last = $name->labels()[0] ?? '';
        if (
            $child === null
                || $child->family() !== Family::V4
                || $child->length <= 24
                || preg_match('/\A\d{1,3}\z/', $last) !== 1
                || (int) $last > 255
        ) {
            return null;
        }
        $address = Address::fromBytes(substr($child->first->bytes, 0, 3).chr((int) $last));

        return $child->contains($address) ? $address : null;
    }

    private static function zone(Address $address, int $length): Name
    {
        $units = $address->family === Family::V4
            ? array_map(static fn (string $b): string => (string) ord($b), str_split($address->bytes))
            : str_split(bin2hex($address->bytes));
        $kept = array_slice($units, 0, intdiv($length, self::unit($address->family)));

        return Name::ofLabels([...array_reverse($kept), $address->family === Family::V4 ? 'in-addr' : 'ip6', 'arpa']);
    }

    private static function unit(Family $family): int
    {
        return $family === Family::V4 ? 8 : 4;
    }

    /** @param  list<string>  $labels  from the top down */
    private static function prefixOfOctets(array $labels): ?Prefix
    {
        $bytes = '';
        foreach ($labels as $i => $label) {
            if ($i === 3 && count($labels) === 4 && preg_match('~\A(\d{1,3})/(\d{1,2})\z~', $label, $m) === 1) {
                return (int) $m[1] > 255
                    || (int) $m[2] <= 24 ? null : Prefix::tryParse(implode('.', array_map(ord(...), str_split($bytes))).".$m[1]/$m[2]");
            }
            if ($i > 3 || preg_match('/\A(?:0|[1-9]\d{0,2})\z/', $label) !== 1 || (int) $label > 255) {
                return null;
            }
            $bytes .= chr((int) $label);
        }

        return Address::fromBytes(str_pad($bytes, 4, "\0"))->in(count($labels) * 8);
    }

    /** @param  list<string>  $labels  from the top down */
    private static function prefixOfNibbles(array $labels): ?Prefix
    {
        foreach ($labels as $label) {
            if (strlen($label) !== 1 || ! ctype_xdigit($label)) {
                return null;
            }
        }
        if (count($labels) > 32) {
            return null;
        }

        return Address::fromBytes((string) hex2bin(str_pad(implode('', $labels), 32, '0')))->in(count($labels) * 4);
    }
}
