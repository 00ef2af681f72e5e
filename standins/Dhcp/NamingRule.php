<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;

/** How the leases of one scope are named, from the control channel's form. */
final readonly class NamingRule
{
    /** @param  array<string, string>  $reverse  origin of a reverse zone → endpoint of its primary */
    private function __construct(
        public LeaseNames $who,
        public bool $byPattern,
        public string $pattern,
        public int $ttl,
        public Name $zone,
        public string $server,
        public string $key,
        /** by which the name server chooses the view */
        public ?Address $client,
        public array $reverse,
    ) {
    }

    public static function fromForm(mixed $form): ?self
    {
        $text = static fn (string $key): string => is_array($form) && is_string($form[$key] ?? null) ? $form[$key] : '';
        $who = LeaseNames::tryFrom($text('who'));
        try {
            $zone = Name::parse($text('zone'));
        } catch (Malformed) {
            return null;
        }
        if ($who === null || ! is_array($form) || $text('server') === '') {
            return null;
        }
        $reverse = is_array($form['reverse'] ?? null) ? array_filter($form['reverse'], is_string(...)) : [];

        return new self(
            $who,
            $text('from') === 'pattern',
            $text('pattern'),
            is_int($form['ttl'] ?? null) ? $form['ttl'] : 600,
            $zone,
            $text('server'),
            $text('key'),
            Address::tryParse($text('client')),
            $reverse,
        );
    }

    /** The smallest of the reverse zones that hold the address. */
    public function reverseOf(Address $address): ?Name
    {
        $best = null;
        $length = -1;
        foreach (array_keys($this->reverse) as $origin) {
            $zone = Name::parse((string) $origin);
            $prefix = ReverseName::prefixOf($zone);
            if ($prefix !== null && $prefix->length > $length && $prefix->contains($address)) {
                [$best, $length] = [$zone, $prefix->length];
            }
        }

        return $best;
    }
}
