<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;

/** All sessions of a person end: of oneself, on every other device; of somebody else, by a steward. */
final readonly class EndSessions extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Person', 'Blank: yourself', of: Person::class)]
        public string $person = '',
    ) {
    }

    public function title(): string
    {
        return 'Sign out everywhere';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function landing(): string
    {
        return $this->person === '' ? at('me') : at('directory.list', 'people');
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $own = $this->person === '' || $this->person === $ledger->personId();
        if (! $own && $ledger->person?->does(Role::Steward) === false) {
            $ledger->refuse('not-allowed', 'Not available to you', 'A steward ends the sessions of others.');
        }
        $row = Person::query()->find($own ? (string) $ledger->personId() : $this->person)
            ?? $ledger->refuse('gone', 'The person is not there any more');
        $row->epoch++;
        $row->save();
        if ($own) {
            $ledger->made['epoch'] = $row->epoch;
        }
    }
}
