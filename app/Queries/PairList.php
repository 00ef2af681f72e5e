<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Pair;
use Carbon\CarbonImmutable;
use HarborPost\Core\Exchange\Pair\PairState;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Pairs with what their servers were last seen in.
 *
 * @phpstan-type Seen array{state: ?PairState, since: ?CarbonImmutable, read: ?CarbonImmutable, problem: ?string, shipped: bool,
 *     proved: bool, told: array<mixed>}
 */
final class PairList
{
    /** @return Collection<int, Pair> */
    public static function all(): Collection
    {
        return Pair::query()->with(['first', 'second'])->withCount('scopes')->orderBy('name')->get()->toBase();
    }

    /**
     * @param  iterable<Pair>  $pairs
     * @return array<string, array<string, Seen>> pair → server → how it was seen
     */
    public static function seen(iterable $pairs): array
    {
        $ids = $seen = [];
        foreach ($pairs as $pair) {
            $ids[] = $pair->id;
        }
        foreach (DB::table('pair_servers')->whereIn('pair_id', $ids)->get() as $row) {
            $told = json_decode((string) $row->told, true);
            $told = is_array($told) ? $told : [];
            $seen[(string) $row->pair_id][(string) $row->server_id] = [
                'state' => PairState::tryFrom((string) $row->state),
                'since' => is_int($told['since'] ?? null) ? CarbonImmutable::createFromTimestamp($told['since']) : null,
                'read' => $row->read_at === null ? null : CarbonImmutable::parse((string) $row->read_at),
                'problem' => $row->problem === null ? null : (string) $row->problem,
                'shipped' => $row->shipped_at !== null,
                'proved' => $row->verified_at !== null,
                'told' => $told,
            ];
        }

        return $seen;
    }
}
