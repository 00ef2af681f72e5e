<?php

declare(strict_types=1);

namespace App\Actions\Directory;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** Somebody chooses paper or night watch for themselves. */
final readonly class SetTheme extends Action
{
    public function __construct(
        #[Field(Kind::Choice, 'Theme', choices: ['paper', 'night'])]
        public string $theme,
    ) {
    }

    public function title(): string
    {
        return 'Choose the theme';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        DB::table('people')->where('id', $person->id)->update(['theme' => $this->theme === 'night' ? 'night' : 'paper']);
    }
}
