<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use Illuminate\Support\Str;

/** A steward gives somebody a password for one sign-in; it is shown once, and the person then sets their own. */
final readonly class ResetPassword extends Act
{
    use OnPeople;

    public function __construct(
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
    ) {
    }

    public function title(): string
    {
        return 'Reset the password of '.(Person::query()->find($this->person)->name ?? 'somebody');
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->find($this->person) ?? $ledger->refuse('gone', 'The person is not there any more');
        if ($row->id === $ledger->personId()) {
            $ledger->refuse('yourself', 'Change your own password on your own page', link: at('me'));
        }
        if ($row->program) {
            $ledger->refuse('is-a-program', "$row->name is a program, and signs in nowhere", 'It has tokens.');
        }
        $once = implode('-', str_split(Str::lower(Str::random(16)), 4));
        $row->password = $once;
        $row->must_change = true;
        $row->epoch++;
        $row->save();
        $ledger->made['once'] = $once;
    }
}
