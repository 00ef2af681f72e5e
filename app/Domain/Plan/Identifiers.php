<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Models\Host;
use App\Models\Prefix;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\InterfaceId;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** The last 64 bits of an IPv6 host's address: from its MAC, or stable and opaque. */
final class Identifiers
{
    public const WAYS = ['low' => 'low numbers', 'eui64' => 'from the MAC, EUI-64', 'stable' => 'stable and opaque, RFC 7217'];

    private const TRIES = 3;

    public static function choose(Ledger $ledger, Prefix $subnet, string $way, ?MacAddress $mac, string $name): Address
    {
        $net = $subnet->prefix();
        if ($net->length !== 64 || ! isset(self::WAYS[$way])) {
            $ledger->refuse(
                'no-such-choice',
                'Interface identifiers have 64 bits: the subnet is no /64',
                'Take low numbers here.',
                'RFC 4291 §2.5.1',
                'choose',
            );
        }
        if ($way === 'eui64') {
            if ($mac === null) {
                $ledger->refuse('no-mac', 'An EUI-64 address needs the MAC', standard: 'RFC 4291 §2.5.1', field: 'mac');
            }
            $ledger->warn(
                'eui64-shows-mac',
                'The address shows the MAC to everybody it talks to',
                'Stable opaque identifiers do not.',
                'RFC 8064',
                'choose',
            );
            $address = InterfaceId::eui64($net, $mac);
            HostAddress::check($ledger, $subnet, $address, 'host');

            return $address;
        }
        $what = $mac === null ? $name : (string) $mac;
        if ($what === '') {
            $ledger->refuse('no-name', 'A stable address is computed from the MAC or the name', standard: 'RFC 7217 §5', field: 'name');
        }
        // The key of the installation is the secret of RFC 7217: the same host gets the same address in the same subnet.
        for ($counter = 0; $counter < self::TRIES; $counter++) {
            $address = InterfaceId::stable($net, $what, hash('sha256', 'interface-id '.config('app.key'), true), $counter);
            if (Host::query()->where('space_id', $subnet->space_id)->where('family', 6)->where('address', $address->bytes)->doesntExist()) {
                return $address;
            }
        }
        $ledger->refuse(
            'address-taken',
            "$what has its stable address here already",
            'Place it under another name, or write the address.',
            'RFC 7217 §6',
            'name',
        );
    }

    /** A device's MAC as it was typed; null for a blank. */
    public static function mac(Ledger $ledger, string $text): ?MacAddress
    {
        if (trim($text) === '') {
            return null;
        }
        try {
            $mac = MacAddress::parse($text);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-mac', $e->getMessage(), field: 'mac');
        }
        if ((string) $mac === '00:00:00:00:00:00') {
            $ledger->refuse(
                'null-mac',
                'No device has the MAC 00:00:00:00:00:00',
                'Leave it blank when it is not known.',
                'IEEE 802',
                'mac',
            );
        }
        if ($mac->isGroup()) {
            $ledger->warn('group-mac', "$mac is a group address", 'No single device has it.', field: 'mac');
        }

        return $mac;
    }
}
