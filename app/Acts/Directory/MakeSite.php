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

/** A site is added to the directory. */
final readonly class MakeSite extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Id, 'Site above', of: Site::class)]
        public string $parent = '',
    ) {
    }

    public function title(): string
    {
        return "Make the site $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'sites');
    }

    public function apply(Ledger $ledger): void
    {
        Places::site($ledger, $this->id, $this->name, $this->parent ?: null);
    }
}
