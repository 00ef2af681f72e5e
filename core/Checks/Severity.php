<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

/** Errors block; warnings can be overridden by somebody who may; notes inform. */
enum Severity: string
{
    case Error = 'error';
    case Warning = 'warning';
    case Note = 'note';
}
