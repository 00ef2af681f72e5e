<?php

declare(strict_types=1);

namespace HarborPost\Standins\Network;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Mode;
use React\EventLoop\LoopInterface;

/**
 * A simulated network: hosts that answer a probe or not, with their MACs, each from a time on and until a time; and what its switches
 * are set to: VLANs, gateway interfaces, relays, ports and filters.
 *
 * Over the control channel: `hosts` and `switches` set or add, `probe` asks a stretch of addresses, `vlans` and `ports` read the switches.
 */
final class Network
{
    /** Addresses that one message may ask for. */
    public const MOST = 4096;

    /** @var array<string, array{mac: string, from: int, until: int}> bytes as hex → host */
    private array $hosts = [];

    /**
     * @var array<string, array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
     *     denies: ?list<string>, advertises: array<mixed>|null}>
     */
    private array $vlans = [];

    /**
     * @var array<string, array{domain: string, device: string, port: string, native: ?int, voice: ?int, lldp: bool, poe: bool,
     *     priority: int}>
     */
    private array $ports = [];

    private readonly Control $control;

    /** @param  \Closure(): int  $now  seconds since 1970 */
    public function __construct(LoopInterface $loop, int $port, string $token, string $directory, private readonly \Closure $now)
    {
        $journal = new Journal("$directory/network.log");
        foreach ($journal->entries() as $entry) {
            $this->keep($entry);
        }
        $this->control = new Control($loop, $port, $token, [
            'status' => fn (array $m): array => ['hosts' => count($this->hosts), 'vlans' => count($this->vlans)],
            'hosts' => function (array $m) use ($journal): array {
                $this->keep(['hosts' => $m['hosts'] ?? [], 'clear' => $m['clear'] ?? false]);
                $journal->append(['hosts' => $m['hosts'] ?? [], 'clear' => $m['clear'] ?? false]);

                return ['hosts' => count($this->hosts)];
            },
            'switches' => function (array $m) use ($journal): array {
                $entry = ['vlans' => $m['vlans'] ?? [], 'ports' => $m['ports'] ?? []];
                $this->keep($entry);
                $journal->append($entry);

                return ['vlans' => count($this->vlans), 'ports' => count($this->ports)];
            },
            'ports' => fn (array $m): array => ['ports' => array_values($this->ports)],
            'vlans' => fn (array $m): array => ['vlans' => array_values($this->vlans)],
            'probe' => fn (array $m): array => $this->probe($m),
        ]);
    }

    /** @param  array<mixed>  $entry */
    private function keep(array $entry): void
    {
        if (($entry['clear'] ?? false) === true) {
            $this->hosts = [];
        }
        foreach (is_array($entry['hosts'] ?? null) ? $entry['hosts'] : [] as $host) {
            $address = is_array($host) && is_string($host['address'] ?? null) ? Address::tryParse($host['address']) : null;
            if ($address === null || ! is_array($host)) {
                continue;
            }
            if (($host['gone'] ?? false) === true) {
                unset($this->hosts[bin2hex($address->bytes)]);

                continue;
            }
            $this->hosts[bin2hex($address->bytes)] = [
                'mac' => is_string($host['mac'] ?? null) ? $host['mac'] : '',
                'from' => is_int($host['from'] ?? null) ? $host['from'] : 0,
                'until' => is_int($host['until'] ?? null) ? $host['until'] : PHP_INT_MAX,
            ];
        }
        foreach (is_array($entry['vlans'] ?? null) ? $entry['vlans'] : [] as $vlan) {
            if (is_array($vlan) && is_string($vlan['domain'] ?? null) && is_int($vlan['number'] ?? null)) {
                $this->keepVlan($vlan['domain'], $vlan['number'], $vlan);
            }
        }
        foreach (is_array($entry['ports'] ?? null) ? $entry['ports'] : [] as $port) {
            $named = is_array($port) ? [$port['domain'] ?? null, $port['device'] ?? null, $port['port'] ?? null] : [];
            if (is_array($port) && array_filter($named, is_string(...)) === $named) {
                $this->keepPort((string) $port['domain'], (string) $port['device'], (string) $port['port'], $port);
            }
        }
    }

    /** @param  array<mixed>  $port  what it does not name stays as it is */
    private function keepPort(string $domain, string $device, string $name, array $port): void
    {
        $key = "$domain\n$device\n$name";
        $was = $this->ports[$key] ?? [
            'domain' => $domain, 'device' => $device, 'port' => $name, 'native' => null, 'voice' => null, 'lldp' => false, 'poe' => false,
            'priority' => 0,
        ];
        $number = static fn (mixed $given, ?int $was, bool $said): ?int => $said ? (is_int($given) ? $given : null) : $was;
        $this->ports[$key] = [
            'domain' => $domain, 'device' => $device, 'port' => $name,
            'native' => $number($port['native'] ?? null, $was['native'], array_key_exists('native', $port)),
            'voice' => $number($port['voice'] ?? null, $was['voice'], array_key_exists('voice', $port)),
            'lldp' => (bool) ($port['lldp'] ?? $was['lldp']), 'poe' => (bool) ($port['poe'] ?? $was['poe']),
            'priority' => is_int($port['priority'] ?? null) ? $port['priority'] : $was['priority'],
        ];
    }

    /** @param  array<mixed>  $vlan  what it does not name stays as it is */
    private function keepVlan(string $domain, int $number, array $vlan): void
    {
        $key = "$domain $number";
        if (($vlan['gone'] ?? false) === true) {
            unset($this->vlans[$key]);

            return;
        }
        $was = $this->vlans[$key]
            ?? ['domain' => $domain, 'number' => $number, 'name' => '', 'gateway' => '', 'relays' => [], 'ports' => null, 'denies' => null,
                'advertises' => null];
        $strings = static fn (mixed $list): array => array_values(array_filter(is_array($list) ? $list : [], is_string(...)));
        $this->vlans[$key] = [
            'domain' => $domain, 'number' => $number, 'name' => is_string($vlan['name'] ?? null) ? $vlan['name'] : $was['name'],
            'gateway' => is_string($vlan['gateway'] ?? null) ? $vlan['gateway'] : $was['gateway'],
            'relays' => isset($vlan['relays']) ? $strings($vlan['relays']) : $was['relays'],
            'ports' => is_int($vlan['ports'] ?? null) ? $vlan['ports'] : $was['ports'],
            'denies' => isset($vlan['denies']) ? $strings($vlan['denies']) : $was['denies'],
            'advertises' => is_array($vlan['advertises'] ?? null) ? $vlan['advertises'] : $was['advertises'],
        ];
    }

    /**
     * Who answers in a stretch, or among addresses that are named.
     *
     * @param  array<mixed>  $message  range: "first-last", or addresses: a list
     * @return array<mixed>
     */
    private function probe(array $message): array
    {
        $now = ($this->now)();
        $answers = [];
        try {
            foreach ($this->asked($message) as $address) {
                $host = $this->hosts[bin2hex($address->bytes)] ?? null;
                if ($host !== null && $host['from'] <= $now && $now < $host['until']) {
                    $answers[] = [
                        'address' => (string) $address,
                        'mac' => $this->control->mode === Mode::Wrong ? '00:00:5e:00:53:ff' : $host['mac'],
                    ];
                }
            }
        } catch (NotUnderstood $e) {
            return ['error' => $e->getMessage()];
        }

        return ['answers' => $answers];
    }

    /**
     * @param  array<mixed>  $message
     * @return \Generator<int, Address>
     */
    private function asked(array $message): \Generator
    {
        if (is_array($message['addresses'] ?? null)) {
            foreach (array_slice($message['addresses'], 0, self::MOST) as $text) {
                yield Address::parse(is_string($text) ? $text : '');
            }

            return;
        }
        $range = AddressRange::parse(is_string($message['range'] ?? null) ? $message['range'] : '');
        $count = 0;
        for ($at = $range->first; $at !== null && $at->compare($range->last) <= 0 && $count < self::MOST; $at = $at->next(), $count++) {
            yield $at;
        }
    }
}
