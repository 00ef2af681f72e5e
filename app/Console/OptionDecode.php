<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;

final class OptionDecode extends Computes
{
    protected $signature = 'option:decode {code} {hex* : hexadecimal digits of the payload} {--json}';

    protected $description = 'The meaning of the payload of a DHCPv4 option';

    public function handle(): int
    {
        $code = (string) $this->argument('code');
        if (! ctype_digit($code)) {
            return $this->unusable("\"$code\" is no option code: 1 to 254");
        }
        try {
            $payload = Hex::parse(implode(' ', (array) $this->argument('hex')));
            $values = OptionTable::decode((int) $code, $payload);
        } catch (MalformedBytes|BadOption $e) {
            return $this->unusable($e->getMessage());
        }
        $definition = OptionTable::definition((int) $code);
        $this->option('json')
            ? $this->json(['code' => (int) $code, 'name' => $definition->name, 'hex' => Hex::spaced($payload), 'values' => $values])
            : $this->say("option $code $definition->name\n".Hex::spaced($payload)."\n".implode("\n", $values));

        return 0;
    }
}
