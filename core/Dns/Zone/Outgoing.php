<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;

/** A zone on its way out, in messages of a bounded size: whole (RFC 5936), by steps (RFC 1995 §4), or its SOA alone. */
final class Outgoing
{
    private const RECORDS = 200;

    private const BYTES = 30_000;

    /**
     * @param  iterable<int, Record>  $records  every record but the SOA
     * @return \Generator<int, Message>
     */
    public static function whole(Message $query, Record $soa, iterable $records): \Generator
    {
        yield from self::packed($query, (static function () use ($soa, $records): \Generator {
            yield $soa;
            foreach ($records as $record) {
                yield $record;
            }
            yield $soa;
        })());
    }

    /**
     * @param  iterable<int, array{from: Record, to: Record, removed: iterable<int, Record>, added: iterable<int, Record>}>  $steps
     * @return \Generator<int, Message>
     */
    public static function steps(Message $query, Record $soa, iterable $steps): \Generator
    {
        yield from self::packed($query, (static function () use ($soa, $steps): \Generator {
            yield $soa;
            foreach ($steps as $step) {
                yield $step['from'];
                foreach ($step['removed'] as $record) {
                    yield $record;
                }
                yield $step['to'];
                foreach ($step['added'] as $record) {
                    yield $record;
                }
            }
            yield $soa;
        })());
    }

    /** The SOA alone: nothing is newer, or, over UDP, there is more to come by TCP (RFC 1995 §2). */
    public static function alone(Message $query, Record $soa): Message
    {
        return $query->reply(Rcode::NoError, [$soa], authoritative: true);
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
