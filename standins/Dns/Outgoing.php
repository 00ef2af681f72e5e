<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\Outgoing as Out;

/** What is answered to who asks for a zone as a whole or for what came since. */
final class Outgoing
{
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
            if ($steps === [] || ! $tcp) {
                yield Out::alone($query, $soa);

                return;
            }
            if ($steps !== null) {
                yield from Out::steps($query, $soa, $steps);

                return;
            }
        }
        yield from Out::whole($query, $soa, $zone->records());
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
}
