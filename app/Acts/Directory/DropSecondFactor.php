<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Person;
use App\Models\Role;
use Illuminate\Support\Facades\Hash;

/** The second factor of somebody goes: one's own with the password, that of another by a steward when the device is lost. */
final readonly class DropSecondFactor extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
        #[Field(Kind::Secret, 'Your password', most: 200)]
        #[\SensitiveParameter] public string $password,
    ) {
    }

    public function title(): string
    {
        return 'Take the second factor of '.(Person::query()->find($this->person)->name ?? 'somebody').' away';
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->lockForUpdate()->find($this->person) ?? $ledger->refuse('gone', 'The person is not there any more');
        $me = $ledger->person;
        if ($me !== null && $row->id !== $me->id && ! ($me->does(Role::Steward) && ! $me->isBound())) {
            $ledger->refuse('not-yours', 'Only a steward does this for others');
        }
        if ($me !== null && ! Hash::check($this->password, $me->password)) {
            $ledger->refuse('wrong-password', 'The present password is another one', field: 'password');
        }
        $row->fill(['code_secret' => null, 'code_counter' => 0, 'paper_codes' => null]);
        $row->epoch++;
        $row->save();
        $row->id === $me?->id ? $ledger->made['epoch'] = $row->epoch : null;
    }
}
