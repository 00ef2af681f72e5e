<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\RecordChange;
use App\Models\Ability;
use App\Models\Device;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Queries\Granted;
use App\Queries\Reach;

/** Facts of a selection of hosts are changed. A blank field stays as it is, a dash empties it. */
final readonly class ChangeHosts extends Act
{
    /** @param  list<string>  $hosts */
    public function __construct(
        #[Field(Kind::Ids, 'Hosts', of: Host::class)]
        public array $hosts,
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix = '',
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
        #[Field(Kind::Line, 'TTL', 'TTL of all their records; blank stays, a dash inherits', most: 30)]
        public ?string $ttl = null,
    ) {
    }

    public function title(): string
    {
        return 'Change '.count($this->hosts).' hosts';
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
        $hosts = ($ledger->person === null ? Host::query() : Reach::of($ledger->person)->hosts())
            ->whereIn('id', $this->hosts)->lockForUpdate()->get();
        if ($hosts->isEmpty() || $hosts->count() !== count(array_unique($this->hosts))) {
            $ledger->refuse('gone', 'A host of the selection is not there any more, or not available to you');
        }
        if ($this->role !== null && ! in_array($this->role, Host::ROLES, true)) {
            $ledger->refuse('bad-role', 'The role is host, gateway, virtual or service', field: 'role');
        }
        if ($this->device !== null && $this->device !== '-' && Device::query()->whereKey($this->device)->doesntExist()) {
            $ledger->refuse('no-device', 'There is no such device', field: 'device');
        }
        $ttl = $this->ttl === null || $this->ttl === '-' ? null : \App\Domain\Name\Records::ttl($ledger, $this->ttl);
        foreach ($hosts as $host) {
            $host->role = $this->role ?? $host->role;
            foreach (['owner' => $this->owner, 'description' => $this->description, 'interface' => $this->interface] as $column => $value) {
                $value === null ?: $host->setAttribute($column, $value === '-' ? '' : $value);
            }
            $this->device === null ?: $host->device_id = $this->device === '-' ? null : $this->device;
            $host->save();
            if ($this->ttl !== null) {
                foreach (Record::query()->with('zone')->where('address_id', $host->id)->get() as $record) {
                    (new RecordChange($record->id, ttl: (string) $ttl))->write($ledger);
                }
            }
        }
    }
}
