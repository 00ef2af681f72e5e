<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning\Sides;

/** How one prefix stands between two systems. */
enum State: string
{
    case Same = 'same';
    case Differs = 'differs';
    case MissingHere = 'missing here';
    case MissingThere = 'missing there';
    case RuleHere = 'rule here';
    case RuleThere = 'rule there';
    case Unclear = 'unclear';

    public function explained(): string
    {
        return match ($this) {
            self::Same => 'both hold it with the same values',
            self::Differs => 'both hold it, with other values',
            self::MissingHere => 'only the other system holds it',
            self::MissingThere => 'only we hold it',
            self::RuleHere => 'the other system allows it and we do not',
            self::RuleThere => 'we allow it and the other system does not',
            self::Unclear => 'it cannot be understood',
        };
    }
}
