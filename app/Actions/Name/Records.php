<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Actions\Ledger;
use App\Models\Record;
use App\Models\WriteGate;
use App\Models\Zone;
use App\Queries\Zones;
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
            $ledger->refuse('owner-outside', "$owner is outside the zone {$zone->title()}", 'A name with a final dot is absolute; without one the zone is added.', 'RFC 1034 §4.2', 'name');
        }

        return $owner;
    }

    /** @param  array<mixed>  $fields  values in the order of TypedFields; when there are none, the text is the presentation form */
    public static function data(Ledger $ledger, Zone $zone, string $type, string $text, array $fields = []): Rdata
    {
        $kind = RecordType::tryParse(trim($type)) ?? $ledger->refuse('type-unknown', "\"$type\" is no record type", standard: 'RFC 3597 §5', field: 'type');
        if ($kind->number === RecordType::OPT || $kind->number === RecordType::SOA) {
            $ledger->refuse('type-not-here', "$kind records are not written by hand", $kind->number === RecordType::SOA ? 'The SOA is part of the zone: edit its timers there.' : 'OPT stands only in messages.', 'RFC 6891 §6.1.1', 'type');
        }
        $values = array_values(array_map(fn (mixed $v): string => is_scalar($v) ? (string) $v : '', $fields));
        $layout = TypedFields::of($kind);
        try {
            return RdataTypes::fromText($kind, Fields::ofLine($values === [] ? $text : TypedFields::compose($kind, $values), $zone->origin()));
        } catch (Malformed $e) {
            $at = $values === [] ? 'data' : 'fields['.min($e->field ?? 0, count($values) - 1).']';
            $label = $values === [] || count($layout) === 1 || $e->field === null ? '' : $layout[min($e->field, count($layout) - 1)]->label;
            $ledger->refuse('bad-data', $label === '' || str_starts_with($e->getMessage(), $label) ? $e->getMessage() : "$label: {$e->getMessage()}", standard: $e->standard, field: $at);
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
            $ledger->warn('ttl-zero', 'A TTL of 0: nobody may keep the answer', 'Leave it blank to inherit the TTL of the zone.', 'RFC 1035 §3.2.1', 'ttl');
        }

        return $ttl;
    }

    public static function add(Ledger $ledger, Zone $zone, Name $owner, ?int $ttl, Rdata $data, ?string $id = null, ?string $addressId = null): Record
    {
        $type = $data->type();
        $beside = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())->get();
        self::checkAlias($ledger, $zone, $owner, $type, $beside->all());
        $columns = Record::columns($owner, $ttl, $data);
        foreach ($beside as $other) {
            if ($other->type === $type->number && $other->data_hash === $columns['data_hash']) {
                $ledger->refuse('record-twice', "{$other->line()} is already in {$zone->title()}", 'A record set holds no record twice.', 'RFC 2181 §5', 'data', self::page($zone, $owner));
            }
        }
        self::checkTarget($ledger, $zone, $data);
        $record = new Record(['zone_id' => $zone->id, 'address_id' => $addressId] + $columns + ($id === null ? [] : ['id' => $id]));
        $record->save();
        self::journal('+', $record);
        self::level($zone, $beside->all(), $type->number, $ttl);

        return $record;
    }

    /** @return list<Record> the same record in other views, as far as it is shared */
    public static function siblings(Record $record): array
    {
        return $record->share_id === null ? [] : array_values(Record::query()->with('zone')->where('share_id', $record->share_id)->whereKeyNot($record->id)->get()->all());
    }

    public static function remove(Record $record): void
    {
        self::journal('-', $record);
        $record->delete();
    }

    /** Names that point at a name which is about to lose its last record. */
    public static function warnDangling(Ledger $ledger, Record $record): void
    {
        $left = Record::query()->where('zone_id', $record->zone_id)->where('owner_key', $record->owner_key)->whereKeyNot($record->id)->exists();
        if ($left) {
            return;
        }
        $all = Record::query()->where('target', $record->owner)->whereKeyNot($record->id)->count();
        $all <= 5 ?: $ledger->warn('many-dangling', "$all records point at $record->owner", 'The first five are named.', 'RFC 1912 §2.4', null, '/find?q='.urlencode(rtrim($record->owner, '.')));
        foreach (Record::query()->where('target', $record->owner)->whereKeyNot($record->id)->limit(5)->get() as $pointing) {
            $ledger->warn('left-dangling', "{$pointing->line()} will point at nothing", 'Remove or change it too.', 'RFC 1912 §2.4', null, self::page($pointing->zone, Name::parse($pointing->owner)));
        }
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
        return "/name/zone/$zone->id?filter=".urlencode(rtrim((string) $owner->lower(), '.'));
    }

    /**
     * The PTR of an address, in the closest reverse zone of the view, or of any view when it has none.
     *
     * @return Record|null null when no reverse zone covers the address; a warning says so
     */
    public static function pointBack(Ledger $ledger, \HarborPost\Core\Net\Address $address, Name $name, ?int $ttl, ?string $view, ?string $addressId): ?Record
    {
        [$zone, $reverse] = Zones::pointer($address, $view) ?? [null, null];
        if ($zone === null || $reverse === null) {
            $wanted = \HarborPost\Core\Dns\ReverseName::zones($address->in($address->family->value === 4 ? 24 : 64))[0];
            $ledger->warn('no-reverse-zone', "No reverse zone covers $address, so no PTR is written", 'Make the zone '.rtrim((string) $wanted, '.').' and place the PTR there.', 'RFC 1912 §2.1', null, '/name/reverse?nets='.urlencode((string) $address->in($address->family->value === 4 ? 24 : 64)));

            return null;
        }
        $other = Record::query()->where('zone_id', $zone->id)->where('owner_key', $reverse->sortKey())->where('type', RecordType::PTR)->first();
        if ($other !== null) {
            $ledger->warn('second-ptr', "$address already points back to ".rtrim($other->data, '.'), 'One PTR per address is the habit; both will be answered.', 'RFC 1912 §2.1', null, self::page($zone, $reverse));
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
            $ledger->refuse('cname-at-apex', 'The top of a zone cannot be an alias', 'Its SOA and NS stand there; write A and AAAA.', 'RFC 1034 §3.6.2', 'type');
        }
        foreach ($beside as $other) {
            if ($isAlias || $other->type === RecordType::CNAME) {
                $ledger->refuse('cname-beside-data', "{$other->line()} stands at this name", 'An alias has no other data beside it.', 'RFC 1034 §3.6.2', 'type', self::page($zone, $owner));
            }
        }
        $ledger->passed('no-data-beside-alias', 'No data beside an alias', 'RFC 1034 §3.6.2');
    }

    private static function checkTarget(Ledger $ledger, Zone $zone, Rdata $data): void
    {
        if (! $data instanceof PointsAt || $data instanceof Ptr || $data->target()->isRoot()) {
            return;
        }
        $target = $data->target();
        $home = Zones::closest($target, $zone->view_id);
        if ($home === null) {
            return;
        }
        $found = Record::query()->where('zone_id', $home->id)->where('owner_key', $target->sortKey())->get();
        if ($found->contains('type', RecordType::CNAME) && in_array($data->type()->number, [RecordType::NS, RecordType::MX, RecordType::SRV], true)) {
            $ledger->refuse('target-is-alias', "$target is an alias", "An {$data->type()} names a host with addresses of its own.", 'RFC 2181 §10.3', 'data', self::page($home, $target));
        }
        if ($found->isEmpty() && ! Record::query()->where('zone_id', $home->id)->where('owner_key', '>', $target->sortKey())->where('owner_key', '<', $target->sortKey()."\xff")->exists()) {
            $ledger->warn('target-missing', "$target has no record", "It would be in the zone {$home->title()}.", 'RFC 1912 §2.4', 'data', self::page($home, $target));
        }
    }
}
