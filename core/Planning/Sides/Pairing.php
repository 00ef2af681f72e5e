<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning\Sides;

/** One line of a comparison: what one or both sides hold of a prefix. */
final readonly class Pairing
{
    /** @param  list<string>  $fields  values that differ, by the keys of {@see Held::VALUES} */
    public function __construct(
        public State $state,
        public ?Held $here,
        public ?Held $there,
        public array $fields = [],
        public string $why = '',
    ) {
    }

    public function prefix(): string
    {
        return $this->here->prefix ?? $this->there->prefix ?? '';
    }

    public function groups(): bool
    {
        return $this->here->groups ?? $this->there->groups ?? false;
    }

    /** The same line of two comparisons has the same key. */
    public function key(): string
    {
        return ($this->here->id ?? '').'|'.($this->there->id ?? '');
    }
}
