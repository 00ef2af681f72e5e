<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/** What one server may do on one link: what it leases, for how long, and what it tells. Without ranges and delegations it only tells. */
final readonly class Terms
{
    /**
     * @param  list<AddressRange>  $ranges  of this server
     * @param  list<AddressRange>  $exclusions
     * @param  list<Delegation>  $delegations
     * @param  list<Reserved>  $reserved
     * @param  array<int, string>  $options  code → payload
     * @param  int  $preferred  seconds, at most $valid
     * @param  int  $valid  seconds
     * @param  bool  $rapid  answers two messages instead of four to who asks for it (RFC 8415 §21.14)
     */
    public function __construct(
        public Prefix $link,
        public array $ranges,
        public array $exclusions,
        public array $delegations,
        public array $reserved,
        public array $options,
        public int $preferred,
        public int $valid,
        public bool $rapid = false,
    ) {
    }

    public function leases(AssociationKind $kind): bool
    {
        return match ($kind) {
            AssociationKind::Address => $this->ranges !== [] || $this->has(static fn (Reserved $r): bool => $r->net->length === 128),
            AssociationKind::Prefix => $this->delegations !== [] || $this->has(static fn (Reserved $r): bool => $r->net->length < 128),
            AssociationKind::Temporary => false,
        };
    }

    /** Is it of the link, or of what is delegated from it? */
    public function isOnLink(Prefix $net): bool
    {
        return $net->length === 128
            ? $this->link->contains($net)
            : $this->has(static fn (Reserved $r): bool => $r->net->equals($net))
                || array_filter($this->delegations, static fn (Delegation $d): bool => $d->holds($net)) !== [];
    }

    /** May it be given out of ranges or pools, reservations aside? */
    public function offers(Prefix $net): bool
    {
        if ($net->length < 128) {
            return array_filter($this->delegations, static fn (Delegation $d): bool => $d->holds($net)) !== [];
        }
        $inside = static fn (AddressRange $r): bool => $r->contains($net->first);

        return array_filter($this->ranges, $inside) !== [] && array_filter($this->exclusions, $inside) === [];
    }

    public function reservedFor(Duid $client, AssociationKind $kind, int $iaid): ?Reserved
    {
        $own = array_values(array_filter($this->reserved, static fn (Reserved $r): bool => $r->isFor($client, $kind, $iaid)));
        // One that names the number counts before one that is for any.
        usort($own, static fn (Reserved $a, Reserved $b): int => ($a->iaid === null) <=> ($b->iaid === null));

        return $own[0] ?? null;
    }

    public function isReservedForOther(Prefix $net, Duid $client): bool
    {
        return $this->has(static fn (Reserved $r): bool => $r->net->overlaps($net) && ! $r->client->equals($client));
    }

    /** @param  \Closure(Reserved): bool  $is */
    private function has(\Closure $is): bool
    {
        return array_filter($this->reserved, $is) !== [];
    }
}
