<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Dhcp\Client\ClientClass;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/** A scope as a server holds it, from the control channel's form. */
final readonly class ServedScope
{
    /**
     * @param  list<AddressRange>  $ranges  those of this server
     * @param  list<AddressRange>  $exclusions
     * @param  array<int, string>  $payloads  option code → payload
     * @param  array<string, array{address: Address, name: string, options: array<int, ?string>}>  $reservations  client key in hexadecimal
     *     →
     *     what is reserved for it
     * @param  array<string, string>  $reserved  address → client key for which it is reserved
     * @param  array<string, array{rules: ClientClass, options: array<int, ?string>}>  $classes  id → class, the first one counts
     * @param  array<string, array{class: string, only: bool}>  $kept  range → the class that it is kept for, or closed to
     * @param  array<mixed>  $source  the form it came in
     */
    private function __construct(
        public string $id,
        public Prefix $subnet,
        public array $ranges,
        public array $exclusions,
        public int $leaseTime,
        /** milliseconds that offers are held back */
        public int $delay,
        public array $payloads,
        public array $reservations,
        private array $reserved,
        private array $classes,
        private array $kept,
        public array $source,
        /** id of the pair that leases it; empty when it is this server's alone */
        public string $pair = '',
        public ?NamingRule $naming = null,
        /** probes of an address before it is offered, and milliseconds for an answer to each */
        public int $probes = 0,
        public int $probeWait = 500,
        /** the link that it shares with other scopes; empty when it has its own */
        public string $link = '',
    ) {
    }

    /** @param  array<mixed>  $form */
    public static function fromForm(array $form): self
    {
        $texts = static fn (string $key): array => array_values(
            array_filter(is_array($form[$key] ?? null) ? $form[$key] : [], is_string(...)),
        );
        [$reservations, $reserved] = self::reservations(is_array($form['reservations'] ?? null) ? $form['reservations'] : []);
        $kept = [];
        foreach (is_array($form['kept'] ?? null) ? $form['kept'] : [] as $range => $rule) {
            if (is_array($rule) && is_string($rule['class'] ?? null)) {
                $kept[(string) $range] = ['class' => $rule['class'], 'only' => ($rule['only'] ?? true) === true];
            }
        }

        return new self(
            is_string($form['id'] ?? null) ? $form['id'] : '', Prefix::parse(is_string($form['subnet'] ?? null) ? $form['subnet'] : ''),
            array_map(AddressRange::parse(...), $texts('ranges')), array_map(AddressRange::parse(...), $texts('exclusions')),
            is_int($form['lease_time'] ?? null) ? $form['lease_time'] : 3600,
            is_int($form['delay_ms'] ?? null) ? max(0, min(10_000, $form['delay_ms'])) : 0,
            array_filter(self::payloadsOf($form['options'] ?? []), is_string(...)), $reservations, $reserved,
            self::classes(is_array($form['classes'] ?? null) ? $form['classes'] : []), $kept, $form,
            is_string($form['pair'] ?? null) ? $form['pair'] : '',
            NamingRule::fromForm($form['names'] ?? null),
            max(0, min(10, (int) (is_array($form['probe'] ?? null) ? $form['probe']['tries'] ?? 0 : 0))),
            max(50, min(2000, (int) (is_array($form['probe'] ?? null) ? $form['probe']['wait_ms'] ?? 500 : 500))),
            is_string($form['link'] ?? null) ? $form['link'] : '',
        );
    }

    /** @return list<string> ids of the classes that a client is in */
    public function classesOf(Packet $packet): array
    {
        $ids = [];
        foreach ($this->classes as $id => $class) {
            if ($class['rules']->matches($packet)) {
                $ids[] = (string) $id;
            }
        }

        return $ids;
    }

    /**
     * May the server hand the address out of its own range, to a client of these classes?
     *
     * @param  list<string>  $classes
     */
    public function offers(Address $address, array $classes = []): bool
    {
        foreach ($this->exclusions as $range) {
            if ($range->contains($address)) {
                return false;
            }
        }
        foreach ($this->ranges as $range) {
            if ($range->contains($address)) {
                return $this->opens($range, $classes);
            }
        }

        return false;
    }

    /** @param  list<string>  $classes */
    private function opens(AddressRange $range, array $classes): bool
    {
        $rule = $this->kept[(string) $range] ?? null;

        return $rule === null || in_array($rule['class'], $classes, true) === $rule['only'];
    }

    /** @return array{address: Address, name: string, options: array<int, ?string>}|null by client identifier, or by MAC address */
    public function reservationOf(Packet $packet): ?array
    {
        return $this->reservations[bin2hex($packet->clientKey())] ?? $this->reservations['01'.bin2hex($packet->hardware->bytes)] ?? null;
    }

    public function isReservedForOther(Address $address, Packet $packet): bool
    {
        $owner = $this->reserved[(string) $address] ?? null;

        return $owner !== null && $owner !== bin2hex($packet->clientKey()) && $owner !== '01'.bin2hex($packet->hardware->bytes);
    }

    /**
     * All options for a client, before it is asked what it wants: the scope's, over them those of its classes and of its reservation.
     *
     * @param  list<string>  $classes
     * @return array<int, string>
     */
    public function optionsFor(Packet $packet, array $classes): array
    {
        $all = $this->payloads;
        foreach (array_reverse($classes) as $id) {
            $all = array_replace($all, $this->classes[$id]['options'] ?? []);
        }
        $reservation = $this->reservationOf($packet);
        if ($reservation !== null) {
            $all = array_replace(
                $all,
                $reservation['name'] === '' ? [] : [OptionTable::HOST_NAME => $reservation['name']],
                $reservation['options'],
            );
        }

        return [OptionTable::MASK => $this->subnet->mask()->bytes] + array_filter($all, is_string(...));
    }

    /**
     * @param  list<string>  $classes
     * @return \Generator<int, Address> the addresses of its ranges in order, as far as they are open to these classes
     */
    public function addresses(array $classes = []): \Generator
    {
        foreach ($this->ranges as $range) {
            if (! $this->opens($range, $classes)) {
                continue;
            }
            for ($at = $range->first; $at !== null && $range->contains($at); $at = $at->next()) {
                yield $at;
            }
        }
    }

    /**
     * @param  array<mixed>  $rows
     * @return array{array<string, array{address: Address, name: string, options: array<int, ?string>}>, array<string, string>}
     */
    private static function reservations(array $rows): array
    {
        $reservations = $reserved = [];
        foreach ($rows as $one) {
            if (! is_array($one) || ! is_string($one['address'] ?? null)) {
                continue;
            }
            $client = is_string($one['client'] ?? null) ? $one['client'] : '';
            $key = $client !== '' ? $client : '01'.str_replace(':', '', is_string($one['mac'] ?? null) ? $one['mac'] : '');
            $reservations[$key] = [
                'address' => Address::parse($one['address']), 'name' => is_string($one['name'] ?? null) ? $one['name'] : '',
                'options' => self::payloadsOf($one['options'] ?? []),
            ];
            $reserved[$one['address']] = $key;
        }

        return [$reservations, $reserved];
    }

    /**
     * @param  array<mixed>  $rows
     * @return array<string, array{rules: ClientClass, options: array<int, ?string>}>
     */
    private static function classes(array $rows): array
    {
        $classes = [];
        foreach ($rows as $one) {
            if (! is_array($one) || ! is_string($one['id'] ?? null)) {
                continue;
            }
            $conditions = [];
            foreach (is_array($one['conditions'] ?? null) ? $one['conditions'] : [] as $row) {
                $text = static fn (string $key): string => is_array($row) && is_string($row[$key] ?? null) ? $row[$key] : '';
                $conditions[] = ['field' => $text('field'), 'is' => $text('is'), 'value' => $text('value')];
            }
            $name = is_string($one['name'] ?? null) ? $one['name'] : '';
            $classes[$one['id']] = [
                'rules' => ClientClass::of($one['id'], $name, ($one['any'] ?? false) === true, $conditions),
                'options' => self::payloadsOf($one['options'] ?? []),
            ];
        }

        return $classes;
    }

    /** @return array<int, ?string> code → payload; null: none is sent, on purpose */
    private static function payloadsOf(mixed $options): array
    {
        $payloads = [];
        foreach (is_array($options) ? $options : [] as $code => $hex) {
            $payloads[(int) $code] = is_string($hex) ? (string) hex2bin($hex) : null;
        }

        return $payloads;
    }
}
