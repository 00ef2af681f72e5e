<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

/** A registered option: its code, its name, the shape of its values and where it is defined. */
final readonly class Definition
{
    public function __construct(public int $code, public string $name, public ValueShape $shape, public string $standard)
    {
    }
}
