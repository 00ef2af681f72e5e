<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Domain\Plan\HostChange;
use App\Models\Record;
use App\Queries\Reach;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Ttl;

/** What becomes of a record: other data, name or TTL, which holds for its whole set. That of a placed host follows its host. */
final readonly class RecordChange
{
    /** The TTL stays as it is: a blank one is a value of its own, "inherited". */
    public const KEEP = 'keep';

    /**
     * @param  ?string  $data  null: it stays
     * @param  list<string>  $fields  values in the order of TypedFields; a blank one takes the data
     */
    public function __construct(
        public string $record,
        public ?string $data = null,
        public string $ttl = self::KEEP,
        public ?string $name = null,
        public array $fields = [],
    ) {
    }

    public function write(Ledger $ledger): void
    {
        $record = ($ledger->person === null ? Record::query() : Reach::of($ledger->person)->records())->find($this->record)
            ?? $ledger->refuse('gone', 'The record is not there any more, or not available to you');
        NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
        $this->change($ledger, $record);
        foreach (Records::siblings($record) as $sibling) {
            $this->change($ledger, $sibling);
            $ledger->passed('shared', "Shared: the same in the view {$sibling->zone->view->name}");
        }
    }

    private function change(Ledger $ledger, Record $record): void
    {
        $zone = $record->zone;
        $ttl = $this->ttl === self::KEEP ? $record->ttl : Records::ttl($ledger, $this->ttl);
        $owner = $this->name === null ? null : Records::owner($ledger, $zone, $this->name);
        $owner === null ?: NameGate::check($ledger, $zone, $owner, $record->type);
        $data = $this->data === null
            && $this->fields === [] ? null : Records::data($ledger, $zone, $record->typeName(), (string) $this->data, $this->fields);
        $sameData = $data === null || md5($data->canonical(), true) === $record->data_hash;
        $sameOwner = $owner === null || $owner->sortKey() === $record->owner_key;
        if (! $sameData || ! $sameOwner) {
            if ($record->address_id !== null) {
                $this->throughHost(
                    $ledger,
                    $record,
                    $data instanceof HoldsAddress ? (string) $data->address() : null,
                    $sameOwner ? null : (string) $owner,
                );

                return;
            }
            $ledger->later('The old answer may linger '.Ttl::of($record->ttl ?? $zone->default_ttl)->spoken().', its TTL');
            if (! $sameOwner) {
                Records::warnDangling($ledger, $record);
            }
            $before = $record->toRecord($zone->default_ttl);
            Records::change($ledger, $record, $owner ?? $before->owner, $ttl, $data ?? $before->data);

            return;
        }
        Records::level(
            $zone,
            Record::query()->where('zone_id', $zone->id)->where('owner_key', $record->owner_key)
                ->where('type', $record->type)->get()->all(),
            $record->type,
            $ttl,
        );
        $ledger->passed('one-ttl', 'One TTL in the record set', 'RFC 2181 §5.2');
    }

    private function throughHost(Ledger $ledger, Record $record, ?string $address, ?string $name): void
    {
        if ($address === null && $name === null) {
            $ledger->refuse(
                'belongs-to-host',
                'This record belongs to a placed host',
                'Change the host, and the name follows both ways.',
                null,
                'data',
            );
        }
        (new HostChange((string) $record->address_id, $address, $name))->write($ledger);
    }
}
