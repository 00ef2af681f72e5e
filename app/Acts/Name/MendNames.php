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
use App\Queries\NameSweep;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/**
 * Chosen disagreements of forward and reverse are mended as one: a missing PTR is written, a wrong one turned, one without a name removed.
 */
final readonly class MendNames extends Act
{
    /** @param  list<string>  $findings  of one sweep; empty with $code takes all of that kind */
    public function __construct(
        #[Field(Kind::Line, 'Comparison', most: 26)]
        public string $sweep,
        #[Field(Kind::Texts, 'Findings', most: 30)]
        public array $findings = [],
        #[Field(Kind::Line, 'Kind', most: 20)]
        public string $code = '',
    ) {
    }

    public function title(): string
    {
        return 'Mend '.($this->findings === [] ? 'all disagreements of one kind' : count($this->findings).' disagreements');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.sweep.one', $this->sweep).($this->code === '' ? '' : "?code=$this->code");
    }

    public function apply(Ledger $ledger): void
    {
        $rows = DB::table('sweep_findings')->where('sweep_id', $this->sweep)->where('mended', false)
            ->where('code', '!=', NameSweep::UNCOVERED)
            ->when($this->findings !== [], fn ($q) => $q->whereIn('id', $this->findings))
            ->when($this->findings === [], fn ($q) => $q->where('code', $this->code))->orderBy('id')->limit(5000)
            ->get();
        $rows->isNotEmpty() ?: $ledger->refuse('nothing-chosen', 'Choose disagreements to mend', field: 'findings');
        $stale = 0;
        foreach ($rows as $row) {
            $record = Record::query()->with('zone')->find((string) $row->record_id);
            $address = Address::fromBytes((string) $row->address);
            if ($record === null || ! $this->holds($record, (string) $row->code, $address)) {
                $stale++;

                continue;
            }
            $row->code === 'orphan' ? Records::remove($record) : $this->point($ledger, $record, $address);
        }
        DB::table('sweep_findings')->whereIn('id', $rows->pluck('id'))->update(['mended' => true]);
        $stale === 0 ?: $ledger->warn('mended-meanwhile', "$stale of them were mended or removed meanwhile", 'They are left as they are.');
        $ledger->passed('mended', ($rows->count() - $stale).' disagreements are mended');
    }

    private function holds(Record $record, string $code, Address $address): bool
    {
        return $code === 'orphan' ? $record->type === RecordType::PTR : in_array($record->type, [RecordType::A, RecordType::AAAA], true)
            && Address::tryParse($record->data)?->equals($address) === true;
    }

    /** The PTR of an address gets the name of this record, whatever it said before. */
    private function point(Ledger $ledger, Record $record, Address $address): void
    {
        $place = Zones::pointer($address, $record->zone->view_id);
        $says = $place === null
            ? null
            : Record::query()->where('zone_id', $place[0]->id)->where('owner_key', $place[1]->sortKey())
                ->where('type', RecordType::PTR)->pluck('target');
        if ($says !== null && $says->all() === [$record->owner]) {
            return; // The same name stands in several views.
        }
        foreach (
            $place === null
                ? []
                : Record::query()->where('zone_id', $place[0]->id)->where('owner_key', $place[1]->sortKey())
                    ->where('type', RecordType::PTR)->get() as $wrong
        ) {
            Records::remove($wrong);
        }
        Records::pointBack($ledger, $address, Name::parse($record->owner), $record->ttl, $record->zone->view_id, $record->address_id);
    }
}
