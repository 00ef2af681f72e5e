<?php

declare(strict_types=1);

namespace App\Serving;

use App\Links\Names\OwnKey;
use App\Links\Names\ZoneLines;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\View;
use App\Queries\HandedOutZones;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Signature;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Zone\Catalog;
use HarborPost\Core\Dns\Zone\Outgoing;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/**
 * What is answered to who copies zones from here: SOA, AXFR (RFC 5936), IXFR (RFC 1995), and catalog zones (RFC 9432). Everybody else is
 * refused, whether the zone is here or not.
 *
 * @phpstan-import-type ServedZone from HandedOutZones
 */
final readonly class Answering
{
    private const ASKED = [RecordType::SOA, RecordType::AXFR, RecordType::IXFR];

    /** Records beyond which what came since is not told by itself: the whole zone is read part by part, a difference is not. */
    private const STEP = 100_000;

    /**
     * @param  ?Server  $server  null while nothing is handed out: everybody is refused
     * @param  \Closure(string): void  $log  told what a keeper has to mend
     */
    public function __construct(private ?Server $server, private \Closure $log)
    {
    }

    /** @return \Generator<int, string> messages as they go out; none for what is no question */
    public function to(string $packet, Address $from, bool $tcp, int $now): \Generator
    {
        try {
            [$signature, $bare] = Tsig::check($packet, self::keys(), $now);
            $query = Message::fromWire($bare);
        } catch (MalformedBytes) {
            if (strlen($packet) >= 12 && (ord($packet[2]) & 0x80) === 0) {
                yield substr($packet, 0, 2)."\x80\x01".str_repeat("\0", 8);
            }

            return;
        }
        if ($query->response) {
            return;
        }
        if ($signature->state !== Signature::NONE && ! $signature->isGood()) {
            ($this->log)("$from: {$signature->explained()}");
            yield Tsig::refuse($query->reply(Rcode::NotAuth)->wire(), $signature, $now);

            return;
        }
        $limit = $tcp ? 0xFFFF : max(Message::UDP_SIZE, min(1232, $query->edns->udpSize ?? Message::UDP_SIZE));
        $before = $signature->mac;
        $further = false;
        foreach ($this->messages($query, new Admission($signature, $from, Asker::of($query)->client), $tcp) as $message) {
            if ($signature->key === null) {
                yield $message->wire($limit);

                continue;
            }
            [$bytes, $before] = Tsig::sign($message->wire($limit - 120), $signature->key, $now, $before, $further);
            $further = true;
            yield $bytes;
        }
    }

    /** @return \Generator<int, Message> */
    private function messages(Message $query, Admission $asker, bool $tcp): \Generator
    {
        $question = $query->questions[0] ?? null;
        $refusal = match (true) {
            $query->opcode !== Opcode::Query => Rcode::NotImp,
            $query->edns !== null && $query->edns->version > 0 => Rcode::BadVers,
            $question === null || count($query->questions) > 1 => Rcode::FormErr,
            $question->class !== Record::IN || ! in_array($question->type->number, self::ASKED, true) => Rcode::Refused,
            $question->type->number === RecordType::AXFR && ! $tcp => Rcode::Refused,
            default => null,
        };
        if ($refusal !== null || $question === null) {
            yield $query->reply($refusal);

            return;
        }
        if ($this->server === null) {
            yield $query->reply(Rcode::Refused);

            return;
        }
        $zone = $this->zone($this->server, $question->name, $asker);
        $found = $zone === null
            ? $this->catalog($this->server, $query, $question, $asker, $tcp)
            : $this->ofZone($query, $question, $zone, $tcp);
        $any = false;
        foreach ($found as $message) {
            $any = true;
            yield $message;
        }
        $any || yield $query->reply(Rcode::Refused);
    }

    /** @return ?ServedZone the one that this asker may have; which of two views is meant, nobody can tell */
    private function zone(Server $server, Name $name, Admission $asker): ?array
    {
        $may = array_values(array_filter(
            HandedOutZones::named($server, (string) $name->lower()),
            static fn (array $z): bool => $asker->admits($z['zone']),
        ));
        if (count($may) > 1 && ! $asker->isOwn()) {
            $views = implode(', ', array_map(static fn (array $z): string => $z['zone']->view->name, $may));
            ($this->log)("{$asker->who()} may copy $name of several views ($views): give each view a key of its own");

            return null;
        }

        return $may[0] ?? null;
    }

    /**
     * @param  ServedZone  $zone
     * @return \Generator<int, Message>
     */
    private function ofZone(Message $query, Question $question, array $zone, bool $tcp): \Generator
    {
        $soa = new Record($zone['zone']->origin(), $zone['zone']->default_ttl, $zone['soa']);
        $steps = $question->type->number === RecordType::IXFR ? $this->step($query, $zone, $soa) : [];
        $alone = $question->type->number === RecordType::SOA || $question->type->number === RecordType::IXFR && (! $tcp || $steps === []);
        if ($alone) {
            yield Outgoing::alone($query, $soa);
        } elseif ($steps !== null && $steps !== []) {
            yield from Outgoing::steps($query, $soa, $steps);
        } else {
            yield from Outgoing::whole($query, $soa, self::records(ZoneLines::at($zone['zone'], $zone['serial'])));
        }
    }

    /**
     * What came since the serial that the asker has, as one step: the old SOA is the one that it has itself.
     *
     * @param  ServedZone  $zone
     * @return list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}>|null empty when it has everything; null
     *     where it cannot be told by itself
     */
    private function step(Message $query, array $zone, Record $soa): ?array
    {
        $old = $query->authority[0] ?? null;
        if ($old === null || ! $old->data instanceof Soa) {
            return null;
        }
        $has = $old->data->serial;
        if (! $has->isBefore($zone['serial'])) {
            return [];
        }
        $known = ! $has->isBefore($zone['from']) && $has->value < $zone['serial']->value;
        $many = DB::table('record_changes')->where('zone_id', $zone['zone']->id)->where('serial', '>', $has->value)
            ->where('serial', '<=', $zone['serial']->value)->limit(self::STEP + 1)->count() > self::STEP;
        if (! $known || $many) {
            return null;
        }
        [$removed, $added] = ZoneLines::between($zone['zone'], $has, $zone['serial']);

        return [[
            'from' => $old, 'to' => $soa, 'removed' => iterator_to_array(self::records($removed), false),
            'added' => iterator_to_array(self::records($added), false),
        ]];
    }

    /** @return \Generator<int, Message> nothing when it is no catalog, or none of its zones may be copied by this asker */
    private function catalog(Server $server, Message $query, Question $question, Admission $asker, bool $tcp): \Generator
    {
        foreach (View::query()->orderBy('position')->get() as $view) {
            $serial = $server->catalogOf($view)?->equals($question->name) === true
                ? DB::table('served_catalogs')->where('server_id', $server->id)->where('view_id', $view->id)->value('serial')
                : null;
            if ($serial === null) {
                continue;
            }
            $members = [];
            foreach (HandedOutZones::inView($server, $view->id) as $one) {
                if ($asker->admits($one['zone'])) {
                    $members[$one['zone']->id] = $one['zone']->origin();
                }
            }
            if ($members === []) {
                return;
            }
            $catalog = new Catalog($question->name, Serial::of((int) $serial));
            $old = ($query->authority[0] ?? null)?->data;
            $current = $question->type->number === RecordType::IXFR && $old instanceof Soa && ! $old->serial->isBefore($catalog->serial);
            if ($question->type->number === RecordType::SOA || $current || ! $tcp) {
                yield Outgoing::alone($query, $catalog->soa());
            } else {
                yield from Outgoing::whole($query, $catalog->soa(), $catalog->records($members));
            }

            return;
        }
    }

    /**
     * @param  iterable<int, string>  $lines
     * @return \Generator<int, Record>
     */
    private static function records(iterable $lines): \Generator
    {
        foreach ($lines as $line) {
            yield Record::ofLine($line);
        }
    }

    /** @return list<\HarborPost\Core\Dns\Wire\TsigKey> */
    private static function keys(): array
    {
        $keys = [OwnKey::tsig()];
        foreach (TransferKey::query()->get() as $key) {
            try {
                $keys[] = $key->tsig();
            } catch (Malformed) {
                // One that cannot be used signs nothing.
            }
        }

        return $keys;
    }
}
