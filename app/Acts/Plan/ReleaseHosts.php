<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Plan\Counter;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\InUse;
use App\Queries\Reach;
use Illuminate\Database\Eloquent\Collection;

/** Hosts give back their addresses, with their records and reservations. */
final readonly class ReleaseHosts extends Act
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
        return count($this->hosts) === 1
            ? 'Release '.(Host::query()->find($this->hosts[0])?->line() ?? 'a host')
            : 'Release '.count($this->hosts).' hosts';
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
        self::release($ledger, $hosts);
    }

    /**
     * In sets: records and reservations of all of them first, so that what goes with them is not said to be left behind.
     *
     * @param  Collection<int, Host>  $hosts
     */
    public static function release(Ledger $ledger, Collection $hosts): void
    {
        $ids = $hosts->modelKeys();
        $records = Record::query()->with('zone')->whereIn('address_id', $ids)->get();
        $going = array_values(array_map(strval(...), $records->modelKeys()));
        foreach ($records as $record) {
            Records::warnDangling($ledger, $record, $going);
            Records::remove($record);
        }
        Reservation::query()->whereIn('address_id', $ids)->get()->each->delete();
        foreach ($hosts as $host) {
            $lease = InUse::activeLeases()->where('address', $host->address->bytes)
                ->whereIn('scope_id', Scope::query()->where('prefix_id', $host->prefix_id)->select('id'))->first();
            if ($lease !== null) {
                $ledger->warn(
                    'still-leased',
                    "$host->address is leased to $lease->mac until {$lease->ends_at->format('j M H:i')}",
                    'The client keeps it until then.',
                    null,
                    null,
                    "/lease/scope/$lease->scope_id",
                );
            }
            $host->delete();
            Counter::add($host->prefix_id, -1);
        }
    }
}
