<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Team;
use App\Models\TeamMember;
use Illuminate\Support\Str;

/**
 * Somebody whom the identity provider vouches for comes in: found by what it knows them by for good, the first time by the name that a
 * steward wrote down, and from then on by nothing else. Teams that are groups there follow what it says.
 */
final readonly class EnterFromOutside extends Act
{
    /** @param  list<string>  $groups */
    public function __construct(
        public string $subject,
        public string $name,
        public string $fullName,
        public array $groups,
        /** the role that people get who are not known yet; blank: they are not let in */
        public string $makes = '',
    ) {
    }

    public function title(): string
    {
        return "Let in $this->name, by the identity provider";
    }

    public static function may(Person $person): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $person = Person::query()->where('outside_subject', $this->subject)->lockForUpdate()->first();
        if ($person === null && $this->name !== '') {
            $person = Person::query()->where('outside_name', $this->name)->whereNull('outside_subject')->lockForUpdate()->first();
            if ($person !== null) {
                $person->outside_subject = $this->subject;
                $person->save();
            }
        }
        $person ??= $this->made($ledger);
        if (! $person->active || $person->program) {
            $ledger->refuse('closed', 'The sign-in is closed');
        }
        $this->follow($person);
        $ledger->made['person'] = $person->id;
    }

    private function made(Ledger $ledger): Person
    {
        $role = Role::tryFrom($this->makes);
        $signIn = Str::limit((string) preg_replace('/[^a-z0-9.-]+/', '-', strtolower(explode('@', $this->name)[0])), 50, '');
        if ($role === null || preg_match('/\A[a-z][a-z0-9.-]{1,58}\z/', $signIn) !== 1) {
            $ledger->refuse(
                'not-known',
                "Nobody here is known as \"$this->name\"",
                'A steward writes on the page of a person by which name the provider knows them.',
            );
        }
        if (Person::query()->where('sign_in', $signIn)->orWhere('outside_name', $this->name)->exists()) {
            $ledger->refuse(
                'sign-in-taken',
                "\"$signIn\" is somebody here already",
                'A steward says who that is: on the page of that person.',
            );
        }
        $person = new Person([
            'id' => (string) Str::ulid(), 'sign_in' => $signIn, 'name' => trim($this->fullName) ?: $signIn,
            // Nobody knows it: this person comes in by the provider alone, until a password is given.
            'password' => bin2hex(random_bytes(32)), 'roles' => [$role->value], 'active' => true,
            'outside_name' => $this->name,
            'outside_subject' => $this->subject,
        ]);
        $person->save();

        return $person;
    }

    private function follow(Person $person): void
    {
        foreach (Team::query()->where('outside_group', '!=', '')->get() as $team) {
            $member = TeamMember::query()->where('team_id', $team->id)->where('person_id', $person->id)->first();
            $meant = in_array($team->outside_group, $this->groups, true);
            if ($meant === ($member !== null)) {
                continue;
            }
            $team->version++;
            $team->save();
            $member === null ? (new TeamMember(['team_id' => $team->id, 'person_id' => $person->id]))->save() : $member->delete();
        }
    }
}
