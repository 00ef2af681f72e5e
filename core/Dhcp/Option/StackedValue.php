<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Net\Family;

/** One option's value with the layer it is written down in. */
final readonly class StackedValue
{
    /** @param  list<string>  $values  none: empty on purpose */
    public function __construct(
        public int $code,
        public array $values,
        public OptionLayer $layer,
        /** the object of the layer: empty for the organisation */
        public string $of,
        /** how people call that object */
        public string $name,
        public Family $family = Family::V4,
        /** how people read the values, where they are kept as bytes */
        public ?string $read = null,
    ) {
    }

    /** The bytes that are sent; null when none are: empty on purpose, and the option has no empty form. */
    public function payload(): ?string
    {
        return OptionStack::payloadOf($this->code, $this->values, $this->family);
    }

    public function words(): string
    {
        return $this->values === [] ? 'empty on purpose' : $this->read ?? implode(', ', $this->values);
    }
}
