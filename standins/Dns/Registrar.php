<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Standins\Journal;

/** What clients write into a zone by dynamic update, when they renewed it, and how it lapses. */
final readonly class Registrar
{
    /** @param  \Closure(array<string, mixed>): array<mixed>  $carry  puts a difference into service, as the control channel does */
    public function __construct(private Journal $journal, private \Closure $carry)
    {
    }

    public function update(string $view, ServedZone $zone, UpdateRequest $request, int $now): Rcode
    {
        $before = [];
        foreach ($request->changes as $change) {
            $before[self::set($change)] = $zone->set($change->owner, $change->type()->number) !== [];
        }
        $result = $request->against($zone->origin, $zone->node(...));
        if ($result instanceof Rcode) {
            return $result;
        }
        $changed = array_fill_keys(array_map(self::set(...), $result[1]), true);
        $renewed = [];
        foreach ($request->changes as $change) {
            $set = self::set($change);
            $last = $zone->renewals[$set] ?? null;
            $byPeople = $last === null && $before[$set] && ! isset($changed[$set]);
            if (
                $change->class === Record::IN
                    && ! $byPeople
                    && ($last === null || isset($changed[$set]) || $zone->lapse === null || $zone->lapse->writes($last, $now))
            ) {
                $renewed[$set] = $now;
            }
        }
        $zone->renewals = array_merge($zone->renewals, $renewed);
        $renewed === []
            ?: $this->journal->append(['settle' => ['view' => $view, 'zone' => (string) $zone->origin, 'renewals' => $renewed]]);
        $result === [[], []] ?: $this->change($view, $zone, $result[0], $result[1]);
        foreach (array_keys($zone->renewals) as $set) {
            if (self::held($zone, $set) === []) {
                unset($zone->renewals[$set]);
            }
        }

        return Rcode::NoError;
    }

    public function lapse(string $view, ServedZone $zone, int $now): void
    {
        $gone = [];
        foreach ($zone->lapse === null ? [] : $zone->renewals as $set => $renewed) {
            if ($zone->lapse?->hasLapsed($renewed, $now) === true) {
                $gone = [...$gone, ...self::held($zone, $set)];
                unset($zone->renewals[$set]);
            }
        }
        $gone === [] ?: $this->change($view, $zone, $gone, []);
    }

    private static function set(Record $record): string
    {
        return "{$record->owner->lower()} {$record->type()}";
    }

    /** @return list<Record> */
    private static function held(ServedZone $zone, string $set): array
    {
        [$owner, $type] = explode(' ', $set, 2);

        return $zone->set(Name::parse($owner), RecordType::parse($type)->number);
    }

    /**
     * A change that the server makes by itself raises the serial and is told to the secondaries.
     *
     * @param  list<Record>  $removed
     * @param  list<Record>  $added
     */
    private function change(string $view, ServedZone $zone, array $removed, array $added): void
    {
        $soa = $zone->soa();
        if ($soa === null || ! $soa->data instanceof Soa) {
            return;
        }
        $lines = static fn (array $records): array => array_map(
            ServedZone::line(...),
            array_values(array_filter($records, static fn (Record $r): bool => ! $r->data instanceof Soa)),
        );
        $data = $soa->data;
        // Who updates it may bring a later serial (RFC 2136 §3.4.2.2); otherwise it counts up by itself.
        $brought = array_values(array_filter($added, static fn (Record $r): bool => $r->data instanceof Soa));
        $next = $brought[0] ?? new Record(
            $soa->owner,
            $soa->ttl,
            new Soa($data->primary, $data->mailbox, $data->serial->next(), $data->refresh, $data->retry, $data->expire, $data->negativeTtl),
        );
        $message = [
            'view' => $view, 'zone' => (string) $zone->origin->lower(), 'from' => $data->serial->value,
            'remove' => [...$lines($removed), ServedZone::line($soa)], 'add' => [...$lines($added), ServedZone::line($next)],
        ];
        ($this->carry)($message);
        $this->journal->append(['apply' => $message]);
    }
}
