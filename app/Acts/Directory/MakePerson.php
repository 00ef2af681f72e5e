<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Passwords;
use App\Models\Person;
use App\Models\Role;
use App\Models\Tenant;

/** Somebody gets a sign-in and roles. The very first person is a steward and is made without being signed in. */
final readonly class MakePerson extends Act
{
    use OnPeople;

    /** @param  list<string>  $roles */
    public function __construct(
        #[Field(Kind::Line, 'Sign-in', most: 60)]
        public string $signIn,
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::Secret, 'Password', most: 200)]
        #[\SensitiveParameter] public string $password = '',
        #[Field(Kind::Texts, 'Roles', most: 30)]
        public array $roles = ['reader'],
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Id, 'Tenant', of: Tenant::class)]
        public string $tenant = '',
        #[Field(Kind::Flag, 'A program', 'It has rights of its own and tokens, and no sign-in')]
        public bool $program = false,
    ) {
    }

    public function title(): string
    {
        return "Make the person $this->name";
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        if (preg_match('/\A[a-z][a-z0-9.-]{1,58}\z/', $this->signIn) !== 1) {
            $ledger->refuse('bad-sign-in', 'A sign-in name has lower-case letters, digits, dots and hyphens', field: 'signIn');
        }
        $this->program ?: Passwords::check($ledger, $this->password, [$this->signIn, $this->name]);
        if (Person::query()->where('sign_in', $this->signIn)->exists()) {
            $ledger->refuse('sign-in-taken', "$this->signIn is taken", field: 'signIn');
        }
        $roles = array_values(array_filter($this->roles, fn (mixed $r): bool => is_string($r) && Role::tryFrom($r) !== null));
        if ($roles === [] || in_array(Role::TenantAdmin->value, $roles, true) !== ($this->tenant !== '')) {
            $ledger->refuse('bad-roles', 'Choose at least one role; a tenant admin has a tenant, and nobody else', field: 'roles');
        }
        if (in_array(Role::Guest->value, $roles, true) && count($roles) > 1) {
            $ledger->refuse('guest-alone', 'A guest has what is granted and no other role', field: 'roles');
        }
        $this->program ? self::programAgreesNot($ledger, $roles) : null;
        (
            new Person([
                'id' => $this->id, 'sign_in' => $this->signIn, 'name' => trim($this->name) ?: $this->signIn,
                'password' => $this->program ? bin2hex(random_bytes(32)) : $this->password, 'program' => $this->program,
                'roles' => $roles, 'tenant_id' => $this->tenant ?: null,
            ])
        )->save();
    }

    /**
     * What a second person reads and answers for is no program's.
     *
     * @param  list<string>  $roles
     */
    public static function programAgreesNot(Ledger $ledger, array $roles): void
    {
        $not = array_values(array_intersect([Role::Approver->value, Role::Steward->value], $roles));
        if ($not !== []) {
            $ledger->refuse(
                'program-agrees-not',
                "A program is no $not[0]",
                'Agreement and rights are of people who can be asked.',
                field: 'roles',
            );
        }
    }
}
