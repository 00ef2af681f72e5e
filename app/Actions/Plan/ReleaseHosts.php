<?php

declare(strict_types=1);

namespace App\Actions\Plan;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Actions\Name\Records;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Queries\Reach;

/** Hosts give back their addresses, with their records and reservations. */
final readonly class ReleaseHosts extends Action
{
    /** @param  list<string>  $hosts */
    public function __construct(
        #[Field(Kind::Ids, 'Hosts', of: Host::class)]
        public array $hosts,
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix = '',
    ) {
    }

    public function title(): string
    {
        return count($this->hosts) === 1 ? 'Release '.(Host::query()->find($this->hosts[0])?->line() ?? 'a host') : 'Release '.count($this->hosts).' hosts';
    }

    public static function may(Person $person): bool
    {
        return $person->operates();
    }

    public function landing(): string
    {
        return "/plan/prefix/$this->prefix";
    }

    public function apply(Ledger $ledger): void
    {
        $hosts = ($ledger->person === null ? Host::query() : Reach::of($ledger->person)->hosts())->whereIn('id', $this->hosts)->get();
        if ($hosts->isEmpty() || $hosts->count() !== count(array_unique($this->hosts))) {
            $ledger->refuse('gone', 'A host of the selection is not there any more, or not available to you');
        }
        foreach ($hosts as $host) {
            foreach (Record::query()->where('address_id', $host->id)->get() as $record) {
                Records::warnDangling($ledger, $record);
                Records::remove($record);
            }
            Reservation::query()->where('address_id', $host->id)->get()->each->delete();
            $host->delete();
            Counter::add($host->prefix_id, -1);
        }
    }
}
