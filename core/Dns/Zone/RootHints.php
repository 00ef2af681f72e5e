<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Record;

/**
 * Where a resolver begins: names and addresses of the root servers, as a hint file holds them and a priming query answers them (RFC 9609).
 */
final readonly class RootHints
{
    /** @param  array<string, list<string>>  $servers  lower-case name → addresses as text, sorted */
    private function __construct(public array $servers)
    {
    }

    /**
     * From a hint file, which has the form of a zone file.
     *
     * @throws Malformed when it names no root server, or one without an address
     */
    public static function parse(string $text): self
    {
        $faults = [];
        $reader = new ZoneFileReader(Name::root(), function (Fault $fault) use (&$faults): void {
            $fault->severity !== 'error' ?: $faults[] = "line $fault->line, column $fault->column: $fault->message";
        });
        $records = [];
        foreach ($reader->read(preg_split('/(?<=\n)/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: []) as $record) {
            $records[] = $record;
        }
        // A hint file has no SOA; what else is wrong stands in the way.
        if ($faults !== []) {
            throw Malformed::because($faults[0], 'RFC 9609 §4');
        }

        return self::of($records);
    }

    /**
     * @param  list<Record>  $records  of a file, or answer and additional section of a priming query
     *
     * @throws Malformed
     */
    public static function of(array $records): self
    {
        $servers = [];
        foreach ($records as $record) {
            if ($record->owner->isRoot() && $record->data instanceof Ns) {
                $servers[(string) $record->data->target->lower()] = [];
            }
        }
        foreach ($records as $record) {
            $name = (string) $record->owner->lower();
            if ($record->data instanceof HoldsAddress && isset($servers[$name])) {
                $servers[$name][] = (string) $record->data->address();
            }
        }
        if ($servers === []) {
            throw Malformed::because('no NS record of the root', 'RFC 9609 §4');
        }
        foreach ($servers as $name => $addresses) {
            if ($addresses === []) {
                throw Malformed::because("$name has no address", 'RFC 9609 §4.2');
            }
            sort($servers[$name]);
        }
        ksort($servers);

        return new self($servers);
    }

    /** @param  list<array{name: string, addresses: list<string>}>  $rows */
    public static function ofRows(array $rows): self
    {
        $servers = array_column($rows, 'addresses', 'name');
        ksort($servers);

        return new self($servers);
    }

    /** @return list<array{name: string, addresses: list<string>}> */
    public function rows(): array
    {
        return array_map(
            static fn (string $name, array $addresses): array => ['name' => $name, 'addresses' => $addresses],
            array_keys($this->servers),
            array_values($this->servers),
        );
    }

    /** @return list<string> */
    public function addresses(): array
    {
        return array_merge(...array_values($this->servers), ...[[]]);
    }

    /** @return array{added: list<string>, removed: list<string>} lines "name address" that another list has more and less */
    public function against(self $other): array
    {
        return [
            'added' => array_values(array_diff($other->lines(), $this->lines())),
            'removed' => array_values(array_diff($this->lines(), $other->lines())),
        ];
    }

    /** As a hint file. */
    public function text(): string
    {
        $text = '';
        foreach ($this->servers as $name => $addresses) {
            $text .= ". 3600000 IN NS $name\n";
            foreach ($addresses as $address) {
                $text .= "$name 3600000 IN ".(str_contains($address, ':') ? 'AAAA' : 'A')." $address\n";
            }
        }

        return $text;
    }

    /** @return list<string> */
    private function lines(): array
    {
        $lines = [];
        foreach ($this->servers as $name => $addresses) {
            foreach ($addresses as $address) {
                $lines[] = "$name $address";
            }
        }

        return $lines;
    }
}
