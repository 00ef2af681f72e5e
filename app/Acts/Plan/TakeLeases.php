<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\HostChange;
use App\Domain\Plan\NewHost;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Scope;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Str;

/**
 * Chosen leases are taken into the plan: those without a host are placed with their MAC and the client's name, planned ones change only
 * where it is asked for. What is the same stays, what has ended is named.
 */
final readonly class TakeLeases extends Act
{
    use InSubnet;

    /** @param  list<string>  $addresses */
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Texts, 'Addresses', most: 60)]
        public array $addresses,
        #[Field(Kind::Flag, 'Take MACs', 'Take the MAC of the lease over the planned one')]
        public bool $macs = false,
        #[Field(Kind::Flag, 'Take names', 'Take the client\'s name over the planned one')]
        public bool $names = false,
        #[Field(Kind::Flag, 'Reserve', 'Also reserve the address for the client')]
        public bool $reserve = false,
    ) {
    }

    public function title(): string
    {
        return 'Take '.count($this->addresses).' leases into the plan';
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix).'?show=evidence';
    }

    public function apply(Ledger $ledger): void
    {
        $subnet = $this->subnet($ledger);
        $scope = Scope::query()->where('prefix_id', $subnet->id)->first()
            ?? $ledger->refuse(
                'no-scope',
                'The subnet has no scope, so nothing is leased there',
                'Make the scope first.',
                null,
                null,
                at('lease')."?make=$subnet->id",
            );
        if ($this->addresses === []) {
            $ledger->refuse('nothing-picked', 'Pick leases to take in');
        }
        $verdicts = [];
        foreach ($this->addresses as $text) {
            $address = Address::tryParse($text) ?? $ledger->refuse('bad-address', "\"$text\" is no address", field: 'addresses');
            $verdicts[$this->take($ledger, $subnet, $scope, $address)][] = (string) $address;
        }
        foreach (
            [
                'same' => 'are the same already', 'ended' => 'have ended',
                'kept' => 'differ and stay as planned, since no field was ticked', 'none' => 'are not leased',
            ] as $verdict => $words
        ) {
            isset($verdicts[$verdict])
                && $ledger->warn(
                    "lease-$verdict",
                    count($verdicts[$verdict])." $words: ".implode(', ', array_slice($verdicts[$verdict], 0, 6)),
                );
        }
    }

    /** @return 'add'|'change'|'same'|'ended'|'kept'|'none' */
    private function take(Ledger $ledger, Prefix $subnet, Scope $scope, Address $address): string
    {
        $lease = Lease::query()->where('scope_id', $scope->id)->where('address', $address->bytes)->orderByDesc('ends_at')->first();
        if ($lease === null) {
            return 'none';
        }
        if ($lease->state !== 'active' || $lease->ends_at->isPast()) {
            return 'ended';
        }
        $host = Host::query()->where('prefix_id', $subnet->id)->where('address', $address->bytes)->first();
        $name = strtolower($lease->host_name);
        if ($host === null) {
            (
                new NewHost(
                    prefix: $subnet->id,
                    id: (string) Str::ulid(),
                    name: $name,
                    address: (string) $address,
                    mac: (string) $lease->mac,
                    reserve: $this->reserve,
                    description: 'from a lease',
                )
            )->place($ledger);

            return 'add';
        }
        $otherMac = (string) $host->mac !== (string) $lease->mac;
        $otherName = $name !== '' && explode('.', $host->name)[0] !== explode('.', $name)[0];
        if (! $otherMac && ! $otherName) {
            return 'same';
        }
        if (! ($otherMac && $this->macs) && ! ($otherName && $this->names)) {
            return 'kept';
        }
        (
            new HostChange(
                $host->id,
                mac: $otherMac && $this->macs ? (string) $lease->mac : null,
                name: $otherName && $this->names ? $name : null,
            )
        )->write($ledger);

        return 'change';
    }
}
