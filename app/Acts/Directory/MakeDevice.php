<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Device;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;

/** A device is added to the directory. */
final readonly class MakeDevice extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Kind', most: 60)]
        public string $kind = '',
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
    ) {
    }

    public function title(): string
    {
        return "Make the device $this->name";
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Planner) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'devices');
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Device::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        (new Device(['id' => $this->id, 'name' => trim($this->name), 'kind' => $this->kind, 'site_id' => $this->site ?: null]))->save();
    }
}
