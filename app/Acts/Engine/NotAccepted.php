<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** A value that an input does not take, in words that follow the label of the input. */
final class NotAccepted extends \RuntimeException
{
}
