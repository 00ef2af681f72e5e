<?php

declare(strict_types=1);

namespace App\Models;

/** A row was written or removed by somebody else between reading it and writing it: the act runs again on what stands there now. */
final class ChangedMeanwhile extends \RuntimeException
{
    public function __construct(public readonly Model $row)
    {
        parent::__construct("A {$row::noun()} changed while it was being written.");
    }
}
