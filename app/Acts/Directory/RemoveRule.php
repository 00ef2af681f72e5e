<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\ApprovalRule;
use App\Models\Person;
use App\Models\Role;

/** A rule of agreement goes: what only it asked for can be committed by one person again. */
final readonly class RemoveRule extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Rule', of: ApprovalRule::class)]
        public string $rule,
    ) {
    }

    public function title(): string
    {
        return 'Remove a rule of agreement';
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
        return at('ship.rules');
    }

    public function apply(Ledger $ledger): void
    {
        $rule = ApprovalRule::query()->find($this->rule) ?? $ledger->refuse('gone', 'The rule is not there any more');
        $rule->delete();
        $ledger->later('Drafts that wait for this rule alone can be committed by their authors');
    }
}
