<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Rights;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\RightTest;
use App\Models\Role;
use App\Models\Zone;

/** That somebody may, or may not, see or write something is laid down, and tried every hour from now on. */
final readonly class KeepRightTest extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
        #[Field(Kind::Line, 'What', 'A prefix as it is planned, or a zone', most: 200, example: '10.32.0.0/14')]
        public string $object,
        #[Field(Kind::Choice, 'Does', choices: ['see', 'write'])]
        public string $does = 'see',
        #[Field(Kind::Choice, 'May', choices: ['no', 'yes'])]
        public string $expected = 'no',
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return 'Keep a test of rights';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('directory.person', $this->person);
    }

    public function apply(Ledger $ledger): void
    {
        $person = Person::query()->find($this->person) ?? $ledger->refuse('gone', 'The person is not there any more');
        [$noun, $row] = $this->found($ledger);
        $found = Rights::may($person, $this->does, $noun, $row->id);
        $test = new RightTest([
            'id' => $this->id, 'person_id' => $person->id, 'does' => $this->does, 'noun' => $noun, 'object_id' => $row->id,
            'object' => $row->line(), 'expected' => $this->expected === 'yes', 'found' => $found, 'run_at' => $ledger->at,
        ]);
        $test->setRelation('person', $person);
        if ($test->hasTurned()) {
            $ledger->warn(
                'not-so-now',
                'It is not so now: '.($found === true ? "$person->name may" : "$person->name may not"),
                'It is told as a notice until it is so.',
            );
        } else {
            $ledger->passed('so-now', 'It is so now: '.$test->sentence());
        }
        $test->save();
    }

    /** @return array{string, Prefix|Zone} */
    private function found(Ledger $ledger): array
    {
        $row = RightTest::subject($this->object);
        if ($row === null) {
            $ledger->refuse(
                'not-found',
                "\"$this->object\" is no prefix of the plan and no zone",
                'Write a prefix as it is planned, or the name of a zone.',
                field: 'object',
            );
        }

        return [$row instanceof Prefix ? 'prefix' : 'zone', $row];
    }
}
