<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Intent;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Shipping\Window;

/** That clients of one link may, or may not, reach some prefixes: always, or in a time of the week. */
final readonly class Rule
{
    /** @param  list<Prefix>  $to */
    public function __construct(public string $id, public array $to, public bool $allows, public ?Window $when = null)
    {
    }

    /** The length of the longest prefix of the rule that holds an address; null: it says nothing of it. */
    public function lengthAt(Address $address): ?int
    {
        $longest = null;
        foreach ($this->to as $prefix) {
            if ($prefix->contains($address)) {
                $longest = max($longest ?? 0, $prefix->length);
            }
        }

        return $longest;
    }
}
