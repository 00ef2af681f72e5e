<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dhcp\Option\OptionTable;

final class OptionEncode extends OfOption
{
    protected $signature = 'option:encode {code} {value* : one value an argument} {--six : of DHCPv6} {--json}';

    protected $description = 'The payload of a DHCP option as hexadecimal digits';

    protected function payload(int $code): string
    {
        return OptionTable::encode($code, array_values(array_map(strval(...), (array) $this->argument('value'))), $this->family());
    }

    protected function spoken(string $title, string $hex, array $values): string
    {
        return $hex;
    }
}
