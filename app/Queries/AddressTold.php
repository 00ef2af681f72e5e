<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\HeldRun;
use App\Models\ScopeRange;
use App\Models\Server;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;

/** What one address is, in sentences: a gateway, part of a dynamic range or of a held run, a server's own, seen or not. */
final class AddressTold
{
    private const LISTED = 10;

    /** @return list<array{words: string, link: ?string}> */
    public static function of(Reach $reach, Address $address): array
    {
        $told = [];
        foreach ($reach->prefixes()->with('space')->where('gateway', $address->bytes)->limit(self::LISTED)->get() as $subnet) {
            $told[] = ['words' => "The gateway of {$subnet->line()}", 'link' => at('plan.prefix', $subnet->id)];
        }
        $ranges = ScopeRange::query()->with('scope')->where('first', '<=', $address->bytes)->where('last', '>=', $address->bytes)
            ->whereRaw('LENGTH(first) = ?', [strlen($address->bytes)])->whereIn('scope_id', $reach->scopes()->select('scopes.id'))
            ->limit(self::LISTED)->get();
        foreach ($ranges as $range) {
            $told[] = [
                'words' => "In the dynamic range {$range->range()} of {$range->scope->name}",
                'link' => at('lease.scope', $range->scope_id),
            ];
        }
        $held = HeldRun::query()->where('first', '<=', $address->bytes)->where('last', '>=', $address->bytes)
            ->whereRaw('LENGTH(first) = ?', [strlen($address->bytes)])->whereIn('prefix_id', $reach->prefixes()->select('prefixes.id'))
            ->limit(self::LISTED)->get();
        foreach ($held as $run) {
            $told[] = ['words' => "In a run that is held: {$run->line()}", 'link' => at('plan.prefix', $run->prefix_id)];
        }
        foreach ($reach->isWhole() ? Server::query()->where('address', $address->bytes)->get() : [] as $server) {
            $told[] = ['words' => "The address of the server $server->name", 'link' => at('ship.server', $server->id)];
        }

        return [...$told, ...self::seen($reach, $address)];
    }

    /** @return list<array{words: string, link: ?string}> */
    private static function seen(Reach $reach, Address $address): array
    {
        if (! $reach->isWhole()) {
            return [];
        }
        $told = [];
        $rows = DB::table('sightings')->join('spaces', 'spaces.id', '=', 'sightings.space_id')->where('family', $address->family->value)
            ->whereIn('sightings.space_id', DB::table('spaces')->select('id'))->where('address', $address->bytes)
            ->limit(self::LISTED)->get(['sightings.mac', 'sightings.last_seen', 'spaces.name']);
        foreach ($rows as $row) {
            $told[] = [
                'words' => 'Seen last '.CarbonImmutable::parse((string) $row->last_seen)->diffForHumans()
                    .($row->mac === null ? '' : ' as '.MacAddress::fromBytes((string) $row->mac))." in $row->name",
                'link' => null,
            ];
        }

        return $told;
    }
}
