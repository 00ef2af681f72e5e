<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Name\Records;
use App\Models\Host;
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

/** What becomes of a host: another address in its subnet, another name or other facts; its records and its reservation follow. */
final readonly class HostChange
{
    /** What is null stays. */
    public function __construct(
        public string $host,
        public ?string $address = null,
        public ?string $name = null,
        public ?string $mac = null,
        public ?string $role = null,
        public ?string $owner = null,
        public ?string $description = null,
        public ?string $device = null,
        public ?string $interface = null,
    ) {
    }

    public function write(Ledger $ledger): void
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
            NewHost::checkMac($ledger, $subnet, $host->mac, $host->id);
        }
        if (! $host->address->equals($old->address)) {
            $reserved = Reservation::query()->where('address_id', $host->id)->exists();
            NewHost::checkUse($ledger, $subnet, $host->address, $host->mac, $reserved, $host->id);
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
        // A form sends the name as it stands: that is no other name, and no record of the host gets it.
        $same = $this->name !== null && $host->name !== '' && strtolower(rtrim(trim($this->name), '.')) === $host->name;
        $renamed = $this->name !== null && $this->name !== '' && ! $same && $forward->isNotEmpty();
        $moved = ! $host->address->equals($old->address);
        if ($same && ! $moved) {
            return;
        }
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
