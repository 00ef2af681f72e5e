<?php

declare(strict_types=1);

namespace App\Queries;

use App\Database\Guard;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Scope;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Planning\NextFree;

/** Free addresses of a subnet; the rule is the core's, the used ones are read in pages by their index. */
final class FreeAddresses
{
    /**
     * The lowest free ones, for proposals.
     *
     * @return list<Address>
     */
    public static function next(Prefix $subnet, int $count = 1): array
    {
        $kept = self::kept($subnet);
        do {
            $free = NextFree::in($subnet->prefix(), $subnet->gateway, $kept, InUse::in($subnet), $count);
            // A name may point at an address that nobody planned: it is passed over like a used one.
            $named = InUse::named($subnet, $free);
            foreach ($named as $text => $record) {
                $kept[] = AddressRange::of(Address::parse($text), Address::parse($text));
            }
        } while ($named !== []);

        return $free;
    }

    /** @return list<Address> the lowest neighbouring ones; empty when there is no such stretch */
    public static function row(Prefix $subnet, int $count): array
    {
        return NextFree::row($subnet->prefix(), $subnet->gateway, self::kept($subnet), InUse::in($subnet), $count);
    }

    /**
     * One for the caller alone, inside its transaction. Sixteen takers at once see the same free addresses; a guard row that is never
     * waited for sends each to another one. The guard only saves collisions: the unique key decides.
     */
    public static function take(Prefix $subnet): ?Address
    {
        $candidates = self::next($subnet, 32);
        foreach (self::spread($candidates) as $address) {
            if (! Guard::tryOwn("address:$subnet->space_id:".bin2hex($address->bytes))) {
                continue;
            }
            if (
                Host::query()->where('space_id', $subnet->space_id)->where('family', $subnet->family)
                    ->where('address', $address->bytes)->doesntExist()
            ) {
                return $address;
            }
        }

        return $candidates[0] ?? null;
    }

    /**
     * The lowest first, for a taker alone; the others in any order, so that many takers do not knock at the same doors.
     *
     * @param  list<Address>  $candidates
     * @return list<Address>
     */
    private static function spread(array $candidates): array
    {
        $rest = array_slice($candidates, 1);
        shuffle($rest);

        return [...array_slice($candidates, 0, 1), ...$rest];
    }

    /**
     * Stretches that are not for hosts: dynamic ranges, and runs that are held today.
     *
     * @return list<AddressRange>
     */
    public static function kept(Prefix $subnet): array
    {
        $scope = Scope::query()->with('ranges')->where('prefix_id', $subnet->id)->first();

        $held = HeldRun::query()->where('prefix_id', $subnet->id)->get()
            ->filter(fn (HeldRun $h): bool => $h->holds(now()))->map(fn (HeldRun $h): AddressRange => $h->range())
            ->values()->all();

        return [...array_values($scope === null ? [] : $scope->ranges->map(fn ($r): AddressRange => $r->range())->all()), ...$held];
    }
}
