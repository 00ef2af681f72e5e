<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;

final class OptionEncode extends Computes
{
    protected $signature = 'option:encode {code} {value* : one value an argument} {--json}';

    protected $description = 'The payload of a DHCPv4 option as hexadecimal digits';

    public function handle(): int
    {
        $code = (string) $this->argument('code');
        if (! ctype_digit($code)) {
            return $this->unusable("\"$code\" is no option code: 1 to 254");
        }
        try {
            $payload = OptionTable::encode((int) $code, array_map(strval(...), (array) $this->argument('value')));
        } catch (BadOption $e) {
            return $this->unusable($e->getMessage());
        }
        $definition = OptionTable::definition((int) $code);
        $this->option('json')
            ? $this->json(['code' => (int) $code, 'name' => $definition->name, 'hex' => Hex::spaced($payload), 'values' => OptionTable::decode((int) $code, $payload)])
            : $this->say(Hex::spaced($payload));

        return 0;
    }
}
