<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** The database went away while it was asked to commit. */
final class OutcomeUnknown extends \RuntimeException
{
    /** @param  list<Ledger>  $ledgers */
    public function __construct(public readonly Attempt $attempt, public readonly array $ledgers, \Throwable $cause)
    {
        parent::__construct('No answer to COMMIT.', 0, $cause);
    }
}
