<?php

declare(strict_types=1);

namespace App\View\Joined;

/** How things stand at a box, or along the line that leads to it. */
enum Sign: string
{
    case Good = 'ok';
    case Wrong = 'stop';
    case Odd = 'warn';
    case Waits = 'wait';

    /** nothing is said of it */
    case Plain = 'unsaid';
}
