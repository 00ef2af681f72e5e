<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Classes;
use App\Models\ClientClass;
use App\Models\Person;

/** Clients that are to be served alike are described by rows of what they say of themselves. */
final readonly class MakeClass extends Act
{
    /**
     * @param  list<string>  $fields
     * @param  list<string>  $comparisons
     * @param  list<string>  $values
     */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Choice, 'Holds', choices: ['all', 'any'])]
        public string $holds = 'all',
        #[Field(Kind::Texts, 'Fields', most: 30)]
        public array $fields = [],
        #[Field(Kind::Texts, 'Comparisons', most: 30)]
        public array $comparisons = [],
        #[Field(Kind::Texts, 'Values', most: 2000)]
        public array $values = [],
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make the class $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options.of', 'class', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->name === '') {
            $ledger->refuse('no-name', 'A class needs a name', field: 'name');
        }
        $twin = ClientClass::query()->where('name', $this->name)->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "There is a class $twin->name", field: 'name', link: at('lease.options.of', 'class', $twin->id));
        }
        (
            new ClientClass([
                'id' => $this->id, 'name' => $this->name, 'any' => $this->holds === 'any', 'description' => $this->description,
                'position' => (int) ClientClass::query()->max('position') + 1,
                'conditions' => Classes::rows($ledger, $this->fields, $this->comparisons, $this->values, $this->holds === 'any'),
            ])
        )->save();
        $ledger->passed('class-reads', 'Every row can be compared');
    }
}
