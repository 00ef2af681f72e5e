<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Scope;
use App\Models\Stage;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** Links that carry several IPv4 subnets: VLANs with more than one scope that is not planned. Read once for each object of this class. */
final class SharedLinks
{
    /** @var array<string, string>|null scope → VLAN */
    private ?array $links = null;

    /** The link that the scope shares with others; null when it has its own. */
    public function of(Scope $scope): ?string
    {
        return $this->links()[$scope->id] ?? null;
    }

    /** @return list<string> ids of the other scopes on the link */
    public function beside(Scope $scope): array
    {
        $link = $this->of($scope);
        $same = $link === null ? [] : array_keys($this->links(), $link, true);

        return array_values(array_filter(array_map(strval(...), $same), static fn (string $id): bool => $id !== $scope->id));
    }

    /**
     * @param  list<string>  $with  relations
     * @return Collection<int, Scope> the other scopes on the link, in the order of their subnets
     */
    public function neighbours(Scope $scope, array $with = []): Collection
    {
        $ids = $this->beside($scope);

        return $ids === [] ? new Collection : Scope::query()->with(['prefix', ...$with])->whereKey($ids)->get()
            ->sortBy(static fn (Scope $s): string => $s->prefix->first->bytes, SORT_STRING)->values()->toBase();
    }

    /** @return array<string, string> */
    private function links(): array
    {
        if ($this->links === null) {
            $all = static fn (): \Illuminate\Database\Query\Builder => DB::table('scopes')
                ->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')->where('prefixes.family', 4)
                ->whereNotNull('prefixes.vlan_id')->where('scopes.stage', '!=', Stage::Planned->value);
            $shared = $all()->groupBy('prefixes.vlan_id')->havingRaw('COUNT(*) > 1')->pluck('prefixes.vlan_id')->all();
            $this->links = $shared === [] ? [] : $all()->whereIn('prefixes.vlan_id', $shared)->orderBy('scopes.id')
                ->pluck('prefixes.vlan_id', 'scopes.id')->all();
        }

        return $this->links;
    }
}
