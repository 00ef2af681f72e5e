<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Tenant;

/** A tenant gets another name. */
final readonly class ChangeTenant extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Tenant', of: Tenant::class)]
        public string $tenant,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the tenant '.(Tenant::query()->find($this->tenant)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'tenants');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Tenant::query()->find($this->tenant) ?? $ledger->refuse('gone', 'The tenant is not there any more');
        self::rename($ledger, $row, $this->name);
        $row->save();
    }
}
