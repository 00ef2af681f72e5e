<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Places;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;

/** A layer-2 domain, in which a VLAN number is unique, is added. */
final readonly class MakeDomain extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
    ) {
    }

    public function title(): string
    {
        return "Make the layer-2 domain $this->name";
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
        Places::domain($ledger, $this->id, $this->name, $this->site ?: null);
    }
}
