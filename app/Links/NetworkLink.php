<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dhcp\V6\Advertisement;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;

/** The network itself, by way of the machine that probes it and reads its switches. */
final readonly class NetworkLink
{
    /** Addresses that one question may cover. */
    public const MOST = 4096;

    private function __construct(private ControlChannel $channel, public Server $server)
    {
    }

    /** The first server that can probe; null when none is written down. */
    public static function first(): ?self
    {
        $server = Server::query()->where('kind', ServerKind::Network)->whereNotNull('control')->orderBy('name')->first();

        return $server === null ? null : self::to($server);
    }

    public static function to(Server $server, ?float $patience = null): self
    {
        return new self(new ControlChannel($server, $patience ?? Links::patience()), $server);
    }

    /** @throws Unanswered */
    public function hosts(): int
    {
        return (int) ($this->channel->ask('status')['hosts'] ?? 0);
    }

    /**
     * Who answers in a stretch.
     *
     * @return array<string, ?MacAddress> address as text → MAC, where one was seen
     *
     * @throws Unanswered
     */
    public function probe(AddressRange $range): array
    {
        return $this->answers($this->channel->ask('probe', ['range' => (string) $range]));
    }

    /**
     * Who answers of some addresses, for IPv6 where a stretch is endless.
     *
     * @param  list<Address>  $addresses
     * @return array<string, ?MacAddress>
     */
    public function probeEach(array $addresses): array
    {
        return $addresses === [] ? [] : $this->answers($this->channel->ask('probe', ['addresses' => array_map(strval(...), $addresses)]));
    }

    /**
     * @return list<array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
     *     denies: ?list<string>,
     *     advertises: ?array{managed: bool, other: bool, autonomous: bool}}> what the switches are set to
     */
    public function vlans(): array
    {
        $vlans = [];
        foreach ((array) ($this->channel->ask('vlans')['vlans'] ?? []) as $vlan) {
            if (is_array($vlan) && is_string($vlan['domain'] ?? null) && is_int($vlan['number'] ?? null)) {
                $vlans[] = [
                    'domain' => $vlan['domain'], 'number' => $vlan['number'], 'name' => (string) ($vlan['name'] ?? ''),
                    'gateway' => (string) ($vlan['gateway'] ?? ''),
                    'relays' => array_values(array_map(strval(...), (array) ($vlan['relays'] ?? []))),
                    'ports' => is_int($vlan['ports'] ?? null) ? $vlan['ports'] : null,
                    'denies' => is_array($vlan['denies'] ?? null) ? array_values(array_map(strval(...), $vlan['denies'])) : null,
                    'advertises' => is_array($vlan['advertises'] ?? null) ? Advertisement::fromForm($vlan['advertises'])->form() : null,
                ];
            }
        }

        return $vlans;
    }

    /**
     * @return list<array{domain: string, device: string, port: string, native: ?int, voice: ?int, lldp: bool, poe: bool, priority: int}>
     *
     * @throws Unanswered
     */
    public function ports(): array
    {
        $ports = [];
        foreach ((array) ($this->channel->ask('ports')['ports'] ?? []) as $port) {
            $named = is_array($port) ? [$port['domain'] ?? null, $port['device'] ?? null, $port['port'] ?? null] : [];
            if (is_array($port) && array_filter($named, is_string(...)) === $named) {
                $ports[] = [
                    'domain' => (string) $port['domain'], 'device' => (string) $port['device'], 'port' => (string) $port['port'],
                    'native' => is_int($port['native'] ?? null) ? $port['native'] : null,
                    'voice' => is_int($port['voice'] ?? null) ? $port['voice'] : null,
                    'lldp' => ($port['lldp'] ?? false) === true, 'poe' => ($port['poe'] ?? false) === true,
                    'priority' => is_int($port['priority'] ?? null) ? $port['priority'] : 0,
                ];
            }
        }

        return $ports;
    }

    /**
     * Sets ports of switches as profiles mean them.
     *
     * @param  list<array{domain: string, device: string, port: string, native: int, voice: ?int, lldp: bool, poe: bool,
     *     priority: int}>  $ports
     *
     * @throws Unanswered
     */
    public function setPorts(array $ports): void
    {
        $this->channel->ask('switches', ['ports' => $ports]);
    }

    /**
     * Sets what switches say of VLANs; what a row does not name stays as it is.
     *
     * @param  list<array{domain: string, number: int, name?: string, gateway?: string, relays?: list<string>, denies?: list<string>,
     *     advertises?: array{managed: bool, other: bool, autonomous: bool}, gone?: bool}>  $vlans
     *
     * @throws Unanswered
     */
    public function set(array $vlans): void
    {
        $this->channel->ask('switches', ['vlans' => $vlans]);
    }

    /**
     * @param  array<string, mixed>  $answer
     * @return array<string, ?MacAddress>
     */
    private function answers(array $answer): array
    {
        $found = [];
        foreach ((array) ($answer['answers'] ?? []) as $one) {
            $address = is_array($one) && is_string($one['address'] ?? null) ? Address::tryParse($one['address']) : null;
            if ($address !== null && is_array($one)) {
                $found[(string) $address] = is_string($one['mac'] ?? null) ? MacAddress::tryParse($one['mac']) : null;
            }
        }

        return $found;
    }
}
