<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\OptionDefinition;
use App\Models\OptionValue;
use App\Models\Person;

/** A code is read as bytes again. */
final readonly class RemoveOptionDefinition extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Definition', of: OptionDefinition::class)]
        public string $definition,
    ) {
    }

    public function title(): string
    {
        return 'Remove the definition of option '.(OptionDefinition::query()->find($this->definition)->code ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options');
    }

    public function apply(Ledger $ledger): void
    {
        $row = OptionDefinition::query()->find($this->definition) ?? $ledger->refuse('gone', 'The definition is not there any more');
        $set = OptionValue::query()->where('family', $row->family)->where('code', $row->code)->count();
        if ($set > 0) {
            $ledger->warn(
                'values-as-bytes',
                ($set === 1 ? '1 value' : "$set values")." of option $row->code will be shown as bytes",
                'What is sent to clients stays as it is.',
            );
        }
        $row->delete();
    }
}
