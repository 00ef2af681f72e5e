<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Prefix;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;

/** A prefix stands among a person's favourites, or not any more. It concerns that person only. */
final readonly class MarkFavourite extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Flag, 'On')]
        public bool $on = true,
    ) {
    }

    public function title(): string
    {
        return $this->on ? 'Keep among favourites' : 'Take from favourites';
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if (Reach::of($person)->prefixes()->whereKey($this->prefix)->doesntExist()) {
            $ledger->refuse('not-available', 'This prefix is not available to you');
        }
        $row = ['person_id' => $person->id, 'prefix_id' => $this->prefix];
        $this->on ? DB::table('favourites')->insertOrIgnore($row) : DB::table('favourites')->where($row)->delete();
    }
}
