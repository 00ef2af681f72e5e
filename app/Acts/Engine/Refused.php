<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** An act cannot be carried out; the notes in the ledger say why. */
final class Refused extends \RuntimeException
{
    public function __construct(public readonly Note $note)
    {
        parent::__construct($note->message);
    }
}
