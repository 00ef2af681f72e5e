<?php

declare(strict_types=1);

namespace App\Acts\Scan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Plan\HostChange;
use App\Domain\Plan\NewHost;
use App\Domain\Plan\Release;
use App\Models\Host;
use App\Models\Person;
use App\Models\Record;
use App\Models\SightingVerdict;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * Chosen results of a scan are taken into the plan. Planned data is overwritten only field by field and only where it is asked for: each
 * change is its own box, and What follows shows old and new of every one.
 */
final readonly class TakeSightings extends Act
{
    /** @param  list<string>  $results  ids of results */
    public function __construct(
        #[Field(Kind::Line, 'Scan', most: 26)]
        public string $scan,
        #[Field(Kind::Texts, 'Results', most: 30)]
        public array $results,
        #[Field(Kind::Flag, 'Place', 'Place those that answer and are not planned')]
        public bool $place = false,
        #[Field(Kind::Flag, 'Take MACs', 'Take the MAC that was seen over the planned one')]
        public bool $macs = false,
        #[Field(Kind::Flag, 'Take names', 'Take the name that the address points back to over the planned one')]
        public bool $names = false,
        #[Field(Kind::Flag, 'Write PTRs', 'Write PTRs that are missing')]
        public bool $ptrs = false,
        #[Field(Kind::Flag, 'Release silent ones', 'Release hosts that did not answer')]
        public bool $release = false,
    ) {
    }

    public function title(): string
    {
        return 'Take in '.count($this->results).' results of a scan';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('plan.scan', $this->scan);
    }

    public static function governed(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $rows = DB::table('scan_results')->where('scan_id', $this->scan)->whereIn('id', $this->results)->orderBy('address')->get();
        if ($rows->isEmpty()) {
            $ledger->refuse('nothing-picked', 'Pick results to take in');
        }
        if (! $this->place && ! $this->macs && ! $this->names && ! $this->ptrs && ! $this->release) {
            $ledger->refuse('nothing-chosen', 'Choose what is taken: hosts, MACs, names, PTRs or releases');
        }
        $left = 0;
        foreach ($rows as $row) {
            $left += $this->take($ledger, $row) ? 0 : 1;
        }
        $left === 0 || $ledger->warn('left-out', "$left of the picked results have nothing of the chosen kind", 'They stay as they are.');
    }

    private function take(Ledger $ledger, \stdClass $row): bool
    {
        $address = Address::fromBytes((string) $row->address);
        $mac = $row->mac === null ? null : MacAddress::fromBytes((string) $row->mac);
        $host = Host::query()->where('family', $row->family)->where('address', $address->bytes)
            ->where('prefix_id', $row->prefix_id)->first();
        if ($host === null) {
            if (! $this->place || $row->verdict !== SightingVerdict::Unknown->value) {
                return false;
            }
            (
                new NewHost(
                    prefix: $row->prefix_id,
                    id: (string) Str::ulid(),
                    name: $row->ptr,
                    address: (string) $address,
                    mac: (string) $mac,
                    description: 'found by a scan',
                )
            )->place($ledger);

            return true;
        }
        $took = false;
        if ($this->release && $row->verdict === SightingVerdict::Silent->value) {
            Release::picked($ledger, [$host->id]);

            return true;
        }
        if ($this->macs && $mac !== null && (string) $host->mac !== (string) $mac) {
            (new HostChange($host->id, mac: (string) $mac))->write($ledger);
            $took = true;
        }
        if ($this->names && $row->ptr !== '' && $row->ptr !== $host->name) {
            (new HostChange($host->id, name: "$row->ptr."))->write($ledger);
            $took = true;
        }
        if ($this->ptrs && $row->verdict === SightingVerdict::NoPointer->value) {
            $forward = Record::query()->with('zone')->where('address_id', $host->id)
                ->whereIn('type', [RecordType::A, RecordType::AAAA])->first();
            if ($forward !== null && Record::query()->where('address_id', $host->id)->where('type', RecordType::PTR)->doesntExist()) {
                $took = Records::pointBack(
                    $ledger,
                    $host->address,
                    Name::parse($forward->owner),
                    $forward->ttl,
                    $forward->zone->view_id,
                    $host->id,
                ) !== null;
            }
        }

        return $took;
    }
}
