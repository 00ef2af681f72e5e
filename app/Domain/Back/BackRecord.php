<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Acts\Engine\Ledger;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Host;
use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Rdata;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;

/** Records go back as they are written: through the rules of their names, and with an entry for the next shipment. */
final class BackRecord
{
    /** What a record says; the rest of its columns follow from this. */
    private const SAYS = ['owner', 'data', 'ttl', 'type', 'zone_id', ...self::BESIDE];

    /** What it is besides: whose, shared with which views, registered by a client when. */
    private const BESIDE = ['address_id', 'share_id', 'renewed_at'];

    public static function take(Ledger $ledger, PastRow $row): void
    {
        $record = Record::query()->with('zone')->find($row->id);
        if ($row->after === null) {
            $record === null ?: WayBack::refuseChanged($ledger, $row, 'It is there again.');
            self::addAgain($ledger, $row);

            return;
        }
        $record ?? WayBack::refuseChanged($ledger, $row, 'It is gone.');
        if (WayBack::isBack($row, $record->readable($record->getAttributes()))) {
            return;
        }
        foreach (array_intersect_key($row->after, array_flip(self::SAYS)) as $column => $value) {
            $now = PastRow::text($record->getAttributes()[$column] ?? null);
            // One TTL of a set went back with another of its records already.
            $isBack = $column === 'ttl' && array_key_exists('ttl', $row->before ?? []) && $now === $row->was('ttl');
            if ($now !== PastRow::text($value) && ! $isBack) {
                WayBack::refuseChanged($ledger, $row, 'Undo the later change first.');
            }
        }
        NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
        $row->before === null ? Records::remove($record) : self::turnBack($ledger, $row, $record);
    }

    private static function addAgain(Ledger $ledger, PastRow $row): void
    {
        $zone = Zone::query()->find($row->was('zone_id') ?? '') ?? WayBack::refuseChanged($ledger, $row, 'Its zone is gone.');
        $host = $row->was('address_id');
        if ($host !== null && $host !== '' && Host::query()->whereKey($host)->doesntExist()) {
            WayBack::refuseChanged($ledger, $row, 'The host that it belonged to is gone.');
        }
        [$owner, $data] = self::read($ledger, $row, $row->was('owner') ?? '', (int) $row->was('type'), $row->was('data') ?? '');
        NameGate::check($ledger, $zone, $owner, $data->type()->number);
        $ttl = $row->was('ttl');
        $record = Records::add($ledger, $zone, $owner, $ttl === null ? null : (int) $ttl, $data, $row->id, $host === '' ? null : $host);
        self::beside($record, $row->before ?? []);
    }

    private static function turnBack(Ledger $ledger, PastRow $row, Record $record): void
    {
        $before = $row->before ?? [];
        $ttl = array_key_exists('ttl', $before) ? ($row->was('ttl') === null ? null : (int) $row->was('ttl')) : $record->ttl;
        [$owner, $data] = self::read(
            $ledger,
            $row,
            $row->was('owner') ?? $record->owner,
            $record->type,
            $row->was('data') ?? $record->data,
        );
        NameGate::check($ledger, $record->zone, $owner, $record->type);
        Records::change($ledger, $record, $owner, $ttl, $data);
        self::beside($record, $before);
    }

    /** @param  array<string, mixed>  $before */
    private static function beside(Record $record, array $before): void
    {
        $record->setRawAttributes(array_intersect_key($before, array_flip(self::BESIDE)) + $record->getAttributes());
        $record->save();
    }

    /** @return array{Name, Rdata} */
    private static function read(Ledger $ledger, PastRow $row, string $owner, int $type, string $data): array
    {
        try {
            return [Name::parse($owner), RdataTypes::fromText(RecordType::of($type), Fields::ofLine($data))];
        } catch (Malformed $e) {
            $ledger->refuse('unreadable', "The history of {$row->called()} cannot be read: {$e->getMessage()}");
        }
    }
}
