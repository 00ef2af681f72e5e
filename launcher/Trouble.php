<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Something that a person has to mend; the message says what and how. */
final class Trouble extends \RuntimeException
{
}
