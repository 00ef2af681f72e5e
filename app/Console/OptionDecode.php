<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Bytes\Hex;

final class OptionDecode extends OfOption
{
    protected $signature = 'option:decode {code} {hex* : hexadecimal digits of the payload} {--six : of DHCPv6} {--json}';

    protected $description = 'The meaning of the payload of a DHCP option';

    protected function payload(int $code): string
    {
        return Hex::parse(implode(' ', (array) $this->argument('hex')));
    }

    protected function spoken(string $title, string $hex, array $values): string
    {
        return "$title\n$hex\n".implode("\n", $values);
    }
}
