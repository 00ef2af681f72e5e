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

/** A tenant is added to the directory. */
final readonly class MakeTenant extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return "Make the tenant $this->name";
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
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Tenant::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        (new Tenant(['id' => $this->id, 'name' => trim($this->name)]))->save();
    }
}
