<?php

declare(strict_types=1);

namespace App\Links;

/** How one message reaches the management side of a server, and its answer comes back. */
interface Wire
{
    /**
     * @param  array<string, mixed>  $message
     * @return array<string, mixed> with "error" where it will not
     *
     * @throws Unanswered
     */
    public function tell(string $op, array $message): array;

    /** @return ?list<string> what it can do; null: everything */
    public function does(): ?array;
}
