<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Ledger;
use App\Models\Ability;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Queries\Granted;
use App\Queries\Reach;

/** Acts on the addresses of one subnet, whose id is in $prefix: who may, where they lead, and which subnet is within reach. */
trait InSubnet
{
    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Hosts);
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    private function subnet(Ledger $ledger): Prefix
    {
        return ($ledger->person === null ? Prefix::query() : Reach::of($ledger->person)->prefixes())
            ->where('kind', PrefixKind::Subnet)->find($this->prefix)
            ?? $ledger->refuse('not-available', 'This subnet is not available to you', field: 'prefix');
    }
}
