<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Name\Records;
use App\Domain\Plan\HostAddress;
use App\Domain\Plan\Identifiers;
use App\Models\Device;
use App\Models\Host;
use App\Models\Person;
use App\Models\Record;
use App\Models\Reservation;
use App\Queries\Reach;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;

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
        return $person->operates();
    }

    public function landing(): string
    {
        return '/plan/prefix/'.(Host::query()->find($this->host)->prefix_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        $host = ($ledger->person === null ? Host::query() : Reach::of($ledger->person)->hosts())->find($this->host)
            ?? $ledger->refuse('gone', 'The host is not there any more, or not available to you');
        Guard::share("subnet:$host->prefix_id");
        $subnet = $host->prefix;
        $old = clone $host;
        if ($this->address !== null) {
            try {
                $host->address = Address::parse(trim($this->address));
            } catch (NotUnderstood $e) {
                $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
            }
            HostAddress::check($ledger, $subnet, $host->address, $this->role ?? $host->role, $host->id);
        }
        if ($this->mac !== null) {
            $host->mac = Identifiers::mac($ledger, $this->mac === '-' ? '' : $this->mac);
            PlaceHost::checkMac($ledger, $subnet, $host->mac, $host->id);
        }
        if (! $host->address->equals($old->address)) {
            $reserved = Reservation::query()->where('address_id', $host->id)->exists();
            PlaceHost::checkUse($ledger, $subnet, $host->address, $host->mac, $reserved, $host->id);
        }
        foreach (
            [
                'role' => $this->role, 'owner' => $this->owner, 'description' => $this->description, 'interface' => $this->interface,
            ] as $column => $value
        ) {
            $host->$column = match ($value) {
                null => $host->$column, '-' => '', default => $value
            };
        }
        if ($this->device !== null) {
            $host->device_id = $this->device === '-' ? null : $this->device;
        }
        $this->moveNames($ledger, $host, $old);
        $host->save();
        $this->moveReservations($ledger, $host, $old);
    }

    private function moveNames(Ledger $ledger, Host $host, Host $old): void
    {
        $forward = Record::query()->with('zone')->where('address_id', $host->id)->whereIn('type', [RecordType::A, RecordType::AAAA])->get();
        $back = Record::query()->with('zone')->where('address_id', $host->id)->where('type', RecordType::PTR)->get();
        $renamed = $this->name !== null && $this->name !== '' && $forward->isNotEmpty();
        $moved = ! $host->address->equals($old->address);
        if (! $renamed && ! $moved) {
            $host->name = $this->name === null ? $host->name : Records::plainName($ledger, $this->name);

            return;
        }
        $name = null;
        foreach ($forward as $record) {
            $zone = $record->zone;
            $name = $renamed ? Records::hostName($ledger, $zone, (string) $this->name) : Name::parse($record->owner);
            $this->warnUsed($ledger, $record, $name);
            Records::change(
                $ledger,
                $record,
                $name,
                $record->ttl,
                $host->address->family === Family::V4 ? A::of($host->address) : Aaaa::of($host->address),
            );
            $ledger->later('The old answer may linger '.Ttl::of($record->ttl ?? $zone->default_ttl)->spoken().', its TTL');
        }
        foreach ($back as $record) {
            $this->pointBack($ledger, $record, $host, $name ?? Name::parse($record->data), $moved);
        }
        if ($name !== null) {
            $host->name = rtrim((string) $name->lower(), '.');
        }
    }

    private function warnUsed(Ledger $ledger, Record $record, Name $name): void
    {
        $same = $name->sortKey() === $record->owner_key
            ? null
            : Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $name->sortKey())
                ->where('type', $record->type)->whereKeyNot($record->id)->first();
        if ($same !== null) {
            $ledger->warn(
                'name-used',
                "{$record->zone->title()} already has {$same->line()}",
                'Both addresses will be answered, in turns.',
                null,
                'name',
                Records::page($record->zone, $name),
            );
        }
    }

    /** The pointer follows: in its zone the row stays, in another zone it is a new one. */
    private function pointBack(Ledger $ledger, Record $record, Host $host, Name $target, bool $moved): void
    {
        [$zone, $owner] = $moved
            ? Zones::pointer($host->address, $record->zone->view_id) ?? [null, null]
            : [$record->zone, Name::parse($record->owner)];
        if ($zone !== null && $owner !== null && $zone->id === $record->zone_id) {
            Records::change($ledger, $record, $owner, $record->ttl, new Ptr($target));

            return;
        }
        Records::remove($record);
        Records::pointBack($ledger, $host->address, $target, $record->ttl, $record->zone->view_id, $host->id);
    }

    private function moveReservations(Ledger $ledger, Host $host, Host $old): void
    {
        foreach (Reservation::query()->where('address_id', $host->id)->get() as $reservation) {
            $reservation->address = $host->address;
            $reservation->name = explode('.', $host->name)[0];
            if ($host->mac === null) {
                $reservation->delete();
                $ledger->warn('reservation-without-mac', 'The reservation goes: the host has no MAC any more');
            } else {
                $reservation->mac = $host->mac;
                $reservation->save();
            }
        }
    }
}
