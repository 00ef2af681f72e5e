<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use Brick\Math\BigInteger;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\InterfaceId;
use HarborPost\Core\Net\Prefix;

/** Which address or prefix a client is given, and why: the same for whoever computes it, so that it can be said before it is done. */
final readonly class Choice
{
    /** How many neighbours are tried when the first place is taken; a pool up to this size is given to the last one. */
    private const TRIES = 65_536;

    public function __construct(public ?Prefix $net, public string $why)
    {
    }

    /** In this order: reserved, held now, had last, wished for, and the place where a hash of client and number points. */
    public static function of(Terms $terms, Held $held, Duid $client, Association $wish, int $now): self
    {
        $key = $wish->key($client);
        $free = static function (Prefix $net) use ($held, $key, $now): bool {
            $holder = $held->holder($net, $now);

            return $holder === null || $holder === $key;
        };
        $reserved = $terms->reservedFor($client, $wish->kind, $wish->iaid);
        if ($reserved !== null) {
            if ($free($reserved->net)) {
                return new self($reserved->net, 'reserved for it');
            }
            $instead = 'what is reserved for it is leased to another; ';
        }
        $instead ??= '';
        $usable = static fn (?Prefix $net): bool => $net !== null
            && $terms->offers($net)
            && ! $terms->isReservedForOther($net, $client)
            && ! ($net->length === 128 && $terms->link->length === 64 && InterfaceId::isReserved(substr($net->first->bytes, 8)))
            && $free($net);
        foreach ($held->current($key, $now) as $net) {
            if ($usable($net)) {
                return new self($net, "{$instead}it has it now");
            }
        }
        $last = $held->last($key);
        if ($last !== null && $usable($last)) {
            return new self($last, "{$instead}it had it last");
        }
        foreach ($wish->leases as $hint) {
            if ($usable($hint->net)) {
                return new self($hint->net, "{$instead}it asks for it");
            }
        }
        $length = $wish->kind === AssociationKind::Prefix ? ($wish->leases[0]->net->length ?? null) : null;
        foreach (self::places($terms, $wish->kind, $key, $length) as $net) {
            if ($usable($net)) {
                return new self($net, $instead.'the first free one from where a hash of the client and its number points');
            }
        }

        return new self(null, $instead.self::none($terms, $wish->kind));
    }

    private static function none(Terms $terms, AssociationKind $kind): string
    {
        return match (true) {
            $kind === AssociationKind::Temporary => 'temporary addresses are not leased here',
            ! $terms->leases($kind) => $kind === AssociationKind::Prefix ? 'no prefix is delegated on this link'
                : 'no addresses are leased on this link',
            $kind === AssociationKind::Prefix => 'every prefix that may be delegated is given, or reserved',
            default => 'every address that may be leased is given, reserved or kept out',
        };
    }

    /** @return \Generator<int, ?Prefix> */
    private static function places(Terms $terms, AssociationKind $kind, string $key, ?int $length): \Generator
    {
        $pools = $kind === AssociationKind::Prefix ? $terms->delegations : ($kind === AssociationKind::Address ? $terms->ranges : []);
        $sizes = array_map(
            static fn (AddressRange|Delegation $p): BigInteger => $p instanceof Delegation ? $p->count() : $p->size(),
            $pools,
        );
        $total = array_reduce($sizes, static fn (BigInteger $sum, BigInteger $n): BigInteger => $sum->plus($n), BigInteger::zero());
        if ($total->isZero()) {
            return;
        }
        $start = BigInteger::fromBytes(substr(hash('sha256', $key, true), 0, 16), false)->mod($total);
        $tries = $total->isLessThan(self::TRIES) ? $total->toInt() : self::TRIES;
        // A router that asks for a length is given that one as long as there is one.
        foreach ($length === null ? [null] : [$length, null] as $only) {
            for ($i = 0; $i < $tries; $i++) {
                $net = self::at($pools, $sizes, $start->plus($i)->mod($total));
                if ($only === null || $net?->length === $only) {
                    yield $net;
                }
            }
        }
    }

    /**
     * @param  list<AddressRange>|list<Delegation>  $pools
     * @param  list<BigInteger>  $sizes
     */
    private static function at(array $pools, array $sizes, BigInteger $number): ?Prefix
    {
        foreach ($pools as $i => $pool) {
            if ($number->isLessThan($sizes[$i])) {
                return $pool instanceof Delegation ? $pool->part($number) : $pool->first->plus($number)?->in(128);
            }
            $number = $number->minus($sizes[$i]);
        }

        return null;
    }
}
