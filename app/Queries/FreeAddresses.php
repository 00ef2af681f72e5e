<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Scope;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Planning\NextFree;
use Illuminate\Support\Facades\DB;

/** Free addresses of a subnet; the rule is the core's, the used ones are read in pages by their index. */
final class FreeAddresses
{
    /** @var array<string, true> named locks of this process */
    private static array $held = [];

    /**
     * The lowest free ones, for proposals.
     *
     * @return list<Address>
     */
    public static function next(Prefix $subnet, int $count = 1): array
    {
        return NextFree::in($subnet->prefix(), $subnet->gateway, self::kept($subnet), self::used($subnet), $count);
    }

    /** @return list<Address> the lowest neighbouring ones; empty when there is no such stretch */
    public static function row(Prefix $subnet, int $count): array
    {
        return NextFree::row($subnet->prefix(), $subnet->gateway, self::kept($subnet), self::used($subnet), $count);
    }

    /** @return \Closure(Address, int): list<Address> */
    private static function used(Prefix $subnet): \Closure
    {
        return fn (Address $from, int $limit): array => array_values(Host::query()
            ->where('prefix_id', $subnet->id)->where('address', '>=', $from->bytes)->orderBy('address')->limit($limit)
            ->toBase()->pluck('address')->map(fn ($b): Address => Address::fromBytes((string) $b))->all());
    }

    /**
     * One for the caller alone, inside its transaction. Sixteen takers at once see the same free addresses; a named lock that is never
     * waited for sends each to another one. The lock only saves collisions: the unique key decides.
     */
    public static function take(Prefix $subnet): ?Address
    {
        $candidates = self::next($subnet, 32);
        foreach (self::spread($candidates) as $address) {
            $name = 'hp:'.substr(hash('sha256', $subnet->space_id.bin2hex($address->bytes)), 0, 40);
            if ((int) DB::scalar('SELECT GET_LOCK(?, 0)', [$name]) !== 1) {
                continue;
            }
            $taken = Host::query()->where('space_id', $subnet->space_id)->where('family', $subnet->family)->where('address', $address->bytes)->exists();
            if (! $taken) {
                self::hold($name);

                return $address;
            }
            self::release($name);
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

        $held = HeldRun::query()->where('prefix_id', $subnet->id)->get()->filter(fn (HeldRun $h): bool => $h->holds(now()))->map(fn (HeldRun $h): AddressRange => $h->range())->values()->all();

        return [...array_values($scope === null ? [] : $scope->ranges->map(fn ($r): AddressRange => $r->range())->all()), ...$held];
    }

    /** Until the act is committed, or for a rehearsal until the request is over. */
    private static function hold(string $name): void
    {
        if (self::$held === []) {
            app()->terminating(fn () => array_map(self::release(...), array_keys(self::$held)));
        }
        self::$held[$name] = true;
        DB::afterCommit(fn () => self::release($name));
    }

    private static function release(string $name): void
    {
        unset(self::$held[$name]);
        try {
            DB::statement('DO RELEASE_LOCK(?)', [$name]);
        } catch (\Throwable) {
            // The connection is gone, and its locks with it.
        }
    }
}
