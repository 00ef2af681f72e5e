<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Domain\Directory\Passwords;
use App\Models\Person;
use Illuminate\Support\Facades\Hash;

/** Somebody's own password, by the one who knows the old one. All other sessions of theirs end. */
final readonly class ChangePassword extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Secret, 'Present password', most: 200)]
        #[\SensitiveParameter] public string $old,
        #[Field(Kind::Secret, 'New password', 'At least 12 characters', most: 200)]
        #[\SensitiveParameter] public string $new,
    ) {
    }

    public function title(): string
    {
        return 'Change your password';
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->find($ledger->personId() ?? '') ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if (! Hash::check($this->old, $row->password)) {
            $ledger->refuse('wrong-password', 'The present password is another one', field: 'old');
        }
        Passwords::check($ledger, $this->new, [$row->sign_in, $row->name], 'new');
        if (Hash::check($this->new, $row->password)) {
            $ledger->refuse('same-password', 'That is the present password', field: 'new');
        }
        $row->password = $this->new;
        $row->must_change = false;
        $row->epoch++;
        $row->save();
        $ledger->made['epoch'] = $row->epoch;
    }
}
