<?php

declare(strict_types=1);

namespace App\Models;

/** The kinds of objects that reports list and rules judge. */
enum FactKind: string
{
    case Subnet = 'subnet';
    case Address = 'address';
    case Zone = 'zone';
    case Scope = 'scope';
    case Vlan = 'vlan';
    case Server = 'server';
    case Device = 'device';
    case Change = 'change';
    case Person = 'person';

    public function plural(): string
    {
        return match ($this) {
            self::Address => 'addresses',
            self::Person => 'people and what they may do',
            self::Vlan => 'VLANs',
            default => $this->value.'s',
        };
    }

    public function singular(): string
    {
        return $this === self::Vlan ? 'VLAN' : $this->value;
    }

    /** Does it stand somewhere, so that it can be narrowed to a site? */
    public function hasSite(): bool
    {
        return in_array($this, [self::Subnet, self::Address, self::Scope, self::Server, self::Device], true);
    }

    /** May rules judge it? What was done and who people are is reported, and not judged. */
    public function isJudged(): bool
    {
        return $this !== self::Change && $this !== self::Person;
    }
}
