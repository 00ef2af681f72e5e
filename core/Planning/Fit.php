<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/** Which open place to take when several fit. */
enum Fit: string
{
    /** the lowest address */
    case First = 'first';
    /** the smallest open block that is large enough, the lowest of equals: large blocks stay whole */
    case Best = 'best';
    /** inside the largest open block, the lowest of equals: its sibling stays open longest, so it can grow */
    case Room = 'room';

    /** One sentence for people. */
    public function explained(): string
    {
        return match ($this) {
            self::First => 'the lowest address that fits',
            self::Best => 'the smallest open block that fits, so that large blocks stay whole',
            self::Room => 'inside the largest open block, so that it can grow',
        };
    }
}
