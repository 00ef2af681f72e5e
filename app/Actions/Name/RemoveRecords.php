<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\Record;
use App\Models\Zone;
use App\Queries\NameRights;
use App\Queries\Reach;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** Records are removed; what points at them is named. */
final readonly class RemoveRecords extends Action
{
    use OnRecords;

    /** @param  list<string>  $records */
    public function __construct(
        #[Field(Kind::Ids, 'Records', of: Record::class)]
        public array $records,
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
    ) {
    }

    public function title(): string
    {
        return count($this->records) === 1 ? 'Remove '.(Record::query()->find($this->records[0])?->line() ?? 'a record') : 'Remove '.count($this->records).' records';
    }

    public function landing(): string
    {
        return "/name/zone/$this->zone";
    }

    public function apply(Ledger $ledger): void
    {
        $rows = ($ledger->person === null ? Record::query() : Reach::of($ledger->person)->records())->with('zone')->whereIn('id', $this->records)->get();
        if ($rows->isEmpty() || $rows->count() !== count(array_unique($this->records))) {
            $ledger->refuse('gone', 'A record of the selection is not there any more, or not available to you');
        }
        foreach ($rows as $record) {
            NameRights::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
            if ($record->address_id !== null) {
                $ledger->warn('belongs-to-host', "{$record->line()} belongs to a placed host", 'The host keeps its address and loses this name.');
            }
            $last = $record->type === RecordType::NS && $record->owner === $record->zone->name
                && Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $record->owner_key)->where('type', RecordType::NS)->whereNotIn('id', $this->records)->doesntExist();
            if ($last) {
                $ledger->refuse('last-ns', "The zone {$record->zone->title()} would have no name server", 'Add another NS first.', 'RFC 1912 §2.8');
            }
            Records::warnDangling($ledger, $record);
            foreach (Records::siblings($record) as $sibling) {
                if (! in_array($sibling->id, $this->records, true)) {
                    Records::remove($sibling);
                    $ledger->warn('shared-goes', "{$sibling->line()} goes with it in the view {$sibling->zone->view->name}", 'The record is shared between views; keep it apart first to remove one.');
                }
            }
            Records::remove($record);
        }
    }
}
