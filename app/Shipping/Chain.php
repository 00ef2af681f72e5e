<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Models\ScopeServer;
use App\Models\Zone;
use App\Models\ZoneServer;

/**
 * How far something has come on its way to the servers: saved → shipped → in effect. What a server was last found to run otherwise has
 * drifted there, and is not in effect, whatever was proved before.
 */
final readonly class Chain
{
    private function __construct(public bool $shipped, public bool $inEffect, public string $words, public bool $drifted = false)
    {
    }

    /**
     * Of a record set: does it wait in the journal, and where does its zone stand?
     *
     * @param  list<string>  $drifted  names of servers
     */
    public static function ofSet(Zone $zone, bool $waits, array $drifted = []): self
    {
        $all = $zone->placements->count();
        $shipped = $waits
            ? 0
            : $zone->placements->filter(fn (ZoneServer $p): bool => $p->shipped_serial === $zone->serial && $zone->serial > 0)->count();
        $proved = $waits
            ? 0
            : $zone->placements
                ->filter(fn (ZoneServer $p): bool => $p->shipped_serial === $zone->serial && $p->verified_at !== null)
                ->count();

        return self::counted($all, $shipped, $proved, $drifted, 'zone ');
    }

    /**
     * @param  iterable<ScopeServer>  $placements
     * @param  array<string, string>  $digests  server → digest of the intended scope
     * @param  list<string>  $drifted  names of servers
     */
    public static function ofScope(iterable $placements, array $digests, array $drifted = []): self
    {
        $all = $shipped = $proved = 0;
        foreach ($placements as $placement) {
            $all++;
            $same = $placement->shipped_digest !== null && $placement->shipped_digest === ($digests[$placement->server_id] ?? '');
            $shipped += (int) $same;
            $proved += (int) ($same && $placement->verified_at !== null);
        }

        return self::counted($all, $shipped, $proved, $drifted);
    }

    /** @param  list<string>  $drifted */
    private static function counted(int $all, int $shipped, int $proved, array $drifted, string $whole = ''): self
    {
        $words = match (true) {
            $all > 0 && $drifted !== [] => $whole.'drifted on '.implode(', ', $drifted),
            $all === 0 => 'saved, on no server',
            $proved === $all => 'in effect',
            $shipped === 0 => 'saved, not shipped',
            $shipped < $all => "shipped to $shipped of $all",
            default => "in effect on $proved of $all",
        };

        return new self($shipped > 0, $all > 0 && $proved === $all && $drifted === [], $words, $drifted !== []);
    }
}
