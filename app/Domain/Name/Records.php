<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Record;
use App\Models\WriteGate;
use App\Models\Zone;
use App\Queries\Reach;
use App\Queries\Zones;
use HarborPost\Core\Checks\HostName;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\PointsAt;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\Rdata\Rdata;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\TypedFields;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use Illuminate\Support\Facades\DB;

/** Writes records with their checks and the zone's journal, from which the next shipment is computed. */
final class Records
{
    public static function owner(Ledger $ledger, Zone $zone, string $text): Name
    {
        try {
            $owner = Name::parse(trim($text) === '' ? '@' : trim($text), $zone->origin());
        } catch (Malformed $e) {
            $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: 'name');
        }
        if (! $owner->isIn($zone->origin())) {
            $ledger->refuse(
                'owner-outside',
                "$owner is outside the zone {$zone->title()}",
                'A name with a final dot is absolute; without one the zone is added.',
                'RFC 1034 §4.2',
                'name',
            );
        }

        return $owner;
    }

    /** The name of a host in a zone: one that is pasted whole is understood, one that no host can have is refused. */
    public static function hostName(Ledger $ledger, Zone $zone, string $text): Name
    {
        $text = trim($text);
        $whole = ! str_ends_with($text, '.') ? Name::tryParse("$text.") : null;
        if ($whole !== null && $whole->isIn($zone->origin()) && ! $whole->equals($zone->origin())) {
            $ledger->passed('name-read', "Read as $whole, since the zone stands in it");
            $owner = $whole;
        } else {
            $owner = self::owner($ledger, $zone, $text);
        }
        if ($owner->equals($zone->origin())) {
            $ledger->warn(
                'name-is-zone',
                "{$zone->title()} itself becomes the name of this host",
                'The top of a zone is seldom a host.',
                'RFC 1123 §2.1',
                'name',
            );
        }
        self::checkHostName($ledger, $owner);

        return $owner;
    }

    /** The name of a host that stands in no zone of ours, as it is kept: lower case, without the final dot. */
    public static function plainName(Ledger $ledger, string $text): string
    {
        if (trim($text) === '') {
            return '';
        }
        try {
            $name = Name::parse(trim($text));
        } catch (Malformed $e) {
            $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: 'name');
        }
        self::checkHostName($ledger, $name);

        return rtrim((string) $name->lower(), '.');
    }

    private static function checkHostName(Ledger $ledger, Name $name): void
    {
        $fault = HostName::fault($name);
        if ($fault !== null && $fault['code'] === HostName::IMPOSSIBLE) {
            $ledger->refuse('bad-host-name', ucfirst($fault['message']), 'Write another name.', 'RFC 1123 §2.1', 'name');
        }
        if ($fault !== null) {
            $ledger->warn(
                'unusual-name',
                ucfirst($fault['message']),
                'DNS takes it; some programs refuse such a host.',
                'RFC 1123 §2.1',
                'name',
            );
        }
    }

    /** @param  array<mixed>  $fields  values in the order of TypedFields; when there are none, the text is the presentation form */
    public static function data(Ledger $ledger, Zone $zone, string $type, string $text, array $fields = []): Rdata
    {
        $kind = RecordType::tryParse(trim($type))
            ?? $ledger->refuse('type-unknown', "\"$type\" is no record type", standard: 'RFC 3597 §5', field: 'type');
        if ($kind->number === RecordType::OPT || $kind->number === RecordType::SOA) {
            $ledger->refuse(
                'type-not-here',
                "$kind records are not written by hand",
                $kind->number === RecordType::SOA ? 'The SOA is part of the zone: edit its timers there.' : 'OPT stands only in messages.',
                'RFC 6891 §6.1.1',
                'type',
            );
        }
        $values = array_values(array_map(fn (mixed $v): string => is_scalar($v) ? (string) $v : '', $fields));
        $layout = TypedFields::of($kind);
        try {
            return RdataTypes::fromText(
                $kind,
                Fields::ofLine($values === [] ? $text : TypedFields::compose($kind, $values), $zone->origin()),
            );
        } catch (Malformed $e) {
            $at = $values === [] ? 'data' : 'fields['.min($e->field ?? 0, count($values) - 1).']';
            $label = $values === [] || count($layout) === 1 || $e->field === null ? '' : $layout[min($e->field, count($layout) - 1)]->label;
            $ledger->refuse(
                'bad-data',
                $label === '' || str_starts_with($e->getMessage(), $label) ? $e->getMessage() : "$label: {$e->getMessage()}",
                standard: $e->standard,
                field: $at,
            );
        }
    }

    /** Seconds or with units; blank inherits the zone's. */
    public static function ttl(Ledger $ledger, string $text, bool $zeroMeant = false): ?int
    {
        if (trim($text) === '') {
            return null;
        }
        try {
            $ttl = Ttl::parse(trim($text))->seconds;
        } catch (Malformed $e) {
            $ledger->refuse('bad-ttl', $e->getMessage(), standard: $e->standard, field: 'ttl');
        }
        if ($ttl === 0 && ! $zeroMeant) {
            $ledger->warn(
                'ttl-zero',
                'A TTL of 0: nobody may keep the answer',
                'Leave it blank to inherit the TTL of the zone.',
                'RFC 1035 §3.2.1',
                'ttl',
            );
        }

        return $ttl;
    }

    public static function add(
        Ledger $ledger,
        Zone $zone,
        Name $owner,
        ?int $ttl,
        Rdata $data,
        ?string $id = null,
        ?string $addressId = null,
    ): Record {
        Guard::own(self::guard($zone, $owner->sortKey()));
        $beside = self::beside($zone, $owner);
        self::check($ledger, $zone, $owner, $data, $beside);
        $record = new Record(
            ['zone_id' => $zone->id, 'address_id' => $addressId] + Record::columns($owner, $ttl, $data) + (
                $id === null ? [] : ['id' => $id]
            ),
        );
        $record->save();
        self::journal('+', $record);
        self::level($zone, $beside, $data->type()->number, $ttl);

        return $record;
    }

    /** A record gets another name, TTL or other data; the row stays and its version rises. */
    public static function change(Ledger $ledger, Record $record, Name $owner, ?int $ttl, Rdata $data): void
    {
        $zone = $record->zone;
        Guard::own(self::guard($zone, $record->owner_key), self::guard($zone, $owner->sortKey()));
        $beside = array_values(array_filter(self::beside($zone, $owner), static fn (Record $r): bool => $r->id !== $record->id));
        self::check($ledger, $zone, $owner, $data, $beside);
        self::journal('-', $record);
        $record->fill(Record::columns($owner, $ttl, $data))->save();
        self::journal('+', $record);
        self::level($zone, $beside, $data->type()->number, $ttl);
    }

    /** What stands for all records at a name: whoever writes one of them owns it first, so that rules over the set hold. */
    private static function guard(Zone $zone, string $key): string
    {
        return "name:$zone->id:".bin2hex($key);
    }

    /** @return list<Record> */
    private static function beside(Zone $zone, Name $owner): array
    {
        return array_values(Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())->get()->all());
    }

    /** @param  list<Record>  $beside  the other records at the name */
    private static function check(Ledger $ledger, Zone $zone, Name $owner, Rdata $data, array $beside): void
    {
        self::checkSigning($ledger, $zone, $data->type());
        self::checkAlias($ledger, $zone, $owner, $data->type(), $beside);
        foreach ($beside as $other) {
            if ($other->type === $data->type()->number && $other->data_hash === md5($data->canonical(), true)) {
                $ledger->refuse(
                    'record-twice',
                    "{$other->line()} is already in {$zone->title()}",
                    'A record set holds no record twice.',
                    'RFC 2181 §5',
                    'data',
                    self::page($zone, $owner),
                );
            }
        }
        self::checkTarget($ledger, $zone, $owner, $data);
        self::checkPlace($ledger, $zone, $owner, $data->type());
    }

    /** What signing makes follows from records and keys, whichever way somebody would bring it. */
    private static function checkSigning(Ledger $ledger, Zone $zone, RecordType $type): void
    {
        if ($type->isMadeBySigning()) {
            $ledger->refuse(
                'made-by-signing',
                "$type records are made when a zone is signed",
                'Leave them out: sign the zone here, and they follow from its records and keys.',
                'RFC 4035 §2',
                'type',
            );
        }
        if ($zone->policy_id !== null && ZoneSigner::isMade($type->number)) {
            $ledger->refuse(
                'keys-are-kept',
                "{$zone->title()} is signed: its $type records follow from its keys",
                'One more would be covered by no signature, and nobody who validates would believe the zone.',
                'RFC 4035 §2.2',
                'type',
                at('name.zone.signing', $zone->id),
            );
        }
    }

    /** @return list<Record> the same record in other views, as far as it is shared */
    public static function siblings(Record $record): array
    {
        return $record->share_id === null
            ? []
            : array_values(Record::query()->with('zone')->where('share_id', $record->share_id)->whereKeyNot($record->id)->get()->all());
    }

    public static function remove(Record $record): void
    {
        self::journal('-', $record);
        $record->delete();
    }

    /**
     * Names that point at one which is about to lose its last record, in the views where that name is looked for in this zone.
     *
     * @param  list<string>  $going  ids of records that go in the same act
     */
    public static function warnDangling(Ledger $ledger, Record $record, array $going = []): void
    {
        $left = Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $record->owner_key)
            ->whereKeyNot($record->id)->whereNotIn('id', $going)->exists();
        if ($left) {
            return;
        }
        $pointing = self::pointers($record, $going);
        if (count($pointing) > 5) {
            $ledger->warn(
                'many-dangling',
                count($pointing)." records point at $record->owner",
                'The first five are named.',
                'RFC 1912 §2.4',
                null,
                at('find').'?q='.urlencode(rtrim($record->owner, '.')),
            );
        }
        foreach (array_slice($pointing, 0, 5) as $one) {
            $ledger->warn(
                'left-dangling',
                "{$one->line()} in the view {$one->zone->view->name} will point at nothing",
                'Remove or change it too.',
                'RFC 1912 §2.4',
                null,
                self::page($one->zone, Name::parse($one->owner)),
            );
        }
    }

    /**
     * Records that point at the name of another, and are answered in a view in which that name belongs to the same zone.
     *
     * @param  list<string>  $going
     * @return list<Record>
     */
    public static function pointers(Record $record, array $going = []): array
    {
        $name = Name::parse($record->owner);
        $home = [];

        return array_values(Record::query()->with('zone.view')->where('target', $record->owner)
            ->whereKeyNot($record->id)->whereNotIn('id', $going)->limit(2000)->get()
            ->filter(function (Record $r) use ($record, $name, &$home): bool {
                $view = $r->zone->view_id;
                $home[$view] ??= Zones::closest($name, $view)->id ?? $record->zone_id;

                return $home[$view] === $record->zone_id;
            })->all());
    }

    public static function journal(string $op, Record $record): void
    {
        WriteGate::books()->journalled(DB::table('record_changes')->insertGetId([
            'zone_id' => $record->zone_id, 'op' => $op, 'owner' => $record->owner, 'type' => $record->type, 'ttl' => $record->ttl,
            'data' => $record->data, 'at' => now(), 'person_id' => WriteGate::books()->personId(),
        ]));
    }

    /**
     * Gives a whole record set one TTL (RFC 2181 §5.2): an edit of one sets it for all.
     *
     * @param  array<int, Record>  $beside
     */
    public static function level(Zone $zone, array $beside, int $type, ?int $ttl): void
    {
        foreach ($beside as $other) {
            if ($other->type === $type && $other->ttl !== $ttl) {
                self::journal('-', $other);
                $other->ttl = $ttl;
                $other->save();
                self::journal('+', $other);
            }
        }
    }

    public static function page(Zone $zone, Name $owner): string
    {
        return at('name.zone', $zone->id).'?filter='.urlencode(rtrim((string) $owner->lower(), '.'));
    }

    /**
     * The PTR of an address, in the closest reverse zone of the view, or of any view when it has none.
     *
     * @return Record|null null when no reverse zone covers the address; a warning says so
     */
    public static function pointBack(
        Ledger $ledger,
        \HarborPost\Core\Net\Address $address,
        Name $name,
        ?int $ttl,
        ?string $view,
        ?string $addressId,
    ): ?Record {
        [$zone, $reverse] = Zones::pointer($address, $view) ?? [null, null];
        if ($zone === null || $reverse === null) {
            $wanted = \HarborPost\Core\Dns\ReverseName::zones($address->in($address->family->value === 4 ? 24 : 64))[0];
            $ledger->warn(
                'no-reverse-zone',
                "No reverse zone covers $address, so no PTR is written",
                'Make the zone '.rtrim((string) $wanted, '.').' and place the PTR there.',
                'RFC 1912 §2.1',
                null,
                at('name.reverse').'?nets='.urlencode((string) $address->in($address->family->value === 4 ? 24 : 64)),
            );

            return null;
        }
        $other = Record::query()->where('zone_id', $zone->id)->where('owner_key', $reverse->sortKey())
            ->where('type', RecordType::PTR)->first();
        if ($other !== null) {
            $ledger->warn(
                'second-ptr',
                "$address already points back to ".rtrim($other->data, '.'),
                'One PTR per address is the habit; both will be answered.',
                'RFC 1912 §2.1',
                null,
                self::page($zone, $reverse),
            );
        } else {
            $ledger->passed('forward-and-reverse', 'Forward and reverse agree', 'RFC 1912 §2.1');
        }

        return self::add($ledger, $zone, $reverse, $ttl, new Ptr($name), null, $addressId);
    }

    /** @param  array<int, Record>  $beside */
    private static function checkAlias(Ledger $ledger, Zone $zone, Name $owner, RecordType $type, array $beside): void
    {
        $isAlias = $type->number === RecordType::CNAME;
        if ($isAlias && $owner->equals($zone->origin())) {
            $ledger->refuse(
                'cname-at-apex',
                'The top of a zone cannot be an alias',
                'Its SOA and NS stand there; write A and AAAA.',
                'RFC 1034 §3.6.2',
                'type',
            );
        }
        foreach ($beside as $other) {
            if ($isAlias || $other->type === RecordType::CNAME) {
                $ledger->refuse(
                    'cname-beside-data',
                    "{$other->line()} stands at this name",
                    'An alias has no other data beside it.',
                    'RFC 1034 §3.6.2',
                    'type',
                    self::page($zone, $owner),
                );
            }
        }
        $ledger->passed('no-data-beside-alias', 'No data beside an alias', 'RFC 1034 §3.6.2');
    }

    /** A record below a cut or a DNAME of its own zone is written and never answered. */
    private static function checkPlace(Ledger $ledger, Zone $zone, Name $owner, RecordType $type): void
    {
        $above = [];
        for ($up = $owner->equals($zone->origin()) ? null : $owner; $up !== null && ! $up->equals($zone->origin()); $up = $up->parent()) {
            $above[$up->sortKey()] = $up;
        }
        if ($above === []) {
            return;
        }
        $cuts = Record::query()->where('zone_id', $zone->id)
            ->whereIn('owner_key', array_map(strval(...), array_keys($above)))
            ->whereIn('type', [RecordType::NS, RecordType::DNAME])->orderBy('owner_key')->get();
        foreach ($cuts as $cut) {
            $at = $cut->owner_key === $owner->sortKey();
            if ($cut->type === RecordType::DNAME && ! $at) {
                $ledger->refuse(
                    'below-dname',
                    "$owner is below the DNAME ".rtrim($cut->owner, '.'),
                    'A name below a DNAME is never answered from here: the DNAME sends it elsewhere.',
                    'RFC 6672 §2.4',
                    'name',
                    self::page($zone, Name::parse($cut->owner)),
                );
            }
            $glue = in_array($type->number, [RecordType::A, RecordType::AAAA], true)
                && Record::query()->where('zone_id', $zone->id)->where('type', RecordType::NS)
                    ->where('target', (string) $owner->lower())->exists();
            $ofTheCut = $at && in_array($type->number, [RecordType::NS, RecordType::DS, 47], true);
            if ($cut->type === RecordType::NS && ! $glue && ! $ofTheCut) {
                $ledger->warn(
                    'below-delegation',
                    "$owner is not answered from here: ".rtrim($cut->owner, '.').' is delegated',
                    'Servers refer to the zone of that name instead; write the record there.',
                    'RFC 1034 §4.2.1',
                    'name',
                    self::page($zone, Name::parse($cut->owner)),
                );

                return;
            }
        }
        if (
            $type->number === RecordType::DNAME
                && Record::query()->where('zone_id', $zone->id)->where('owner_key', '>', $owner->sortKey())
                    ->where('owner_key', '<', $owner->sortKey()."\xff")->exists()
        ) {
            $ledger->refuse(
                'dname-above-names',
                "Names stand below $owner",
                'A DNAME sends all of them elsewhere; remove them first.',
                'RFC 6672 §2.4',
                'name',
                self::page($zone, $owner),
            );
        }
    }

    /** Follows aliases through our own zones; one that comes back to where it began is answered by nobody. */
    private static function checkLoop(Ledger $ledger, Zone $zone, Name $owner, Name $target): void
    {
        for ($hop = $target, $i = 0; $i < 16; $i++) {
            if ($hop->equals($owner)) {
                $ledger->refuse(
                    'alias-loop',
                    $i === 0
                        ? "$owner would be an alias of itself"
                        : "$owner would come back to itself: the alias chain from $target ends where it began",
                    'No server can answer it.',
                    'RFC 1034 §3.6.2',
                    'data',
                );
            }
            $home = Zones::closest($hop, $zone->view_id);
            $next = $home === null
                ? null
                : Record::query()->where('zone_id', $home->id)->where('owner_key', $hop->sortKey())
                    ->where('type', RecordType::CNAME)->value('target');
            if (! is_string($next)) {
                return;
            }
            $hop = Name::parse($next);
        }
        $ledger->warn(
            'alias-chain',
            "The alias chain from $target has more than 16 steps",
            'Resolvers give up on such chains.',
            'RFC 1034 §3.6.2',
            'data',
        );
    }

    private static function checkTarget(Ledger $ledger, Zone $zone, Name $owner, Rdata $data): void
    {
        if (! $data instanceof PointsAt || $data instanceof Ptr || $data->target()->isRoot()) {
            return;
        }
        $target = $data->target();
        if ($data->type()->number === RecordType::CNAME) {
            self::checkLoop($ledger, $zone, $owner, $target);
        }
        $home = Zones::closest($target, $zone->view_id);
        if ($home === null || $ledger->person !== null && Reach::of($ledger->person)->zones()->whereKey($home->id)->doesntExist()) {
            // Of names in zones out of reach nothing is told, not even whether they are there.
            return;
        }
        $found = Record::query()->where('zone_id', $home->id)->where('owner_key', $target->sortKey())->get();
        if (
            $found->contains('type', RecordType::CNAME)
                && in_array($data->type()->number, [RecordType::NS, RecordType::MX, RecordType::SRV], true)
        ) {
            $ledger->refuse(
                'target-is-alias',
                "$target is an alias",
                "An {$data->type()} names a host with addresses of its own.",
                'RFC 2181 §10.3',
                'data',
                self::page($home, $target),
            );
        }
        if (
            $found->isEmpty()
                && ! Record::query()->where('zone_id', $home->id)->where('owner_key', '>', $target->sortKey())
                    ->where('owner_key', '<', $target->sortKey()."\xff")->exists()
        ) {
            $ledger->warn(
                'target-missing',
                "$target has no record",
                "It would be in the zone {$home->title()}.",
                'RFC 1912 §2.4',
                'data',
                self::page($home, $target),
            );
        }
    }

    /** The next shipment has something to bring although no record changed. */
    public static function mark(Zone $zone): void
    {
        DB::table('record_changes')->insert([
            'zone_id' => $zone->id, 'op' => '~', 'owner' => $zone->name, 'type' => RecordType::SOA, 'ttl' => null, 'data' => '',
        ]);
    }
}
