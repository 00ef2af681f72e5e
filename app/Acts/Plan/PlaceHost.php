<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\NewHost;
use App\Models\Ability;
use App\Models\Device;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Zone;
use App\Queries\Granted;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Net\Address;

/** A host gets its address, its name both ways and, where asked, its reservation: one act. */
final readonly class PlaceHost extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Name', 'Relative to the zone, or absolute with a final dot', most: 255)]
        public string $name = '',
        #[Field(Kind::Id, 'Zone', 'Id of the zone; blank gives no name in DNS', of: Zone::class)]
        public string $zone = '',
        #[Field(Kind::Line, 'Address', 'Blank takes the next free one', most: 60)]
        public string $address = '',
        #[Field(Kind::Line, 'MAC', most: 40)]
        public string $mac = '',
        #[Field(Kind::Line, 'TTL', most: 30)]
        public string $ttl = '',
        #[Field(Kind::Flag, 'PTR')]
        public bool $ptr = false,
        #[Field(Kind::Flag, 'Reserve')]
        public bool $reserve = false,
        #[Field(Kind::Choice, 'Role', choices: ['host', 'gateway', 'virtual', 'service'])]
        public string $role = 'host',
        #[Field(Kind::Id, 'Device', of: Device::class)]
        public string $device = '',
        #[Field(Kind::Line, 'Owner', most: 120)]
        public string $owner = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Line, 'Interface', most: 60)]
        public string $interface = '',
        #[Field(
            Kind::Choice,
            'Identifier',
            'How an IPv6 address is chosen when none is given: low, eui64 (needs the MAC) or stable (RFC 7217)',
            choices: ['low', 'eui64', 'stable'],
        )]
        public string $choose = 'low',
    ) {
    }

    public function title(): string
    {
        return trim('Place '.($this->name ?: 'a host').($this->address === '' ? '' : " at $this->address"));
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Hosts);
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        (new NewHost(
            $this->prefix,
            $this->id,
            $this->name,
            $this->zone,
            $this->address,
            $this->mac,
            $this->ttl,
            $this->ptr,
            $this->reserve,
            $this->role,
            $this->device,
            $this->owner,
            $this->description,
            $this->interface,
            $this->choose,
        ))->place($ledger);
    }
}
