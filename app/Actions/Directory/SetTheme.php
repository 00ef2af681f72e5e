<?php

declare(strict_types=1);

namespace App\Actions\Directory;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Person;

/** Somebody chooses paper or night watch for themselves. */
final readonly class SetTheme extends Action
{
    public function __construct(public string $theme)
    {
    }

    public function title(): string
    {
        return 'Choose the theme';
    }

    public function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        Person::query()->whereKey($person->id)->update(['theme' => $this->theme === 'night' ? 'night' : 'paper']);
    }
}
