<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\RowRights;
use App\Models\Ability;
use App\Models\Grant;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Power;
use App\Models\Prefix;
use App\Models\RightTest;
use App\Models\Role;
use App\Models\TeamMember;
use App\Models\Zone;
use App\Queries\Granted;
use App\Queries\Reach;
use App\Queries\RoleLimits;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Tries what somebody may: by the same reach and rights of rows that every page and act asks. */
final class Rights
{
    public static function may(Person $person, string $does, string $noun, string $id): ?bool
    {
        $row = $noun === 'prefix' ? Prefix::query()->find($id) : Zone::query()->find($id);
        if ($row === null) {
            return null;
        }
        $reach = Reach::of($person);
        $does === 'see' || $person = RoleLimits::narrow($person, $noun === 'prefix' ? Power::Space : Power::NameService);
        $sees = $person->active && ($noun === 'prefix' ? $reach->prefixes() : $reach->zones())->whereKey($id)->exists();

        return $does === 'see' ? $sees : $sees && RowRights::allow($person, $row, $row->getRawOriginal(), false);
    }

    /**
     * What answers the question whether somebody may do something in a prefix or a zone: what says so, and what comes near.
     *
     * @return array{may: bool, says: list<string>, near: list<string>}
     */
    public static function why(Person $person, Ability $ability, Prefix|Zone $at): array
    {
        $zone = $at instanceof Zone;
        $whole = $person;
        $person = RoleLimits::narrow($person, self::power($ability));
        $own = ($zone ? $at->tenant_id : $at->effective_tenant_id) === $person->tenant_id && $person->tenant_id !== null;
        $roles = implode(' and ', array_map(static fn (string $r): string => str_replace('-', ' ', $r), $person->roles));
        $byRole = match ($ability) {
            Ability::Look => ! $person->isBound() || $own,
            Ability::Space => $person->does(Role::Planner) && ! $person->isBound(),
            default => $person->operates() && (! $person->isBound() || $own),
        };
        $says = $byRole ? ["as $roles".($person->isBound() ? ', in what belongs to '.($person->tenant->name ?? '') : ', everywhere')] : [];
        $near = [];
        foreach (array_diff($whole->roles, $person->roles) as $role) {
            $near[] = 'as '.Role::from($role)->words().': a steward took that away from the role';
        }
        $grants = Grant::query()->with(['person', 'team'])->where(
            static fn ($q) => $q->where('person_id', $person->id)
                ->orWhereIn('team_id', TeamMember::query()->where('person_id', $person->id)->select('team_id')),
        )->orderBy('id')->get();
        foreach ($grants as $grant) {
            $here = $zone ? Granted::reachesZone($grant, $at) : Granted::reaches($grant, Granted::values($at));
            if ($here && $grant->gives($ability) && ! $grant->isOver()) {
                $says[] = $grant->sentence();
            } elseif ($grant->gives($ability) || $here) {
                $near[] = $grant->sentence().match (true) {
                    $grant->isOver() => ': it is over',
                    $here => ': not this',
                    default => ': not here',
                };
            }
        }
        $names = NameGrant::query()->with(['person', 'zone'])->where('person_id', $person->id)->where('zone_id', $at->id);
        foreach ($zone ? $names->get() : [] as $name) {
            $whole = $name->owner === null && $name->type === null;
            if ($ability === Ability::Look || $ability === Ability::Names && $whole) {
                $says[] = $name->line();
            } elseif ($ability === Ability::Names) {
                $near[] = $name->line().': only there';
            }
        }
        if (! $person->active) {
            return ['may' => false, 'says' => [], 'near' => ['Their sign-in is closed: they may do nothing', ...$says, ...$near]];
        }

        return ['may' => $says !== [], 'says' => $says, 'near' => $near];
    }

    private static function power(Ability $ability): ?Power
    {
        return match ($ability) {
            Ability::Look => null,
            Ability::Hosts => Power::Hosts,
            Ability::Space => Power::Space,
            Ability::Leases => Power::Leases,
            Ability::Names => Power::Names,
        };
    }

    /** @return list<string> tests that turned, as sentences */
    public static function test(): array
    {
        $turned = [];
        foreach (RightTest::query()->with('person')->orderBy('id')->lazy(200) as $test) {
            $found = self::may($test->person, $test->does, $test->noun, $test->object_id);
            // A machine's finding, and nobody's act.
            DB::table('right_tests')->where('id', $test->id)->update(['found' => $found, 'run_at' => now()]);
            $found !== null && $found !== $test->expected ? $turned[] = $test->sentence() : null;
        }

        return $turned;
    }

    /** @return array<string, int> what a person sees, counted */
    public static function sees(Person $person): array
    {
        $reach = Reach::of($person);
        $count = static fn (Builder $q): int => $q->count();

        return [
            'prefixes' => $count($reach->prefixes()), 'addresses' => $count($reach->hosts()), 'zones' => $count($reach->zones()),
            'records' => $count($reach->records()), 'scopes' => $count($reach->scopes()), 'VLANs' => $count($reach->vlans()),
        ];
    }
}
