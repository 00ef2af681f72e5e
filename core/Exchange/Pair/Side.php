<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

enum Side: string
{
    case First = 'first';
    case Second = 'second';

    public function other(): self
    {
        return $this === self::First ? self::Second : self::First;
    }
}
