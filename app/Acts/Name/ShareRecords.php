<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Models\Person;
use App\Models\Record;
use App\Models\View;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use Illuminate\Support\Str;

/** Records are shared with the same zone in other views, so that a change of one changes all; or kept apart again. */
final readonly class ShareRecords extends Act
{
    /**
     * @param  list<string>  $records
     * @param  list<string>  $views  ids; empty keeps the records apart
     */
    public function __construct(
        #[Field(Kind::Ids, 'Records', of: Record::class)]
        public array $records,
        #[Field(Kind::Ids, 'Views', of: View::class)]
        public array $views = [],
    ) {
    }

    public function title(): string
    {
        return $this->views === []
            ? 'Keep '.count($this->records).' records apart'
            : 'Share '.count($this->records).' records between views';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        $zone = Record::query()->with('zone')->find($this->records[0] ?? '')?->zone;

        return $zone === null ? at('name.views') : at('name.views').'?zone='.urlencode($zone->title());
    }

    public function apply(Ledger $ledger): void
    {
        $rows = Record::query()->with('zone')->whereIn('id', $this->records)->get();
        $rows->isNotEmpty() ?: $ledger->refuse('nothing-chosen', 'Choose records', field: 'records');
        foreach ($rows as $record) {
            if ($this->views === []) {
                $this->apart($record);

                continue;
            }
            if ($record->address_id !== null) {
                $ledger->refuse(
                    'belongs-to-host',
                    "{$record->line()} belongs to a placed host",
                    'A host has its name in one view; write the record for the other view by hand.',
                    null,
                    'records',
                );
            }
            $this->share($ledger, $record);
        }
    }

    private function share(Ledger $ledger, Record $record): void
    {
        $record->share_id ??= (string) Str::ulid();
        $record->save();
        foreach (
            Zone::query()->where('name', $record->zone->name)->whereKeyNot($record->zone_id)
                ->whereIn('view_id', $this->views)->get() as $zone
        ) {
            $twin = Record::query()->where('zone_id', $zone->id)->where('owner_key', $record->owner_key)
                ->where('type', $record->type)->where('data_hash', $record->data_hash)->first();
            if ($twin?->address_id !== null) {
                $ledger->refuse('belongs-to-host', "{$twin->line()} belongs to a placed host", '', null, 'records');
            }
            $twin ??= Records::add(
                $ledger,
                $zone,
                Name::parse($record->owner),
                $record->ttl,
                $record->toRecord($record->zone->default_ttl)->data,
            );
            $twin->share_id = $record->share_id;
            $twin->save();
        }
    }

    private function apart(Record $record): void
    {
        foreach (Records::siblings($record) as $sibling) {
            // The last one that is left is not shared with anybody.
            Record::query()->where('share_id', $record->share_id)->count() > 2 ?: $this->clear($sibling);
        }
        $this->clear($record);
    }

    private function clear(Record $record): void
    {
        $record->share_id = null;
        $record->save();
    }
}
