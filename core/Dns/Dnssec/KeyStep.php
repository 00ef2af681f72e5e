<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** A step in the life of a key and the earliest time at which it breaks nothing. */
final readonly class KeyStep
{
    /** @param  ?int  $earliest  seconds since 1970; null waits for the parent, or for an earlier step */
    public function __construct(public string $key, public KeyAct $act, public ?int $earliest)
    {
    }

    public function isDue(int $now): bool
    {
        return $this->earliest !== null && $this->earliest <= $now;
    }
}
