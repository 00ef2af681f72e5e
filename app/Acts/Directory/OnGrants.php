<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Rights;
use App\Models\Ability;
use App\Models\Grant;
use App\Models\Person;
use App\Models\RightTest;
use App\Models\Role;
use App\Models\TeamMember;
use App\Queries\Granted;
use Illuminate\Support\Collection;

/** Acts on grants: who may, and what is said of who gains and what opens before it is saved. */
abstract readonly class OnGrants extends Act
{
    /** So many people are told of one by one. */
    private const LISTED = 12;

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('directory.grants');
    }

    /**
     * Does the work, and says by counting before and after what it opens or closes to whom, and which tests of rights turn by it.
     *
     * @param  list<Grant>  $grants  that are about to be written or removed, with their holders
     * @param  \Closure(): void  $work
     */
    protected static function telling(Ledger $ledger, array $grants, \Closure $work): void
    {
        $people = self::holders($grants);
        $listed = $people->take(self::LISTED);
        $before = $listed->mapWithKeys(static fn (Person $p): array => [$p->id => [Rights::sees($p), self::abilities($p)]])->all();
        $tests = RightTest::query()->with('person')->whereIn('person_id', $people->modelKeys())->orderBy('id')->get();
        $was = $tests->mapWithKeys(static fn (RightTest $t): array => [$t->id => self::found($t)])->all();
        $work();
        app()->forgetInstance(Granted::class);
        foreach ($listed as $person) {
            self::sayPerson($ledger, $person, $before[$person->id]);
        }
        if ($people->count() > self::LISTED) {
            $ledger->later(($people->count() - self::LISTED).' more people of the team likewise');
        }
        if ($people->isEmpty()) {
            $ledger->warn('nobody-gains', 'Nobody is in the team', 'Nobody gains anything until somebody is.', link: at('directory.teams'));
        }
        foreach ($tests as $test) {
            $now = self::found($test);
            if ($now !== $was[$test->id] && $now !== null && $now !== $test->expected) {
                $ledger->warn(
                    'test-turns',
                    'This turns a test of rights: '.$test->sentence(),
                    'It is not so any more afterwards. Narrow the grant, or take the test back.',
                    link: at('directory.person', $test->person_id),
                );
            }
        }
    }

    private static function found(RightTest $test): ?bool
    {
        return Rights::may($test->person, $test->does, $test->noun, $test->object_id);
    }

    /**
     * @param  list<Grant>  $grants
     * @return \Illuminate\Database\Eloquent\Collection<int, Person>
     */
    private static function holders(array $grants): \Illuminate\Database\Eloquent\Collection
    {
        $grants = new Collection($grants);

        return Person::query()->where('active', true)->where(
            static fn ($q) => $q->whereIn('id', $grants->pluck('person_id')->filter()->unique()->values())
                ->orWhereIn('id', TeamMember::query()->whereIn('team_id', $grants->pluck('team_id')->filter()->unique()->values())
                    ->select('person_id')),
        )->orderBy('name')->get();
    }

    /** @return list<string> abilities that the person has anywhere by grants */
    private static function abilities(Person $person): array
    {
        return array_values(array_map(
            static fn (Ability $a): string => $a->words(),
            array_filter(Ability::cases(), static fn (Ability $a): bool => $a !== Ability::Look && Granted::any($person, $a)),
        ));
    }

    /** @param  array{array<string, int>, list<string>}  $before */
    private static function sayPerson(Ledger $ledger, Person $person, array $before): void
    {
        $said = [];
        foreach (Rights::sees($person) as $what => $count) {
            $more = $count - $before[0][$what];
            $more === 0 ?: $said[] = number_format(abs($more)).($more > 0 ? ' more ' : ' fewer ').$what;
        }
        $now = self::abilities($person);
        $gains = array_diff($now, $before[1]);
        $loses = array_diff($before[1], $now);
        $words = array_filter([
            match (true) {
                $said !== [] => 'sees '.implode(', ', $said),
                $person->isBound() => 'sees what they saw before',
                default => 'sees everything already',
            },
            $gains === [] ? '' : 'begins to '.implode(', ', $gains),
            $loses === [] ? '' : 'does no longer '.implode(', ', $loses),
        ]);
        $ledger->later("$person->name ".implode('; ', $words));
    }
}
