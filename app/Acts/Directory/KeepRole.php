<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\Power;
use App\Models\Role;
use App\Models\RoleLimit;
use Illuminate\Support\Str;

/** What a role does here, of what it comes with: the rest is taken away from all who have it, and what is granted to them stays. */
final readonly class KeepRole extends Act
{
    use OnPeople;

    /** People who are named of those whom it concerns. */
    private const NAMED = 5;

    private const ROLES = ['steward', 'planner', 'operator', 'approver', 'tenant-admin'];

    /** @param  list<string>  $does */
    public function __construct(
        #[Field(Kind::Choice, 'Role', choices: self::ROLES)]
        public string $role,
        #[Field(
            Kind::Texts, 'Does',
            'hosts, space, names, name-service, keys, leases, ship, files, places, watch, approve, people', most: 20,
        )]
        public array $does = [],
    ) {
    }

    public function title(): string
    {
        return 'Say what '.Role::from($this->role)->words().'s do';
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function landing(): string
    {
        return at('directory.roles');
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("role:$this->role");
        $role = Role::from($this->role);
        $comes = array_map(static fn (Power $p): string => $p->value, $role->powers());
        $other = array_diff($this->does, $comes);
        if ($other !== []) {
            $power = Power::tryFrom(reset($other));
            $ledger->refuse(
                'role-power',
                $power === null ? '"'.reset($other).'" is nothing that a role may do' : "{$this->called($role)} never {$power->words()}",
                'A role is given nothing that it does not come with; a grant gives one person or team more.',
                field: 'does',
            );
        }
        if (array_intersect($comes, $this->does) === []) {
            $ledger->refuse('role-empty', 'A role that does nothing is none', 'Take it away from its people instead.', field: 'does');
        }
        if ($role === Role::Steward && ! in_array(Power::People->value, $this->does, true)) {
            $ledger->refuse('role-locks-out', 'Stewards manage people', 'Nobody could change that back.', field: 'does');
        }
        $limit = RoleLimit::query()->where('role', $role)->first()
            ?? new RoleLimit(['id' => (string) Str::ulid(), 'role' => $role, 'withheld' => []]);
        $before = $limit->withheld;
        $limit->withheld = array_values(array_diff($comes, $this->does));
        $limit->save();
        $people = Person::query()->where('active', true)->whereJsonContains('roles', $role->value)->orderBy('name')->pluck('name');
        $more = $people->count() - self::NAMED;
        $who = $people->take(self::NAMED)->implode(', ').($more > 0 ? " and $more more" : '');
        foreach ($people->isEmpty() ? [] : array_diff($limit->withheld, $before) as $power) {
            $ledger->later("$who: may not ".Power::from($power)->words()." as {$role->words()} any more");
        }
        foreach ($people->isEmpty() ? [] : array_diff($before, $limit->withheld) as $power) {
            $ledger->later("$who: may ".Power::from($power)->words()." as {$role->words()} again");
        }
    }

    private function called(Role $role): string
    {
        return ucfirst($role->words()).'s';
    }
}
