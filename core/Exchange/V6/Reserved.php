<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\Prefix;

/** An address (a /128) or a prefix that one client always gets, whatever its number or for one number of its associations. */
final readonly class Reserved
{
    /** @param  array<int, ?string>  $options  code → payload; null: none is sent, on purpose */
    public function __construct(public Duid $client, public ?int $iaid, public Prefix $net, public array $options = [])
    {
    }

    public function isFor(Duid $client, AssociationKind $kind, int $iaid): bool
    {
        return $this->client->equals($client)
            && ($this->net->length === 128) === ($kind === AssociationKind::Address)
            && ($this->iaid === null || $this->iaid === $iaid);
    }
}
