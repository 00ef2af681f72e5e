<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

/** Where an option's value is written down, from the outermost in: the layer nearest to the client wins. */
enum OptionLayer: string
{
    case Organisation = 'organisation';
    case Server = 'server';
    case Site = 'site';
    case Prefix = 'prefix';
    case Scope = 'scope';
    case ClientClass = 'class';
    case Reservation = 'reservation';

    public function label(): string
    {
        return match ($this) {
            self::Organisation => 'organisation',
            self::Server => 'server',
            self::Site => 'site',
            self::Prefix => 'prefix',
            self::Scope => 'scope',
            self::ClientClass => 'class',
            self::Reservation => 'reservation',
        };
    }
}
