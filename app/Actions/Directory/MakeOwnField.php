<?php

declare(strict_types=1);

namespace App\Actions\Directory;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\OwnField;
use App\Models\Person;
use App\Models\Role;

/** The team adds a field of its own to prefixes. */
final readonly class MakeOwnField extends Action
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
        return '/directory/settings';
    }

    public function apply(Ledger $ledger): void
    {
        $name = trim($this->name);
        if ($name === '' || mb_strlen($name) > 60) {
            $ledger->refuse('bad-name', 'A field has a name of 1 to 60 characters', field: 'name');
        }
        if (OwnField::query()->where('name', $name)->exists()) {
            $ledger->refuse('field-twice', "There is a field $name already", field: 'name', link: '/directory/settings');
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

    /** Does a value fit the field? Blank always does. */
    public static function check(Ledger $ledger, OwnField $field, string $value): void
    {
        $fits = match ($field->kind) {
            'number' => is_numeric($value),
            'date' => preg_match('/\A\d{4}-\d\d-\d\d\z/', $value) === 1
                && checkdate((int) substr($value, 5, 2), (int) substr($value, 8, 2), (int) substr($value, 0, 4)),
            'choice' => in_array($value, $field->choices, true),
            default => mb_strlen($value) <= 250,
        };
        if ($value !== '' && ! $fits) {
            $ledger->refuse('bad-field', "\"$value\" does not fit $field->name", match ($field->kind) {
                'number' => 'It takes a number.',
                'date' => 'It takes a date as 2026-03-31.',
                'choice' => 'It takes one of '.implode(', ', $field->choices).'.',
                default => 'It takes at most 250 characters.',
            }, null, "own[$field->id]");
        }
    }
}
