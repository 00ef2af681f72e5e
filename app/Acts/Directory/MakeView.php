<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\View;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** A view, with the client prefixes it answers, is added behind the others. */
final readonly class MakeView extends Act
{
    /** @param  list<string>  $clients  prefixes that it answers */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Texts, 'Clients', most: 60)]
        public array $clients = [],
    ) {
    }

    public function title(): string
    {
        return "Make the view $this->name";
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Planner) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('name');
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = View::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        $clients = [];
        foreach ($this->clients as $text) {
            try {
                $clients[] = (string) Prefix::parse($text);
            } catch (NotUnderstood $e) {
                $ledger->refuse('not-a-prefix', $e->getMessage(), '', null, 'clients', null, $e->suggestion);
            }
        }
        (
            new View([
                'id' => $this->id, 'name' => trim($this->name), 'clients' => $clients,
                'position' => 1 + (int) View::query()->max('position'),
            ])
        )->save();
    }
}
