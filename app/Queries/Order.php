<?php

declare(strict_types=1);

namespace App\Queries;

/** In which order a list is asked for, by its address, and how the heads of its table ask for another. */
final readonly class Order
{
    private function __construct(public string $by, public bool $down)
    {
    }

    /**
     * @param  array<string, mixed>  $sorts  what heads are called in the address; the first one where none of them is asked for
     * @param  string  $asked  one of them, with a hyphen in front from the last to the first
     */
    public static function of(array $sorts, string $asked): self
    {
        $by = ltrim($asked, '-');

        return isset($sorts[$by]) ? new self($by, str_starts_with($asked, '-')) : new self((string) array_key_first($sorts), false);
    }

    /** What a head asks for when it is chosen: its own order, or the other way round. */
    public function asks(string $by): string
    {
        return $this->by === $by && ! $this->down ? "-$by" : $by;
    }

    /** How a head says that the list goes by it (ARIA 1.2, aria-sort). */
    public function says(string $by): string
    {
        return $this->by !== $by ? 'none' : ($this->down ? 'descending' : 'ascending');
    }
}
