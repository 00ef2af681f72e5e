<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Kept;
use App\Models\Person;
use App\Models\Retention;

/** Rows that were older than they are kept went: the history says how many, and by which rule. */
final readonly class NoteTrimmed extends Act
{
    public function __construct(public Kept $kind)
    {
    }

    public function title(): string
    {
        return 'What was older than it is kept went: '.lcfirst($this->kind->title());
    }

    public static function may(Person $person): bool
    {
        return false;
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $rule = Retention::query()->where('kind', $this->kind)->lockForUpdate()->first();
        if ($rule !== null && $rule->going > 0) {
            $rule->fill(['trimmed_at' => now(), 'trimmed_rows' => $rule->going, 'going' => 0])->save();
        }
    }
}
