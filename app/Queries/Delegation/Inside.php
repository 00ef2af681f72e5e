<?php

declare(strict_types=1);

namespace App\Queries\Delegation;

/** The zones of one name, and the names that lie inside it. */
final readonly class Inside
{
    /**
     * @param  non-empty-list<Delegated>  $zones  one a view
     * @param  list<Inside>  $inside
     */
    public function __construct(public string $name, public array $zones, public array $inside)
    {
    }

    /** @return list<Delegated> its zones and all that are inside */
    public function all(): array
    {
        return [...$this->zones, ...array_merge(...array_map(static fn (self $one): array => $one->all(), $this->inside))];
    }
}
