<?php

declare(strict_types=1);

namespace App\Queries\Delegation;

use App\Models\Record;
use App\Models\Zone;
use App\Queries\Reach;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Collection;

/**
 * Which of our zones lie inside which, view by view, and whether the zone above says so: its NS records lead into the zone, and are those
 * that the zone has of itself (RFC 1034 §4.2.2).
 */
final class Tree
{
    /** Zones that are drawn at once; of more one chooses a name to begin at. */
    public const MOST = 300;

    /** @var array<string, Zone> "view name" → zone */
    private array $zones = [];

    /** @var array<string, array<string, list<string>>> zone → owner → targets of its NS records */
    private array $servers = [];

    /** @var array<string, non-empty-list<Delegated>> name → its zones */
    private array $names = [];

    /**
     * @param  Collection<int, Zone>  $zones  with their views
     * @param  Collection<int, Zone>  $above  what is above them all and is not drawn
     */
    private function __construct(Collection $zones, Collection $above)
    {
        foreach ($above->concat($zones) as $zone) {
            $this->zones["$zone->view_id $zone->name"] = $zone;
        }
        $ids = array_map(static fn (Zone $z): string => $z->id, array_values($this->zones));
        Record::query()->where('type', RecordType::NS)->whereIn('zone_id', $ids)
            ->whereIn('owner', $zones->pluck('name')->unique())->orderBy('target')->get(['zone_id', 'owner', 'target'])
            ->each(function (Record $r): void {
                $this->servers[$r->zone_id][$r->owner][] = (string) $r->target;
            });
        foreach ($zones as $zone) {
            $this->names[$zone->name][] = $this->told($zone);
        }
    }

    /**
     * @param  string  $under  a name with its final dot; blank: all zones
     * @return array{list<Inside>, bool} the names that nothing of ours is above, each with what lies inside it; are there more zones?
     */
    public static function of(Reach $reach, string $under): array
    {
        $zones = $reach->zones()->with('view')->when($under !== '', static fn ($q) => $q->where(
            static fn ($w) => $w->where('zones.name', $under)->orWhere('zones.name', 'like', '%.'.addcslashes($under, '%_\\')),
        ))->orderByRaw('CHAR_LENGTH(zones.name)')->orderBy('zones.name')->limit(self::MOST + 1)->get();
        $more = $zones->count() > self::MOST;

        $above = $under === '' ? new Collection : $reach->zones()->with('view')->whereIn('zones.name', self::above($under))->get();

        // The shortest names first: what is above a zone is never what was left out.
        return [(new self($zones->take(self::MOST), $above))->roots(), $more];
    }

    /** @return list<Inside> */
    private function roots(): array
    {
        $children = [];
        foreach (array_keys($this->names) as $name) {
            $children[$this->holder($name)][] = $name;
        }

        return $this->branch('', $children);
    }

    /**
     * @param  array<string, list<string>>  $children
     * @return list<Inside>
     */
    private function branch(string $of, array $children): array
    {
        $names = $children[$of] ?? [];
        usort($names, static fn (string $a, string $b): int => [str_ends_with($a, '.arpa.'), $a] <=> [str_ends_with($b, '.arpa.'), $b]);

        return array_map(fn (string $name): Inside => new Inside($name, $this->names[$name], $this->branch($name, $children)), $names);
    }

    private function told(Zone $zone): Delegated
    {
        $above = null;
        foreach (self::above($zone->name) as $name) {
            $above ??= $this->zones["$zone->view_id $name"] ?? null;
        }
        if ($above === null) {
            return new Delegated($zone, State::Top, null);
        }
        $there = $this->servers[$above->id][$zone->name] ?? [];
        $own = $this->servers[$zone->id][$zone->name] ?? [];

        return new Delegated($zone, $there === [] ? State::Missing : ($there === $own ? State::Good : State::Differs), $above);
    }

    private function holder(string $name): string
    {
        foreach (self::above($name) as $up) {
            if (isset($this->names[$up])) {
                return $up;
            }
        }

        return '';
    }

    /** @return list<string> the names above a name, the nearest first */
    private static function above(string $name): array
    {
        $up = [];
        for ($at = strpos($name, '.'); $at !== false && $at + 1 < strlen($name); $at = strpos($name, '.', $at + 1)) {
            $up[] = substr($name, $at + 1);
        }

        return $up;
    }
}
