<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

/** What a person asked a server of a pair to do cannot be done in its state. */
final class NotNow extends \DomainException
{
}
