<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Lease\Reservations;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use App\Models\Zone;
use App\Queries\FreeAddresses;
use App\Queries\InUse;
use App\Queries\Reach;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** A host as it is to be placed: its address, its name both ways and, where asked, its reservation. */
final readonly class NewHost
{
    /** @param  string  $address  blank takes the next free one */
    public function __construct(
        public string $prefix,
        public string $id,
        public string $name = '',
        public string $zone = '',
        public string $address = '',
        public string $mac = '',
        public string $ttl = '',
        public bool $ptr = false,
        public bool $reserve = false,
        public string $role = 'host',
        public string $device = '',
        public string $owner = '',
        public string $description = '',
        public string $interface = '',
        public string $choose = 'low',
    ) {
    }

    public function place(Ledger $ledger): void
    {
        $reach = $ledger->person === null ? null : Reach::of($ledger->person);
        Guard::share("subnet:$this->prefix");
        $subnet = ($reach?->prefixes() ?? Prefix::query())->find($this->prefix)
            ?? $ledger->refuse('not-available', 'This subnet is not available to you', field: 'prefix');
        if (! $subnet->isSubnet()) {
            $ledger->refuse('no-link', "{$subnet->line()} is a {$subnet->kind->value}; hosts live in subnets", field: 'prefix');
        }
        if ($subnet->stage->isClosed()) {
            $ledger->warn('stage', "The subnet is {$subnet->stage->value}", 'New hosts are not expected here.');
        }
        $mac = Identifiers::mac($ledger, $this->mac);
        self::checkMac($ledger, $subnet, $mac);
        $zone = $this->zone === ''
            ? null
            : (
                ($reach?->zones() ?? Zone::query())->find($this->zone)
                    ?? $ledger->refuse('not-available', 'This zone is not available to you', field: 'zone')
            );
        $owner = $zone === null || $this->name === '' ? null : Records::hostName($ledger, $zone, $this->name);
        if ($zone !== null && $owner === null) {
            $ledger->refuse(
                'no-name',
                "Which name in {$zone->title()}?",
                'Choose "no name in DNS" to place a host without one.',
                null,
                'name',
            );
        }
        if ($zone !== null && $owner !== null) {
            NameGate::check($ledger, $zone, $owner);
        }
        $label = $owner === null ? Records::plainName($ledger, $this->name) : rtrim((string) $owner->lower(), '.');
        $address = $this->address($ledger, $subnet, $mac, $label);
        if ($this->role === 'gateway' && $subnet->gateway !== null && ! $subnet->gateway->equals($address)) {
            $ledger->warn(
                'second-gateway',
                "The gateway of the subnet is $subnet->gateway",
                'A subnet has one; give this host the role virtual or service, or change the gateway of the subnet.',
                null,
                'role',
                at('plan.prefix', $subnet->id),
            );
        }
        $host = new Host([
            'id' => $this->id, 'space_id' => $subnet->space_id, 'family' => $subnet->family, 'address' => $address,
            'prefix_id' => $subnet->id,
            'name' => $label, 'role' => $this->role, 'mac' => $mac,
            'device_id' => $this->device ?: null, 'owner' => $this->owner, 'description' => $this->description,
            'interface' => $this->interface,
        ]);
        $host->save();
        Counter::add($subnet->id, 1);
        if ($zone !== null && $owner !== null) {
            $this->names($ledger, $zone, $owner, $address);
        } else {
            $ledger->later('It gets no name in DNS: no zone is chosen');
        }
        if ($this->reserve) {
            $this->reservation($ledger, $subnet, $host);
        }
        $ledger->made += ['address' => (string) $address, 'host' => $host->id];
    }

    /** Another host of the link with the same MAC is said: one of the two is a mistake, or it has several addresses. */
    public static function checkMac(Ledger $ledger, Prefix $subnet, ?MacAddress $mac, ?string $except = null): void
    {
        $twin = $mac === null
            ? null
            : Host::query()->where('prefix_id', $subnet->id)->where('mac', $mac->bytes)
                ->when($except, fn ($q) => $q->whereKeyNot($except))->first();
        if ($twin !== null) {
            $ledger->warn(
                'mac-twice',
                "{$twin->line()} has the MAC $mac in this subnet",
                'One device with two addresses, or a mistake.',
                null,
                'mac',
                at('plan.prefix', $subnet->id)."?address=$twin->address",
            );
        }
    }

    private function address(Ledger $ledger, Prefix $subnet, ?MacAddress $mac, string $name): Address
    {
        if (trim($this->address) === '' && $subnet->family === 6 && $this->choose !== 'low') {
            return Identifiers::choose($ledger, $subnet, $this->choose, $mac, $name);
        }
        if (trim($this->address) === '') {
            return FreeAddresses::take($subnet)
                ?? $ledger->refuse(
                    'full',
                    "No free address is left in {$subnet->line()}",
                    'Release hosts, shorten the dynamic range, or grow the subnet.',
                    null,
                    'address',
                    at('plan.prefix', $subnet->id),
                );
        }
        try {
            $address = Address::parse(trim($this->address));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        HostAddress::check($ledger, $subnet, $address, $this->role);
        self::checkUse($ledger, $subnet, $address, $mac, $this->reserve);

        return $address;
    }

    /** Whether anything but the plan has the address: kept runs and ranges, leases, reservations, names, devices that answer. */
    public static function checkUse(
        Ledger $ledger,
        Prefix $subnet,
        Address $address,
        ?MacAddress $mac,
        bool $reserve,
        ?string $host = null,
    ): void {
        $said = InUse::of($subnet, $address, $mac, $host);
        foreach ($said as $one) {
            $ledger->warn($one['code'], $one['message'], $one['why'], null, 'address', $one['link']);
        }
        foreach (HeldRun::query()->where('prefix_id', $subnet->id)->get() as $run) {
            if ($run->holds(now()) && $run->range()->contains($address)) {
                $ledger->warn(
                    'in-held-run',
                    "$address is in the held run {$run->range()}: $run->reason",
                    $run->until === null ? 'It is held without an end.' : 'It is held until '.$run->until->format('j M Y').'.',
                    null,
                    'address',
                );
            }
        }
        foreach (Scope::query()->with('ranges')->where('prefix_id', $subnet->id)->first()->ranges ?? [] as $one) {
            $range = $one->range();
            if ($range->contains($address) && ! $reserve) {
                $ledger->warn(
                    'in-dynamic-range',
                    "$address is inside the dynamic range $range",
                    'A server may lease it to somebody else; reserve it, or choose an address outside.',
                    null,
                    'address',
                );
            }
        }
        if ($said === []) {
            $ledger->passed('address-free', "$address is free: not planned, reserved, leased, named or seen");
        }
    }

    private function names(Ledger $ledger, Zone $zone, Name $owner, Address $address): void
    {
        $ttl = Records::ttl($ledger, $this->ttl);
        $type = $address->family === Family::V4 ? RecordType::A : RecordType::AAAA;
        $same = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())->where('type', $type)->first();
        if ($same !== null) {
            $ledger->warn(
                'name-used',
                "{$zone->title()} already has {$same->line()}",
                'Both addresses will be answered, in turns.',
                null,
                'name',
                Records::page($zone, $owner),
            );
        }
        Records::add($ledger, $zone, $owner, $ttl, $address->family === Family::V4 ? A::of($address) : Aaaa::of($address), null, $this->id);
        if ($this->ptr) {
            Records::pointBack($ledger, $address, $owner, $ttl, $zone->view_id, $this->id);
        }
    }

    private function reservation(Ledger $ledger, Prefix $subnet, Host $host): void
    {
        if ($host->mac === null) {
            $ledger->refuse('no-mac', 'A reservation needs the MAC address', field: 'mac');
        }
        $scope = Scope::query()->where('prefix_id', $subnet->id)->first()
            ?? $ledger->refuse(
                'no-scope',
                'The subnet has no scope to reserve in',
                'Make a scope first, or place the host without a reservation.',
                null,
                'reserve',
                at('lease')."?make=$subnet->id",
            );
        if ($host->address->family === Family::V6) {
            $ledger->refuse(
                'no-duid',
                'DHCPv6 knows clients by their DUID, which a MAC address does not tell',
                'Place the host without a reservation, and reserve by the DUID on the page of the scope.',
                'RFC 8415 §11',
                'reserve',
                at('lease.scope', $scope->id),
            );
        }
        Reservations::write($ledger, $scope, $host->address, ClientKey::ofMac($host->mac), explode('.', $host->name)[0], $host->id);
    }
}
