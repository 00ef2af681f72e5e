<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Record;
use App\Models\Zone;
use App\Queries\ZonePage;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Database\Eloquent\Collection;

/** Records are removed; what points at them is named. */
final readonly class RemoveRecords extends Act
{
    use OnRecords;

    /** @param  list<string>  $records */
    public function __construct(
        #[Field(Kind::Ids, 'Records', of: Record::class)]
        public array $records = [],
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
        #[Field(Kind::Line, 'All that match', 'A filter of the zone, instead of picked records', most: 500)]
        public string $matching = '',
        #[Field(Kind::Flag, 'With what points at them', 'Aliases, MX, SRV and pointers go first, and what points at those')]
        public bool $dependants = false,
    ) {
    }

    public function title(): string
    {
        if ($this->matching !== '') {
            return "Remove all records that match \"$this->matching\"";
        }

        return count($this->records) === 1
            ? 'Remove '.(Record::query()->find($this->records[0])?->line() ?? 'a record')
            : 'Remove '.count($this->records).' records';
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $rows = self::chosen($ledger, $this->records, $this->zone, $this->matching);
        $rows = $this->dependants ? self::withPointers($ledger, $rows) : $rows;
        $ids = self::ids($rows);
        foreach ($rows as $record) {
            NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
            if ($record->address_id !== null) {
                $ledger->warn(
                    'belongs-to-host',
                    "{$record->line()} belongs to a placed host",
                    'The host keeps its address and loses this name.',
                );
            }
            $last = $record->type === RecordType::NS && $record->owner === $record->zone->name
                && Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $record->owner_key)
                    ->where('type', RecordType::NS)->whereNotIn('id', $ids)->doesntExist();
            if ($last) {
                $ledger->refuse(
                    'last-ns',
                    "The zone {$record->zone->title()} would have no name server",
                    'Add another NS first.',
                    'RFC 1912 §2.8',
                );
            }
            Records::warnDangling($ledger, $record, $ids);
            foreach (Records::siblings($record) as $sibling) {
                if (! in_array($sibling->id, $ids, true)) {
                    Records::remove($sibling);
                    $ledger->warn(
                        'shared-goes',
                        "{$sibling->line()} goes with it in the view {$sibling->zone->view->name}",
                        'The record is shared between views; keep it apart first to remove one.',
                    );
                }
            }
            Records::remove($record);
        }
    }

    /**
     * @template TKey of int|string
     *
     * @param  Collection<TKey, Record>  $rows
     * @return list<string>
     */
    private static function ids(Collection $rows): array
    {
        return array_values($rows->map(static fn (Record $r): string => $r->id)->all());
    }

    /**
     * What points at a name that is about to lose its last record goes before it, and so on: nothing points at nothing in between.
     *
     * @param  Collection<int, Record>  $rows
     * @return Collection<int, Record>
     */
    private static function withPointers(Ledger $ledger, Collection $rows): Collection
    {
        $all = $rows->keyBy('id');
        for ($next = $rows->all(); $next !== [];) {
            $found = [];
            foreach ($next as $record) {
                $going = self::ids($all);
                $left = Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $record->owner_key)
                    ->whereNotIn('id', $going)->exists();
                foreach ($left ? [] : Records::pointers($record, $going) as $pointing) {
                    $all[$pointing->id] = $found[$pointing->id] = $pointing;
                }
            }
            $next = $found;
            $all->count() <= ZonePage::AT_ONCE
                ?: $ledger->refuse(
                    'too-many',
                    'More than '.number_format(ZonePage::AT_ONCE).' records would go with them',
                    'Choose fewer at once.',
                );
        }
        foreach ($all->diffKeys($rows->keyBy('id')) as $with) {
            $ledger->later("{$with->line()} in the view {$with->zone->view->name} goes first: it points at what is removed");
        }

        return new Collection($all->reverse()->values()->all());
    }
}
