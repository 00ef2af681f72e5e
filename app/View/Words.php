<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** Short words for narrow places. */
final class Words
{
    public static function layer(OptionLayer $layer): string
    {
        return match ($layer) {
            OptionLayer::Reservation => 'Client',
            OptionLayer::ClientClass => 'Class',
            OptionLayer::Scope => 'Scope',
            OptionLayer::Prefix => 'Prefix',
            OptionLayer::Site => 'Site',
            OptionLayer::Server => 'Server',
            OptionLayer::Organisation => 'Org.',
        };
    }

    /** @param  list<string>  $addresses */
    public static function offLink(array $addresses, Prefix $net): bool
    {
        foreach ($addresses as $text) {
            $address = Address::tryParse($text);
            if ($address !== null && ! $net->contains($address)) {
                return true;
            }
        }

        return false;
    }
}
