<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\SigningPolicy;
use App\Models\Zone;

/** A way of signing goes, unless a zone is signed by it. */
final readonly class RemovePolicy extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Policy', of: SigningPolicy::class)]
        public string $policy,
    ) {
    }

    public function title(): string
    {
        return 'Remove the signing policy '.(SigningPolicy::query()->find($this->policy)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.signing');
    }

    public function apply(Ledger $ledger): void
    {
        $policy = SigningPolicy::query()->lockForUpdate()->find($this->policy)
            ?? $ledger->refuse('gone', 'The policy is not there any more');
        $zone = Zone::query()->with('view')->where('policy_id', $policy->id)->first();
        if ($zone !== null) {
            $ledger->refuse('policy-in-use', "{$zone->line()} is signed by it", link: at('name.zone.signing', $zone->id));
        }
        $policy->delete();
    }
}
