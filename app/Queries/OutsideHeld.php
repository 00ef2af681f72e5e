<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Outside;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Planning\Sides\Held;

/** What the plan holds of what a system outside is compared with. */
final class OutsideHeld
{
    /** Prefixes on our side: of more none is compared, since those left out would seem to be missing here. */
    public const MOST = 50_000;

    /**
     * @return list<Held>
     *
     * @throws \OverflowException with what to do, when there are too many
     */
    public static function of(Outside $outside, int $most = self::MOST): array
    {
        $under = $outside->under;
        $rows = Prefix::query()->where('space_id', $outside->space_id)
            ->when($under !== null, static fn ($q) => $q->where('family', $under?->family)->where('length', '>=', $under?->length)
                ->whereBetween('first', [$under?->first->bytes, $under?->prefix()->last()->bytes])->whereKeyNot($under?->id))
            ->orderBy('family')->orderBy('first')->orderBy('length')->orderByDesc('groups')->limit($most + 1)->get();
        if ($rows->count() > $most) {
            throw new \OverflowException(
                'more than '.number_format($most).' prefixes of the plan lie where it is compared; a steward chooses a smaller supernet',
            );
        }
        $leases = Scope::query()->with('placements.server')->whereIn('prefix_id', $rows->modelKeys())->get()->keyBy('prefix_id');
        $held = [];
        foreach (app(Inherited::class)->each($rows, $under) as $row => $settings) {
            $servers = ($leases[$row->id] ?? null)?->placements->map(static fn ($p): string => (string) $p->server->address)->all() ?? [];
            $held[] = new Held($row->id, (string) $row->prefix(), $row->groups, [
                'name' => $row->name === '' ? [] : [$row->name], 'gateway' => $row->gateway === null ? [] : [(string) $row->gateway],
                'resolvers' => $settings['resolvers']['value'], 'leases' => array_values(array_filter($servers)),
            ]);
        }

        return $held;
    }

    /** @return array<string, true> addresses of servers that we know */
    public static function servers(): array
    {
        return Server::query()->whereNotNull('address')->get()
            ->mapWithKeys(static fn (Server $s): array => [(string) $s->address => true])->all();
    }

    /** Does a system outside lead in this place? Its name, or null. */
    public static function leader(string $space, \HarborPost\Core\Net\Prefix $net): ?string
    {
        foreach (Outside::query()->with('under')->where('space_id', $space)->where('leads', \App\Models\Leads::There)->get() as $outside) {
            if ($outside->under === null || $outside->under->prefix()->contains($net)) {
                return $outside->name;
            }
        }

        return null;
    }
}
