<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Family;

/** A command about one DHCP option: reads its code, prints its payload and meaning. */
abstract class OfOption extends Computes
{
    public function handle(): int
    {
        $code = (string) $this->argument('code');
        if (! ctype_digit($code)) {
            return $this->unusable("\"$code\" is no option code: 1 to ".OptionTable::most($this->family()));
        }
        try {
            $payload = $this->payload((int) $code);
            $values = OptionTable::decode((int) $code, $payload, $this->family());
        } catch (MalformedBytes|BadOption $e) {
            return $this->unusable($e->getMessage());
        }
        $name = OptionTable::definition((int) $code, $this->family())->name;
        $this->option('json')
            ? $this->json(['code' => (int) $code, 'name' => $name, 'hex' => Hex::spaced($payload), 'values' => $values])
            : $this->say($this->spoken("option $code $name", Hex::spaced($payload), $values));

        return 0;
    }

    protected function family(): Family
    {
        return $this->option('six') === true ? Family::V6 : Family::V4;
    }

    /** @throws MalformedBytes|BadOption */
    abstract protected function payload(int $code): string;

    /** @param  list<string>  $values */
    abstract protected function spoken(string $title, string $hex, array $values): string;
}
