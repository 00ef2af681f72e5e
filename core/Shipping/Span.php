<?php

declare(strict_types=1);

namespace HarborPost\Core\Shipping;

/** From a moment, and up to another that is not part of it. */
final readonly class Span
{
    public function __construct(public \DateTimeImmutable $from, public \DateTimeImmutable $to)
    {
    }

    public function holds(\DateTimeImmutable $moment): bool
    {
        return $this->from <= $moment && $moment < $this->to;
    }
}
