<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\OwnField;
use App\Models\Person;
use App\Models\Role;

/** The team adds a field of its own to prefixes. */
final readonly class MakeOwnField extends Act
{
    public const KINDS = ['text', 'number', 'date', 'choice'];

    public function __construct(
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Kind', most: 10)]
        public string $kind = 'text',
        #[Field(Kind::Line, 'Choices', 'Apart by commas', most: 2000)]
        public string $choices = '',
    ) {
    }

    public function title(): string
    {
        return "Add the field $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.settings');
    }

    public function apply(Ledger $ledger): void
    {
        $name = trim($this->name);
        if ($name === '' || mb_strlen($name) > 60) {
            $ledger->refuse('bad-name', 'A field has a name of 1 to 60 characters', field: 'name');
        }
        if (OwnField::query()->where('name', $name)->exists()) {
            $ledger->refuse('field-twice', "There is a field $name already", field: 'name', link: at('directory.settings'));
        }
        $choices = array_values(array_filter(array_map(trim(...), explode(',', $this->choices)), fn (string $c): bool => $c !== ''));
        if (! in_array($this->kind, self::KINDS, true) || $this->kind === 'choice' && count($choices) < 2) {
            $ledger->refuse(
                'bad-kind',
                'The kind is text, number, date or choice; a choice has at least two',
                field: $this->kind === 'choice' ? 'choices' : 'kind',
            );
        }
        (
            new OwnField(['id' => $this->id, 'name' => $name, 'kind' => $this->kind, 'choices' => $this->kind === 'choice' ? $choices : []])
        )->save();
    }
}
