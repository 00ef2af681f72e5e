<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\HostChange;
use App\Models\Ability;
use App\Models\Device;
use App\Models\Host;
use App\Models\Person;
use App\Queries\Granted;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Net\Address;

/** A host gets another address in its subnet, another name or other facts; its records and its reservation follow. */
final readonly class ChangeHost extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Host', of: Host::class)]
        public string $host,
        #[Field(Kind::Line, 'Address', most: 60)]
        public ?string $address = null,
        #[Field(Kind::Line, 'Name', 'Absolute or within the zone of its present name', most: 255)]
        public ?string $name = null,
        #[Field(Kind::Line, 'MAC', most: 40)]
        public ?string $mac = null,
        #[Field(Kind::Choice, 'Role', choices: ['host', 'gateway', 'virtual', 'service'])]
        public ?string $role = null,
        #[Field(Kind::Line, 'Owner', most: 120)]
        public ?string $owner = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
        #[Field(Kind::Id, 'Device', of: Device::class, dash: true)]
        public ?string $device = null,
        #[Field(Kind::Line, 'Interface', most: 60)]
        public ?string $interface = null,
    ) {
    }

    public function title(): string
    {
        return 'Change '.(Host::query()->find($this->host)?->line() ?? 'a host');
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Hosts);
    }

    public function landing(): string
    {
        return at('plan.prefix', Host::query()->find($this->host)->prefix_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        (new HostChange(
            $this->host,
            $this->address,
            $this->name,
            $this->mac,
            $this->role,
            $this->owner,
            $this->description,
            $this->device,
            $this->interface,
        ))->write($ledger);
    }
}
