<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Space;

/** A space gets another name, route distinguisher or description. */
final readonly class ChangeSpace extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Space', of: Space::class)]
        public string $space,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Line, 'Route distinguisher', 'RFC 4364; "-" for none', most: 40, example: '64512:10')]
        public ?string $routeDistinguisher = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the space '.(Space::query()->find($this->space)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'spaces');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Space::query()->find($this->space) ?? $ledger->refuse('gone', 'The space is not there any more');
        self::rename($ledger, $row, $this->name);
        if ($this->routeDistinguisher !== null) {
            $row->route_distinguisher = MakeSpace::distinguisher($ledger, $this->routeDistinguisher === '-' ? ''
                : $this->routeDistinguisher);
        }
        $row->description = $this->description === null ? $row->description : ($this->description === '-' ? '' : trim($this->description));
        $row->save();
    }
}
