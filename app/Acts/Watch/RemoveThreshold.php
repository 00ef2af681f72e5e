<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Threshold;

/** A figure is told of no more. */
final readonly class RemoveThreshold extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Threshold', of: Threshold::class)]
        public string $threshold,
    ) {
    }

    public function title(): string
    {
        return 'Remove a threshold';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('watch.servers');
    }

    public function apply(Ledger $ledger): void
    {
        (Threshold::query()->find($this->threshold) ?? $ledger->refuse('gone', 'The threshold is not there any more'))->delete();
    }
}
