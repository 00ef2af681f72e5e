<?php

declare(strict_types=1);

namespace App\View;

use Brick\Math\BigInteger;
use Carbon\CarbonImmutable;
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

    /** A time of today as its hour, another one with its day. */
    public static function moment(CarbonImmutable $time): string
    {
        return $time->format($time->isToday() ? 'H:i' : 'j M, H:i');
    }

    /** A size as people say it. */
    public static function size(int $bytes): string
    {
        $unit = min(4, max(0, (int) floor(log(max(1, $bytes), 1024))));
        $value = $bytes / 1024 ** $unit;

        return ($unit === 0 || $value >= 100 ? number_format($value) : rtrim(rtrim(number_format($value, 1), '0'), '.'))
            .' '.['B', 'kB', 'MB', 'GB', 'TB'][$unit];
    }

    /** A count that may be beyond all counting: large ones as a power of two. */
    public static function many(BigInteger|int $count): string
    {
        $count = BigInteger::of($count);
        $bits = $count->getBitLength();

        return match (true) {
            $bits <= 40 => number_format($count->toInt()),
            $count->isEqualTo(BigInteger::of(2)->power($bits - 1)) => '2^'.($bits - 1),
            default => 'over 2^'.($bits - 1),
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
