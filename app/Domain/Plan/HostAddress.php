<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Models\Host;
use App\Models\Prefix;
use HarborPost\Core\Net\Address;

/** May a host have this address? */
final class HostAddress
{
    /** Taken, outside, kept for something else: each is said. */
    public static function check(Ledger $ledger, Prefix $subnet, Address $address, string $role, ?string $except = null): void
    {
        $net = $subnet->prefix();
        if (! $net->contains($address)) {
            $ledger->refuse('address-outside', "$address is not in $net", "Usable are {$net->usable()}.", null, 'address');
        }
        if (! $net->usable()->contains($address)) {
            $ledger->refuse(
                'address-unusable',
                "$address is the "
                    .($address->equals($net->first) ? ($subnet->family === 4 ? 'network' : 'subnet-router anycast') : 'broadcast')
                    .' address',
                "Usable are {$net->usable()}.",
                $subnet->family === 4 ? 'RFC 1122 §3.2.1.3' : 'RFC 4291 §2.6.1',
                'address',
            );
        }
        $taken = Host::query()->where('space_id', $subnet->space_id)->where('family', $subnet->family)
            ->where('address', $address->bytes)->first();
        if ($taken !== null && $taken->id !== $except) {
            $ledger->refuse(
                'address-taken',
                "$address belongs to ".($taken->name ?: 'a host without a name'),
                'Choose another, or release that host.',
                null,
                'address',
                at('plan.prefix', $subnet->id)."?address=$address",
            );
        }
        if ($role !== 'gateway' && $subnet->gateway !== null && $subnet->gateway->equals($address)) {
            $ledger->refuse(
                'address-is-gateway',
                "$address is the gateway of the subnet",
                'Give the host the role gateway, or choose another address.',
                null,
                'address',
                at('plan.prefix', $subnet->id),
            );
        }
    }
}
