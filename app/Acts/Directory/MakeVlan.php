<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Vlans;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;

/** A VLAN is added to a layer-2 domain. */
final readonly class MakeVlan extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public string $domain,
        #[Field(Kind::Number, 'Number', most: 4094, least: 1)]
        public int $number,
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make VLAN $this->number $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'vlans');
    }

    public function apply(Ledger $ledger): void
    {
        Vlans::make($ledger, $this->domain, $this->number, $this->name, $this->id, $this->description);
    }
}
