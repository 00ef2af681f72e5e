<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\KeptByHand;
use App\Domain\Ship\HandingOut;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use App\Models\Scope;
use App\Models\Zone;
use App\Models\ZoneServer;
use Illuminate\Support\Facades\DB;

/** A zone is removed with all its records. Servers keep answering until it is taken off them. */
final readonly class RemoveZone extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
    ) {
    }

    public function title(): string
    {
        return 'Remove the zone '.(\App\Models\Zone::query()->find($this->zone)?->title() ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('name');
    }

    public function apply(Ledger $ledger): void
    {
        $zone = AddRecord::zone($ledger, $this->zone);
        if ($zone->keys()->whereNotNull('ds_asked')->whereNull('removed')->exists()) {
            $ledger->refuse(
                'parent-names-key',
                "The parent names a key of {$zone->title()}",
                'Without the zone that name could not be proved: stop signing it first.',
                'RFC 4035 §2.4',
                link: at('name.zone.signing', $zone->id),
            );
        }
        $named = Scope::query()->with('prefix')->where('name_zone_id', $zone->id)->first();
        if ($named !== null) {
            $ledger->refuse(
                'names-leases',
                "The leases of $named->name are named in it",
                'Name them elsewhere first, or not at all.',
                link: at('lease.scope', $named->id),
            );
        }
        $hosts = Record::query()->where('zone_id', $zone->id)->whereNotNull('address_id')->count();
        if ($hosts > 0) {
            $ledger->refuse(
                'has-hosts',
                "$hosts records of the zone belong to placed hosts",
                'Release the hosts first.',
                link: at('name.zone', $zone->id),
            );
        }
        $count = Record::query()->where('zone_id', $zone->id)->count();
        $ledger->warn(
            'all-records',
            "$count records go with it",
            'Servers that hold the zone keep answering until the next shipment takes it off.',
        );
        KeptByHand::sayStays($ledger, $zone);
        HandingOut::withdraw($zone);
        $ledger->bulkCut(Record::query()->where('zone_id', $zone->id));
        DB::table('record_changes')->where('zone_id', $zone->id)->delete();
        ZoneServer::query()->where('zone_id', $zone->id)->get()->each->delete();
        $zone->delete();
    }
}
