<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\RightTest;
use App\Models\Role;

/** A test of rights is tried no more. */
final readonly class RemoveRightTest extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Test', of: RightTest::class)]
        public string $test,
    ) {
    }

    public function title(): string
    {
        return 'Remove a test of rights';
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
        return at('directory.list', 'people');
    }

    public function apply(Ledger $ledger): void
    {
        (RightTest::query()->find($this->test) ?? $ledger->refuse('gone', 'The test is not there any more'))->delete();
    }
}
