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

/** A class holds for other clients, is called otherwise, or comes earlier or later among those that hold for one client. */
final readonly class ChangeClass extends Act
{
    /**
     * @param  ?list<string>  $fields
     * @param  ?list<string>  $comparisons
     * @param  ?list<string>  $values
     */
    public function __construct(
        #[Field(Kind::Id, 'Class', of: ClientClass::class)]
        public string $class,
        #[Field(Kind::Line, 'Name', most: 60)]
        public ?string $name = null,
        #[Field(Kind::Choice, 'Holds', choices: ['all', 'any'])]
        public ?string $holds = null,
        #[Field(Kind::Number, 'Position', most: 10000, least: 1)]
        public ?int $position = null,
        #[Field(Kind::Texts, 'Fields', most: 30)]
        public ?array $fields = null,
        #[Field(Kind::Texts, 'Comparisons', most: 30)]
        public ?array $comparisons = null,
        #[Field(Kind::Texts, 'Values', most: 2000)]
        public ?array $values = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the class '.(ClientClass::query()->find($this->class)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options.of', 'class', $this->class);
    }

    public function apply(Ledger $ledger): void
    {
        $class = ClientClass::query()->find($this->class) ?? $ledger->refuse('gone', 'The class is not there any more');
        $twin = ClientClass::query()->where('name', $this->name ?? '')->whereKeyNot($class->id)->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "There is a class $twin->name", field: 'name', link: at('lease.options.of', 'class', $twin->id));
        }
        $class->name = $this->name === null || $this->name === '' ? $class->name : $this->name;
        $class->any = $this->holds === null ? $class->any : $this->holds === 'any';
        $class->description = $this->description ?? $class->description;
        if ($this->values !== null) {
            $class->conditions = Classes::rows($ledger, $this->fields ?? [], $this->comparisons ?? [], $this->values, $class->any);
        }
        if ($this->position !== null && $this->position !== $class->position) {
            $this->reorder($class, $this->position);
        }
        if ($class->isDirty()) {
            $class->save();
        }
        $ledger->later('Servers tell clients apart by the new rows when this is shipped');
    }

    /** The others keep their order around it. */
    private function reorder(ClientClass $class, int $to): void
    {
        $others = ClientClass::query()->whereKeyNot($class->id)->orderBy('position')->orderBy('id')->get();
        $to = min($to, $others->count() + 1);
        foreach ($others as $i => $other) {
            $place = $i + 1 + ($i + 1 >= $to ? 1 : 0);
            if ($other->position !== $place) {
                $other->position = $place;
                $other->save();
            }
        }
        $class->position = $to;
    }
}
