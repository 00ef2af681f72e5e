<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

/** A condition that says nothing which could be compared. */
final class BadCondition extends \InvalidArgumentException
{
    public static function of(string $message): self
    {
        return new self($message);
    }
}
