<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Intent;

/** Whether an address may be reached: always or not, and by which rules otherwise at times. */
final readonly class Answer
{
    /** @param  list<Rule>  $times  rules of a time of the week that say otherwise while it lasts, the one that goes first in front */
    public function __construct(public bool $allows, public ?Rule $because, public array $times)
    {
    }
}
