<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;

/** A command about one DHCPv4 option: reads its code, prints its payload and meaning. */
abstract class OfOption extends Computes
{
    public function handle(): int
    {
        $code = (string) $this->argument('code');
        if (! ctype_digit($code)) {
            return $this->unusable("\"$code\" is no option code: 1 to 254");
        }
        try {
            $payload = $this->payload((int) $code);
            $values = OptionTable::decode((int) $code, $payload);
        } catch (MalformedBytes|BadOption $e) {
            return $this->unusable($e->getMessage());
        }
        $name = OptionTable::definition((int) $code)->name;
        $this->option('json')
            ? $this->json(['code' => (int) $code, 'name' => $name, 'hex' => Hex::spaced($payload), 'values' => $values])
            : $this->say($this->spoken("option $code $name", Hex::spaced($payload), $values));

        return 0;
    }

    /** @throws MalformedBytes|BadOption */
    abstract protected function payload(int $code): string;

    /** @param  list<string>  $values */
    abstract protected function spoken(string $title, string $hex, array $values): string;
}
