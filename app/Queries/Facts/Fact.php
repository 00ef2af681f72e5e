<?php

declare(strict_types=1);

namespace App\Queries\Facts;

/** One thing that is known of each object of a kind: a column of reports, and what rules ask for. */
final readonly class Fact
{
    /** @param  literal-string  $sql */
    public function __construct(public string $label, public string $sql, public FactType $type = FactType::Text)
    {
    }
}
