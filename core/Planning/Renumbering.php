<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/**
 * Where each address of a prefix goes when the prefix moves: the same distance from the start, and where the target is smaller, from
 * the end when it stood in the last part. An address that finds no place says why.
 */
final readonly class Renumbering
{
    private function __construct(public Prefix $from, public Prefix $to)
    {
    }

    public static function between(Prefix $from, Prefix $to): self
    {
        return new self($from, $to);
    }

    /** Where an address goes; null when the target has no such place. */
    public function of(Address $address): ?Address
    {
        if (! $this->from->contains($address) || $this->from->family() !== $this->to->family()) {
            return null;
        }
        $offset = $address->minus($this->from->first);
        if ($offset->isLessThan($this->to->size())) {
            return $this->to->first->plus($offset);
        }
        // Kept its distance from the end: gateways and infrastructure often stand there.
        $fromEnd = $this->from->last()->minus($address);
        $half = $this->to->size()->quotient(2);

        return $fromEnd->isLessThan($half) ? $this->to->last()->plus((string) $fromEnd->negated()) : null;
    }

    public function ofRange(AddressRange $range): ?AddressRange
    {
        $first = $this->of($range->first);
        $last = $this->of($range->last);

        return $first === null || $last === null || $first->compare($last) > 0 ? null : AddressRange::of($first, $last);
    }

    /**
     * Old and new of many addresses, with what is in the way.
     *
     * @param  iterable<Address>  $addresses  those that move
     * @param  \Closure(Address): ?string  $taken  what already stands at a target, null when it is free
     * @return list<array{old: Address, new: ?Address, conflict: ?string}>
     */
    public function table(iterable $addresses, \Closure $taken): array
    {
        $usable = $this->to->usable();
        $rows = [];
        $used = [];
        foreach ($addresses as $old) {
            $new = $this->of($old);
            $key = $new === null ? '' : bin2hex($new->bytes);
            $conflict = match (true) {
                $new === null => 'the target is too small for it',
                ! $usable->contains($new) => "$new cannot be given to a host",
                isset($used[$key]) => "{$used[$key]} goes there too",
                default => $taken($new),
            };
            $used[$key] ??= (string) $old;
            $rows[] = ['old' => $old, 'new' => $new, 'conflict' => $conflict];
        }

        return $rows;
    }
}
