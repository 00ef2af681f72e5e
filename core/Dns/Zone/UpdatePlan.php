<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/**
 * A change of a zone as dynamic updates (RFC 2136) that overwrite nobody's: each asks first that the record sets which it touches stand as
 * they were read, and does all at a name or nothing. The last raises the serial; each one before lets the server raise it by itself (§3.6).
 */
final class UpdatePlan
{
    /** Records of an update, with what it asks for first: below the 65,535 bytes of a message whatever they are, but for long texts. */
    public const MOST = 300;

    /** Bytes of records, names written out; a message ends at 65,535. */
    private const BYTES = 48_000;

    /**
     * @param  list<Record>  $was  all records of the sets that are touched, as the server was read; what is not here is asked to be absent
     * @param  list<Record>  $removed
     * @param  list<Record>  $added  with the TTLs that are meant
     * @param  Record  $soa  the new one
     * @param  list<int>  $unasked  types that are changed and not asked for first
     * @return non-empty-list<UpdateRequest> to be sent one after the other; any that is refused ends it
     */
    public static function of(Name $origin, array $was, array $removed, array $added, Record $soa, array $unasked = []): array
    {
        /** @var array<string, array{Name, list<Record>, list<Record>, list<Record>}> $names owner, was, removed, added */
        $names = [];
        foreach ([1 => $was, 2 => $removed, 3 => $added] as $part => $records) {
            foreach ($records as $record) {
                if ($record->type()->number !== RecordType::SOA) {
                    $names[$record->owner->sortKey()] ??= [$record->owner, [], [], []];
                    $names[$record->owner->sortKey()][$part][] = $record;
                }
            }
        }
        ksort($names, SORT_STRING);
        $requests = $asks = $changes = [];
        $size = 0;
        foreach ($names as [$owner, $stood, $goes, $comes]) {
            [$ask, $change] = self::at($owner, $origin, $stood, $goes, $comes, $unasked);
            foreach (self::pieces($ask, $change) as [$ask, $change]) {
                $more = self::weight([...$ask, ...$change]);
                if ($size + $more > self::BYTES || count($asks) + count($changes) + count($ask) + count($change) > self::MOST) {
                    $changes === [] ?: $requests[] = new UpdateRequest($origin, $asks, $changes);
                    $asks = $changes = [];
                    $size = 0;
                }
                array_push($asks, ...$ask);
                array_push($changes, ...$change);
                $size += $more;
            }
        }

        return [...$requests, new UpdateRequest($origin, $asks, [...$changes, $soa])];
    }

    /**
     * What is asked and changed at one name. Removed comes before added, since an alias is ignored beside other data (§3.4.2.2); at the
     * apex it is the other way round, since its last NS is never removed (§3.4.2.4).
     *
     * @param  list<Record>  $was
     * @param  list<Record>  $removed
     * @param  list<Record>  $added
     * @param  list<int>  $unasked
     * @return array{list<Record>, list<Record>}
     */
    private static function at(Name $owner, Name $origin, array $was, array $removed, array $added, array $unasked): array
    {
        $stood = [];
        foreach ($was as $record) {
            $stood[$record->type()->number][] = new Record($owner, 0, $record->data);
        }
        $asks = [];
        foreach ([...$removed, ...$added] as $record) {
            $type = $record->type();
            if (! in_array($type->number, $unasked, true)) {
                $asks[$type->number] = $stood[$type->number] ?? [UpdateRequest::none($owner, $type)];
            }
        }
        // What comes again with another TTL replaces what stood (§3.4.2.2).
        $again = array_fill_keys(array_map(static fn (Record $r): string => $r->identity(), $added), true);
        $less = [];
        foreach ($removed as $record) {
            isset($again[$record->identity()]) ?: $less[] = UpdateRequest::less($record);
        }
        $asked = array_merge(...array_values($asks));

        return [$asked, $owner->equals($origin) ? [...$added, ...$less] : [...$less, ...$added]];
    }

    /**
     * A name that is too large for one message: then only that its sets are in use is asked, and its changes come in several.
     *
     * @param  list<Record>  $asks
     * @param  list<Record>  $changes
     * @return list<array{list<Record>, list<Record>}>
     */
    private static function pieces(array $asks, array $changes): array
    {
        if (count($asks) + count($changes) <= self::MOST && self::weight([...$asks, ...$changes]) <= self::BYTES) {
            return [[$asks, $changes]];
        }
        $sets = [];
        foreach ($asks as $record) {
            $type = $record->type();
            $sets[$type->number] = $record->class === Record::IN ? UpdateRequest::whole($record->owner, $type) : $record;
        }
        $pieces = [];
        $piece = [];
        foreach ($changes as $change) {
            if (count($piece) >= self::MOST - count($sets) || self::weight([...$piece, $change]) > self::BYTES) {
                $pieces[] = [$pieces === [] ? array_values($sets) : [], $piece];
                $piece = [];
            }
            $piece[] = $change;
        }

        return [...$pieces, [$pieces === [] ? array_values($sets) : [], $piece]];
    }

    /** @param  list<Record>  $records */
    private static function weight(array $records): int
    {
        return array_sum(array_map(static fn (Record $r): int => strlen($r->owner->wire) + 10 + strlen($r->data->canonical()), $records));
    }
}
