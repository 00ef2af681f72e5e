<?php

declare(strict_types=1);

namespace App\Domain\Texts;

/** A text that cannot be made, and why: in words for who wrote the template. */
final class TextFault extends \RuntimeException
{
}
