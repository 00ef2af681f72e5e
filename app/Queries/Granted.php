<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Ability;
use App\Models\Grant;
use App\Models\GrantPlace;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Role;
use App\Models\TeamMember;
use App\Models\Zone;
use Illuminate\Contracts\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * What grants give people beyond their roles. Read once for each person and object of this class, and forgotten when an act ends.
 *
 * A place reaches all that is in it: a prefix what lies inside, a site the sites below, a tenant what it inherits to; a tag or a stage
 * reaches the prefixes that carry it themselves. Space is planned
 * strictly inside: what is granted itself is neither changed nor given back, so that nobody's place grows by their own hand.
 */
final class Granted
{
    /** @var array<string, list<Grant>> person → grants that hold now */
    private array $held = [];

    /** @var array<string, ?Prefix> */
    private array $prefixes = [];

    /** @var array<string, list<string>> */
    private array $sites = [];

    /** @var array<string, bool> tag and prefix → does it carry it */
    private array $tagged = [];

    /** @return list<Grant> by oneself or by a team, as they hold now */
    public static function to(Person $person): array
    {
        return app(self::class)->of($person);
    }

    public static function any(Person $person, Ability $ability): bool
    {
        foreach (self::to($person) as $grant) {
            if ($grant->gives($ability)) {
                return true;
            }
        }

        return false;
    }

    /** Works on hosts or reservations somewhere: by role, or by a grant. */
    public static function works(Person $person, Ability $ability): bool
    {
        return $person->operates() || self::any($person, $ability);
    }

    /** Plans space somewhere: by role, or by a grant. */
    public static function plans(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound() || self::any($person, Ability::Space);
    }

    /** May the person carve in this prefix, by role or by a grant? */
    public static function carvesIn(Person $person, Prefix $prefix): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound()
            || self::covers($person, Ability::Space, self::values($prefix));
    }

    /** May the person change this prefix, split it or give it back? */
    public static function changes(Person $person, Prefix $prefix): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound() || self::plansRow($person, self::values($prefix));
    }

    /** May the person work on hosts or reservations in this prefix: by role within their own reach, or by a grant? */
    public static function worksIn(Person $person, Ability $ability, Prefix $prefix): bool
    {
        return $person->operates() && (! $person->isBound() || $prefix->effective_tenant_id === $person->tenant_id)
            || self::covers($person, $ability, self::values($prefix));
    }

    /** @param  list<string>  $ids  of prefixes */
    public static function coversAll(Person $person, Ability $ability, array $ids): bool
    {
        if ($ids === [] || ! self::any($person, $ability)) {
            return $ids === [];
        }
        $rows = Prefix::query()->whereKey($ids)->get();

        return $rows->count() === count($ids)
            && $rows->every(static fn (Prefix $p): bool => self::covers($person, $ability, self::values($p)));
    }

    /**
     * Is a prefix with these columns within a place where the person may do this?
     *
     * @param  array<string, mixed>  $values  space_id, family, first (bytes), length, site_id, effective_tenant_id
     */
    public static function covers(Person $person, Ability $ability, array $values): bool
    {
        foreach (self::to($person) as $grant) {
            if ($grant->gives($ability) && self::reaches($grant, $values)) {
                return true;
            }
        }

        return false;
    }

    /**
     * May a prefix with these columns be written: it lies strictly inside a place where the person plans space?
     *
     * @param  array<string, mixed>  $values
     */
    public static function plansRow(Person $person, array $values): bool
    {
        $granted = app(self::class);
        $parent = is_string($values['parent_id'] ?? null) ? Prefix::query()->find($values['parent_id']) : null;
        foreach (self::to($person) as $grant) {
            if (! $grant->gives(Ability::Space) || ! $granted->holds($grant, $values)) {
                continue;
            }
            $inside = match ($grant->place) {
                GrantPlace::Prefix => ($values['id'] ?? null) !== $grant->place_id,
                GrantPlace::Space => true,
                default => $parent !== null && $granted->holds($grant, self::values($parent)),
            };
            if ($inside) {
                return true;
            }
        }

        return false;
    }

    public static function coversZone(Person $person, Ability $ability, Zone $zone): bool
    {
        foreach (self::to($person) as $grant) {
            if ($grant->gives($ability) && self::reachesZone($grant, $zone)) {
                return true;
            }
        }

        return false;
    }

    /** Is the zone in the grant's place? */
    public static function reachesZone(Grant $grant, Zone $zone): bool
    {
        return $grant->place === GrantPlace::Zone && $grant->place_id === $zone->id
            || $grant->place === GrantPlace::Tenant && $zone->tenant_id === $grant->place_id;
    }

    /**
     * Is a prefix with these columns in the grant's place?
     *
     * @param  array<string, mixed>  $values
     */
    public static function reaches(Grant $grant, array $values): bool
    {
        return app(self::class)->holds($grant, $values);
    }

    /** Alternatives of a query over prefixes: those within any place of the person's grants. */
    public static function orPrefixes(Person $person, Builder $query, string $table = 'prefixes'): void
    {
        $granted = app(self::class);
        foreach (self::to($person) as $grant) {
            $prefix = $grant->place === GrantPlace::Prefix ? $granted->prefix($grant->place_id) : null;
            match ($grant->place) {
                GrantPlace::Tenant => $query->orWhere("$table.effective_tenant_id", $grant->place_id),
                GrantPlace::Site => $query->orWhereIn("$table.site_id", $granted->below($grant->place_id)),
                GrantPlace::Space => $query->orWhere("$table.space_id", $grant->place_id),
                GrantPlace::Prefix => $prefix === null ? null : $query->orWhere(
                    static fn (Builder $q) => $q->where("$table.space_id", $prefix->space_id)->where("$table.family", $prefix->family)
                        ->whereBetween("$table.first", [$prefix->first->bytes, $prefix->prefix()->last()->bytes])
                        ->where(static fn (Builder $l) => $l->where("$table.length", $prefix->groups ? '>=' : '>', $prefix->length)
                            ->orWhere("$table.id", $prefix->id)),
                ),
                GrantPlace::Tag => $query->orWhereIn(
                    "$table.id", DB::table('prefix_tags')->where('tag', $grant->place_id)->select('prefix_id'),
                ),
                GrantPlace::Stage => $query->orWhere("$table.stage", $grant->place_id),
                GrantPlace::Zone => null,
            };
        }
    }

    /** Alternatives of a query over zones. */
    public static function orZones(Person $person, Builder $query): void
    {
        foreach (self::to($person) as $grant) {
            match ($grant->place) {
                GrantPlace::Tenant => $query->orWhere('zones.tenant_id', $grant->place_id),
                GrantPlace::Zone => $query->orWhere('zones.id', $grant->place_id),
                default => null,
            };
        }
    }

    /** @return array<string, mixed> raw columns by which places are told */
    public static function values(Prefix $prefix): array
    {
        return ['first' => $prefix->first->bytes] + array_intersect_key(
            $prefix->getAttributes(),
            array_flip(['id', 'space_id', 'family', 'length', 'site_id', 'effective_tenant_id', 'parent_id', 'stage']),
        );
    }

    /** @return list<Grant> */
    private function of(Person $person): array
    {
        return $this->held[$person->id] ??= array_values(
            Grant::query()->with(['person', 'team'])
                ->where(fn (Builder $q) => $q->where('person_id', $person->id)
                    ->orWhereIn('team_id', TeamMember::query()->where('person_id', $person->id)->select('team_id')))
                ->where(fn (Builder $q) => $q->whereNull('until')->orWhere('until', '>', now()))
                ->orderBy('id')->get()->all(),
        );
    }

    /** @param  array<string, mixed>  $values */
    private function holds(Grant $grant, array $values): bool
    {
        $prefix = $grant->place === GrantPlace::Prefix ? $this->prefix($grant->place_id) : null;

        return match ($grant->place) {
            GrantPlace::Tenant => ($values['effective_tenant_id'] ?? null) === $grant->place_id,
            GrantPlace::Site => in_array($values['site_id'] ?? null, $this->below($grant->place_id), true),
            GrantPlace::Space => ($values['space_id'] ?? null) === $grant->place_id,
            GrantPlace::Prefix => $prefix !== null
                && ($values['space_id'] ?? null) === $prefix->space_id
                && (int) ($values['family'] ?? 0) === $prefix->family
                // A supernet of the same size stands above a subnet, not in it.
                && (
                    (int) ($values['length'] ?? 0) > $prefix->length
                    || $prefix->groups && (int) ($values['length'] ?? 0) === $prefix->length
                    || ($values['id'] ?? null) === $prefix->id
                )
                && is_string($values['first'] ?? null)
                && strcmp($values['first'], $prefix->first->bytes) >= 0
                && strcmp($values['first'], $prefix->prefix()->last()->bytes) <= 0,
            GrantPlace::Tag => is_string($values['id'] ?? null) && $this->carries($values['id'], $grant->place_id),
            GrantPlace::Stage => ($values['stage'] ?? null) === $grant->place_id,
            GrantPlace::Zone => false,
        };
    }

    private function carries(string $prefix, string $tag): bool
    {
        return $this->tagged["$tag $prefix"] ??= DB::table('prefix_tags')->where('prefix_id', $prefix)->where('tag', $tag)->exists();
    }

    private function prefix(string $id): ?Prefix
    {
        return $this->prefixes[$id] ??= Prefix::query()->find($id);
    }

    /** @return list<string> */
    private function below(string $site): array
    {
        return $this->sites[$site] ??= SitesBelow::of($site);
    }
}
