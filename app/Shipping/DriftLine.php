<?php

declare(strict_types=1);

namespace App\Shipping;

/** One difference between a server and the plan, in words. */
final readonly class DriftLine
{
    /** @param  string  $why  why it cannot be taken into the plan; empty when it can */
    public function __construct(public string $what, public string $there, public string $here, public string $why = '')
    {
    }

    public function takes(): bool
    {
        return $this->why === '';
    }
}
