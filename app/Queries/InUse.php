<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * In use is in use, whoever says so: planned, reserved, leased, in DNS, seen. What gives addresses out or takes them away asks here.
 */
final class InUse
{
    /** Days in which an address that answered counts as seen. */
    private const SEEN_DAYS = 30;

    /**
     * Used addresses of a subnet at or after one, in order; each source by its own index.
     *
     * @return \Closure(Address, int): list<Address>
     */
    public static function in(Prefix $subnet): \Closure
    {
        $scopes = Scope::query()->where('prefix_id', $subnet->id)->pluck('id')->all();
        $last = $subnet->prefix()->last()->bytes;
        $seen = DB::table('sightings')->where('space_id', $subnet->space_id)->where('family', $subnet->family)
            ->where('last_seen', '>=', now()->subDays(self::SEEN_DAYS));
        $sources = [Host::query()->where('prefix_id', $subnet->id)->toBase(), $seen];
        if ($scopes !== []) {
            $sources[] = self::activeLeases()->whereIn('scope_id', $scopes)->toBase();
            $sources[] = Reservation::query()->whereIn('scope_id', $scopes)->toBase();
        }

        return static function (Address $from, int $limit) use ($sources, $last): array {
            $found = [];
            foreach ($sources as $source) {
                foreach (
                    (clone $source)->whereBetween('address', [$from->bytes, $last])->orderBy('address')->limit($limit)
                        ->pluck('address') as $bytes
                ) {
                    $found[bin2hex((string) $bytes)] = true;
                }
            }
            ksort($found, SORT_STRING);

            return array_map(
                static fn (int|string $hex): Address => Address::fromBytes((string) hex2bin((string) $hex)),
                array_slice(array_keys($found), 0, $limit),
            );
        };
    }

    /** @return Builder<Lease> leases that run now, on a server that still has them */
    public static function activeLeases(): Builder
    {
        return self::active(Lease::query());
    }

    /**
     * @param  Builder<Lease>  $leases
     * @return Builder<Lease> those of them that run now
     */
    public static function active(Builder $leases): Builder
    {
        return $leases->where('leases.state', 'active')->where('leases.ends_at', '>', now())->whereNull('leases.gone_at');
    }

    /**
     * Of these addresses, those that a name points at although no host of another space has it.
     *
     * @param  list<Address>  $addresses
     * @return array<string, Record> address → the record
     */
    public static function named(Prefix $subnet, array $addresses): array
    {
        $named = [];
        foreach (array_chunk($addresses, 500) as $chunk) {
            $records = Record::query()->whereIn('type', [RecordType::A, RecordType::AAAA])
                ->whereIn('data_hash', array_map(static fn (Address $a): string => md5($a->bytes, true), $chunk))
                ->where(
                    fn ($q) => $q->whereNull('address_id')
                        ->orWhereIn(
                            'address_id',
                            Host::query()->where('space_id', $subnet->space_id)
                                ->whereIn('address', array_map(static fn (Address $a): string => $a->bytes, $chunk))
                                ->select('id'),
                        ),
                )->get();
            foreach ($records as $record) {
                $named[$record->data] = $record;
            }
        }

        return $named;
    }

    /**
     * What others say of an address besides the plan: each a code and a sentence. A lease or a sighting of the very device is no news.
     *
     * @return list<array{code: string, message: string, why: string, link: ?string}>
     */
    public static function of(Prefix $subnet, Address $address, ?MacAddress $mac = null, ?string $host = null): array
    {
        $said = [];
        $scopes = Scope::query()->where('prefix_id', $subnet->id)->pluck('id');
        foreach (self::activeLeases()->with('server')->whereIn('scope_id', $scopes)->where('address', $address->bytes)->get() as $lease) {
            if ($mac === null || $lease->mac === null || ! $lease->mac->equals($mac)) {
                $client = trim("$lease->mac $lease->host_name");
                $said[] = [
                    'code' => 'leased',
                    'message' => "$address is leased to $client until {$lease->ends_at->format('j M H:i')} by {$lease->server->name}",
                    'why' => 'The client uses it until then and may renew; two would answer.',
                    'link' => at('lease.lease', $lease->id),
                ];
            }
        }
        foreach (Reservation::query()->whereIn('scope_id', $scopes)->where('address', $address->bytes)->get() as $reservation) {
            if (($mac === null || $reservation->mac?->equals($mac) !== true) && ($host === null || $reservation->address_id !== $host)) {
                $said[] = [
                    'code' => 'reserved', 'message' => "$address is reserved for {$reservation->client()}",
                    'why' => 'The server gives it to that client.', 'link' => at('lease.scope', $reservation->scope_id),
                ];
            }
        }
        foreach (self::named($subnet, [$address]) as $record) {
            if ($host === null || $record->address_id !== $host) {
                $said[] = [
                    'code' => 'in-dns', 'message' => 'The name '.rtrim($record->owner, '.')." points at $address",
                    'why' => 'Whoever asks for that name would reach this host.',
                    'link' => at('name.zone', $record->zone_id).'?filter='.urlencode(rtrim($record->owner, '.')),
                ];
            }
        }
        $seen = DB::table('sightings')->where('space_id', $subnet->space_id)->where('family', $subnet->family)
            ->where('address', $address->bytes)->where('last_seen', '>=', now()->subDays(self::SEEN_DAYS))->first();
        $other = $seen !== null && ($mac === null || $seen->mac === null || (string) $seen->mac !== $mac->bytes);
        if (
            $seen !== null
                && $other
                && Host::query()->where('space_id', $subnet->space_id)->where('family', $subnet->family)
                    ->where('address', $address->bytes)->doesntExist()
        ) {
            $said[] = [
                'code' => 'seen',
                'message' => "$address answered "
                    .CarbonImmutable::parse((string) $seen->last_seen)->format('j M H:i')
                    .($seen->mac === null ? '' : ', as '.MacAddress::fromBytes((string) $seen->mac)),
                'why' => 'A device that nobody planned uses it.',
                'link' => at('plan.prefix', $subnet->id).'?show=evidence',
            ];
        }

        return $said;
    }
}
