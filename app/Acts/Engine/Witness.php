<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** Who writes down what is about to be committed, in the same transaction; what it throws takes all of it back. */
interface Witness
{
    public function of(Outcome $outcome): void;
}
