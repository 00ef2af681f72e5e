<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\NewToken;
use App\Models\Person;
use App\Models\Role;

/** A token for a program that acts for nobody: with the rights of that program, and shown once to the steward who makes it. */
final readonly class MakeProgramToken extends Act
{
    /** @param  list<string>  $acts */
    public function __construct(
        #[Field(Kind::Id, 'Program', of: Person::class)]
        public string $person,
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Flag, 'Writes', 'It may do acts; without this it reads')]
        public bool $writes = false,
        #[Field(Kind::Texts, 'Acts', 'Keys of the acts it may do; all that the program may when none is named', most: 60)]
        public array $acts = [],
        #[Field(Kind::Number, 'Days', 'After which it ends', most: 3650, least: 1)]
        public int $days = 365,
    ) {
    }

    public function title(): string
    {
        return "Make the token $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    /** It holds a secret, so it is in no draft that others read. */
    public static function governed(): bool
    {
        return false;
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function landing(): string
    {
        return at('directory.person', $this->person);
    }

    public function apply(Ledger $ledger): void
    {
        $person = Person::query()->find($this->person) ?? $ledger->refuse('gone', 'The program is not there any more', field: 'person');
        if (str_starts_with((string) $ledger->via, 'token ')) {
            $ledger->refuse('token-makes-none', 'A program makes no token', 'Somebody who is there makes it, and sees it once.');
        }
        if (! $person->program) {
            $ledger->refuse('not-a-program', "$person->name makes tokens on their own page", 'Nobody acts for somebody else unseen.',
                field: 'person');
        }
        $ledger->made['once'] = NewToken::make($ledger, $person, $this->id, $this->name, $this->writes, $this->acts, $this->days);
        $ledger->made['once-words'] = 'The token is';
    }
}
