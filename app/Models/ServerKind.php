<?php

declare(strict_types=1);

namespace App\Models;

/** What a server is for. */
enum ServerKind: string
{
    case Dns = 'dns';
    case Resolver = 'resolver';
    case Roots = 'roots';
    case Dhcp = 'dhcp';
    case Network = 'network';

    /** What it does, in words. */
    public function does(): string
    {
        return match ($this) {
            self::Dns => 'answers zones',
            self::Resolver => 'resolves for others',
            self::Roots => 'plays the root servers',
            self::Dhcp => 'leases',
            self::Network => 'probes the network, reads and sets switches',
        };
    }

    /** What it holds, in the plural. */
    public function holds(): string
    {
        return match ($this) {
            self::Dhcp => 'scopes',
            self::Network => 'VLANs',
            default => 'zones',
        };
    }

    /** @return list<self> those that answer questions about names */
    public static function naming(): array
    {
        return [self::Dns, self::Resolver];
    }

    /** @return list<self> those that questions can be sent to */
    public static function asked(): array
    {
        return [...self::naming(), self::Roots];
    }

    /** @return list<self> those that the plan is brought to, in the order in which that is done */
    public static function shipped(): array
    {
        return [...self::naming(), self::Dhcp, self::Network];
    }

    /** @return array<string, string> value → what it does */
    public static function choices(): array
    {
        return array_combine(self::values(), array_map(static fn (self $k): string => $k->does(), self::cases()));
    }

    /** @return list<string> */
    public static function values(): array
    {
        return array_map(static fn (self $k): string => $k->value, self::cases());
    }
}
