<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** What is proved of a name without DS: it starts no zone, or it starts one that is not signed. */
enum Delegation
{
    case None;
    case Unsigned;
}
