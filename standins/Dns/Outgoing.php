<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;

/** Zones on their way out: whole by AXFR (RFC 5936), by steps by IXFR (RFC 1995), in messages of a bounded size. */
final class Outgoing
{
    private const RECORDS = 200;

    private const BYTES = 30_000;

    /**
     * @param  bool  $allowed  may the asker have the zone?
     * @return \Generator<int, Message>
     */
    public static function of(Message $query, ?ServedZone $zone, bool $allowed, bool $tcp): \Generator
    {
        $soa = $zone?->soa();
        if ($zone === null || $soa === null || $zone->expired) {
            yield $query->reply($zone?->expired === true ? Rcode::ServFail : Rcode::NotAuth);

            return;
        }
        $byType = $query->questions[0]->type->number ?? 0;
        if (! $allowed || ! $tcp && $byType === RecordType::AXFR) {
            yield $query->reply(Rcode::Refused);

            return;
        }
        if ($byType === RecordType::IXFR) {
            $steps = self::steps($query, $zone, $soa);
            // Over UDP a lone SOA says that there is more to come by TCP (RFC 1995 §2).
            if ($steps === [] || ! $tcp) {
                yield $query->reply(Rcode::NoError, [$soa], authoritative: true);

                return;
            }
            if ($steps !== null) {
                yield from self::packed($query, self::ofSteps($steps, $soa));

                return;
            }
        }
        yield from self::packed($query, self::whole($zone, $soa));
    }

    /**
     * @return list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}>|null empty when the asker has everything;
     *     null for the whole zone
     */
    private static function steps(Message $query, ServedZone $zone, Record $soa): ?array
    {
        $has = ($query->authority[0] ?? null)?->data;
        if (! $has instanceof Soa || ! $soa->data instanceof Soa) {
            return null;
        }

        return $has->serial->isBefore($soa->data->serial) ? $zone->stepsFrom($has->serial) : [];
    }

    /**
     * @param  list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}>  $steps
     * @return \Generator<int, Record>
     */
    private static function ofSteps(array $steps, Record $soa): \Generator
    {
        yield $soa;
        foreach ($steps as $step) {
            yield $step['from'];
            yield from $step['removed'];
            yield $step['to'];
            yield from $step['added'];
        }
        yield $soa;
    }

    /** @return \Generator<int, Record> */
    private static function whole(ServedZone $zone, Record $soa): \Generator
    {
        yield $soa;
        yield from $zone->records();
        yield $soa;
    }

    /**
     * @param  iterable<int, Record>  $records
     * @return \Generator<int, Message>
     */
    private static function packed(Message $query, iterable $records): \Generator
    {
        $batch = [];
        $bytes = 0;
        foreach ($records as $record) {
            $size = strlen($record->owner->wire) + 10 + strlen($record->data->wire());
            if ($batch !== [] && (count($batch) >= self::RECORDS || $bytes + $size > self::BYTES)) {
                yield $query->reply(Rcode::NoError, $batch, authoritative: true);
                $batch = [];
                $bytes = 0;
            }
            $batch[] = $record;
            $bytes += $size;
        }
        yield $query->reply(Rcode::NoError, $batch, authoritative: true);
    }
}
