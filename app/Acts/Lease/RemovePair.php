<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Pair;
use App\Models\Person;

/** A pair goes; scopes that it leases stand in the way. */
final readonly class RemovePair extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Pair', of: Pair::class)]
        public string $pair,
    ) {
    }

    public function title(): string
    {
        return 'Remove the pair '.(Pair::query()->find($this->pair)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.pairs');
    }

    public function apply(Ledger $ledger): void
    {
        $pair = Pair::query()->find($this->pair) ?? $ledger->refuse('gone', 'The pair is not there any more');
        $scopes = $pair->scopes()->count();
        if ($scopes > 0) {
            $ledger->refuse(
                'pair-in-use',
                $scopes === 1 ? "A scope is leased by $pair->name" : "$scopes scopes are leased by $pair->name",
                'Take them out of the pair first.',
                null,
                null,
                at('lease').'?filter=pair:"'.rawurlencode($pair->name).'"',
            );
        }
        $pair->delete();
    }
}
