<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;

/** The name or the roles of a person change, or their sign-in is closed or opened. */
final readonly class ChangePerson extends Act
{
    use OnPeople;

    /** @param  ?list<string>  $roles */
    public function __construct(
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
        #[Field(Kind::Choice, 'Active', choices: ['0', '1'])]
        public ?string $active = null,
        #[Field(Kind::Texts, 'Roles', most: 30)]
        public ?array $roles = null,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Line, 'Known at the provider as', 'Blank: signs in with a password alone', most: 190, blank: true)]
        public ?string $outside = null,
    ) {
    }

    public function title(): string
    {
        return 'Change '.(Person::query()->find($this->person)->name ?? 'a person');
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->find($this->person) ?? $ledger->refuse('gone', 'The person is not there any more');
        if ($this->name !== null) {
            $row->name = trim($this->name) !== '' ? trim($this->name) : $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        if ($this->outside !== null) {
            $this->knownOutside($ledger, $row, trim($this->outside));
        }
        if ($this->active !== null) {
            if ($row->id === $ledger->person?->id) {
                $ledger->refuse('yourself', 'Nobody can lock themselves out');
            }
            $row->active = $this->active === '1';
            if ($row->isDirty('active') && ! $row->active) {
                // Whoever is signed in as this person is so no longer.
                $row->epoch++;
            }
        }
        if ($this->roles !== null) {
            $roles = array_values(array_filter($this->roles, fn (mixed $r): bool => is_string($r) && Role::tryFrom($r) !== null));
            if ($row->id === $ledger->person?->id && ! in_array('steward', $roles, true)) {
                $ledger->refuse('yourself', 'Nobody can take the steward role from themselves', field: 'roles');
            }
            if (in_array(Role::Guest->value, $roles, true) && count($roles) > 1) {
                $ledger->refuse('guest-alone', 'A guest has what is granted and no other role', field: 'roles');
            }
            if (in_array(Role::TenantAdmin->value, $roles, true) !== ($row->tenant_id !== null)) {
                $ledger->refuse(
                    'bad-roles',
                    $row->tenant_id !== null
                        ? 'Somebody bound to a tenant is its admin, and nothing else'
                        : 'A tenant admin belongs to a tenant; this person belongs to none',
                    'Make a person of that tenant instead.',
                    null,
                    'roles',
                );
            }
            $row->program ? MakePerson::programAgreesNot($ledger, $roles) : null;
            $row->roles = $roles !== [] ? $roles : $ledger->refuse('no-role', 'Choose at least one role', field: 'roles');
            if ($row->isDirty('roles') && $row->getOriginal('active')) {
                $ledger->later('What they may do changes with their next page; programs that act for them are held to it too');
            }
        }
        $row->save();
    }

    /** Who is known there by another name is somebody else: what was bound to the old one is let go. */
    private function knownOutside(Ledger $ledger, Person $row, string $name): void
    {
        if ($row->program && $name !== '') {
            $ledger->refuse('is-a-program', "$row->name is a program, and signs in nowhere", field: 'outside');
        }
        $twin = $name === '' ? null : Person::query()->where('outside_name', $name)->whereKeyNot($row->id)->first();
        if ($twin !== null) {
            $ledger->refuse('known-already', "$twin->name is known there as \"$name\"", field: 'outside');
        }
        if ($name === (string) $row->outside_name) {
            return;
        }
        $row->outside_name = $name === '' ? null : $name;
        $row->outside_subject = null;
        $ledger->warn(
            'door-from-outside',
            $name === ''
                ? "$row->name comes in with a password alone"
                : "Whoever is \"$name\" at the identity provider comes in as $row->name",
            $name === '' ? '' : 'The first who comes with that name is bound to it; nobody else after.',
        );
    }
}
