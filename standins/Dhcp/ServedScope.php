<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/** A scope as a server holds it, from the control channel's form. */
final readonly class ServedScope
{
    /**
     * @param  list<AddressRange>  $ranges  those of this server
     * @param  list<AddressRange>  $exclusions
     * @param  array<int, string>  $payloads  option code → payload
     * @param  array<string, array{address: Address, name: string}>  $reservations  MAC → address
     * @param  array<mixed>  $source  the form it came in
     */
    private function __construct(
        public string $id,
        public Prefix $subnet,
        public array $ranges,
        public array $exclusions,
        public int $leaseTime,
        public array $payloads,
        public array $reservations,
        public array $source,
    ) {
    }

    /** @param  array<mixed>  $form */
    public static function fromForm(array $form): self
    {
        $texts = static fn (string $key): array => array_values(
            array_filter(is_array($form[$key] ?? null) ? $form[$key] : [], is_string(...)),
        );
        $options = $reservations = [];
        foreach (is_array($form['options'] ?? null) ? $form['options'] : [] as $code => $hex) {
            $options[(int) $code] = (string) hex2bin(is_string($hex) ? $hex : '');
        }
        foreach (is_array($form['reservations'] ?? null) ? $form['reservations'] : [] as $one) {
            if (is_array($one) && is_string($one['mac'] ?? null) && is_string($one['address'] ?? null)) {
                $reservations[$one['mac']] = [
                    'address' => Address::parse($one['address']),
                    'name' => is_string($one['name'] ?? null) ? $one['name'] : '',
                ];
            }
        }

        return new self(
            is_string($form['id'] ?? null) ? $form['id'] : '', Prefix::parse(is_string($form['subnet'] ?? null) ? $form['subnet'] : ''),
            array_map(AddressRange::parse(...), $texts('ranges')), array_map(AddressRange::parse(...), $texts('exclusions')),
            is_int($form['lease_time'] ?? null) ? $form['lease_time'] : 3600, $options, $reservations, $form,
        );
    }

    /** May the server hand the address out of its own range? */
    public function offers(Address $address): bool
    {
        foreach ($this->exclusions as $range) {
            if ($range->contains($address)) {
                return false;
            }
        }
        foreach ($this->ranges as $range) {
            if ($range->contains($address)) {
                return true;
            }
        }

        return false;
    }

    public function isReservedForOther(Address $address, string $mac): bool
    {
        foreach ($this->reservations as $owner => $one) {
            if ($owner !== $mac && $one['address']->equals($address)) {
                return true;
            }
        }

        return false;
    }

    /** @return \Generator<int, Address> the addresses of its ranges in order */
    public function addresses(): \Generator
    {
        foreach ($this->ranges as $range) {
            for ($at = $range->first; $at !== null && $range->contains($at); $at = $at->next()) {
                yield $at;
            }
        }
    }
}
