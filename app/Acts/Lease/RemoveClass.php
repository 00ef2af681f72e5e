<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Options;
use App\Models\ClientClass;
use App\Models\Person;
use App\Models\ScopeRange;
use HarborPost\Core\Dhcp\Option\OptionLayer;

/** A class goes, with its options; a range that is kept for it stands in the way. */
final readonly class RemoveClass extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Class', of: ClientClass::class)]
        public string $class,
    ) {
    }

    public function title(): string
    {
        return 'Remove the class '.(ClientClass::query()->find($this->class)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.classes');
    }

    public function apply(Ledger $ledger): void
    {
        $class = ClientClass::query()->find($this->class) ?? $ledger->refuse('gone', 'The class is not there any more');
        $range = ScopeRange::query()->with('scope')->where('class_id', $class->id)->first();
        if ($range !== null) {
            $ledger->refuse(
                'class-in-use',
                "{$range->range()} of {$range->scope->name} is ".($range->class_only ? 'kept for' : 'closed to')." $class->name",
                'Open the range first.',
                null,
                null,
                at('lease.scope', $range->scope_id),
            );
        }
        $options = $class->optionValues()->count();
        if ($options > 0) {
            $ledger->warn('with-options', "$options options of $class->name go with it", 'Its clients get those of the outer layers.');
        }
        Options::removeOf(OptionLayer::ClientClass, $class->id);
        $class->delete();
    }
}
