<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Site;
use Illuminate\Support\Collection;

/** Sites as they lie in each other, each with what it and all inside it have and use of IPv4. */
final class SiteUse
{
    /** @var array<string, array{prefixes: int, used: int, usable: int}> site → its own, then with what is inside */
    private array $sums = [];

    /** @var array<string, int> how deep a site lies */
    private array $depths = [];

    /** @var list<Site> */
    private array $order = [];

    /** @param  Collection<int, Site>  $sites */
    private function __construct(Collection $sites, Reach $reach)
    {
        $rows = $reach->prefixes()->whereNotNull('site_id')->groupBy('site_id')->toBase()->selectRaw(
            'site_id, COUNT(*) AS prefixes, SUM(IF(family = 4 AND kind = ?, used + (gateway IS NOT NULL), 0)) AS used,
             SUM(IF(family = 4 AND kind = ?, POW(2, 32 - length) - IF(length < 31, 2, 0), 0)) AS usable', ['subnet', 'subnet'],
        )->get()->keyBy('site_id');
        $inside = $sites->groupBy(static fn (Site $s): string => (string) $s->parent_id);
        $known = $sites->keyBy('id');
        // What lies in a site that is not shown stands at the top.
        $tops = $sites->filter(static fn (Site $s): bool => $s->parent_id === null || ! $known->has($s->parent_id));
        foreach ($sites as $site) {
            $row = $rows[$site->id] ?? null;
            $this->sums[$site->id] = [
                'prefixes' => (int) ($row->prefixes ?? 0), 'used' => (int) ($row->used ?? 0), 'usable' => (int) ($row->usable ?? 0),
            ];
        }
        foreach ($tops->sortBy('name') as $site) {
            $this->walk($site, 0, $inside);
        }
    }

    /** @param  Collection<int, Site>  $sites */
    public static function of(Collection $sites, Reach $reach): self
    {
        return new self($sites, $reach);
    }

    /** @param  Collection<string, Collection<int, Site>>  $inside */
    private function walk(Site $site, int $depth, Collection $inside): void
    {
        $this->order[] = $site;
        $this->depths[$site->id] = $depth;
        foreach (($inside[$site->id] ?? new Collection)->sortBy('name') as $child) {
            $this->walk($child, $depth + 1, $inside);
            foreach ($this->sums[$child->id] as $what => $sum) {
                $this->sums[$site->id][$what] += $sum;
            }
        }
    }

    /** @return list<Site> each behind what it lies in */
    public function sites(): array
    {
        return $this->order;
    }

    public function depth(Site $site): int
    {
        return $this->depths[$site->id];
    }

    public function prefixes(Site $site): int
    {
        return $this->sums[$site->id]['prefixes'];
    }

    /** @return array{used: int, usable: int, percent: float} of IPv4 subnets, with those of all sites inside */
    public function use(Site $site): array
    {
        ['used' => $used, 'usable' => $usable] = $this->sums[$site->id];

        return ['used' => $used, 'usable' => $usable, 'percent' => $usable === 0 ? 0.0 : min(100.0, 100 * $used / $usable)];
    }
}
