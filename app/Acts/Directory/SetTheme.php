<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use Illuminate\Support\Facades\DB;

/** Somebody chooses paper or night watch for themselves. */
final readonly class SetTheme extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Choice, 'Theme', choices: ['paper', 'night'])]
        public string $theme,
    ) {
    }

    public function title(): string
    {
        return 'Choose the theme';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        DB::table('people')->where('id', $person->id)->update(['theme' => $this->theme === 'night' ? 'night' : 'paper']);
    }
}
