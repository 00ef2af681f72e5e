<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Dhcp\V6\Message;

/** A server's answer with what it has to write down first, or why it is silent. */
final readonly class Answer
{
    /** @param  list<Grant>  $grants */
    private function __construct(public ?Message $message, public array $grants, public string $why)
    {
    }

    /** @param  list<Grant>  $grants */
    public static function with(Message $message, array $grants): self
    {
        return new self($message, $grants, '');
    }

    public static function silent(string $why): self
    {
        return new self(null, [], $why);
    }
}
