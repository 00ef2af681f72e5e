<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Mode;
use HarborPost\Standins\Udp;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/** A name server on loopback: packets over UDP and TCP, zones over the control channel by difference against a serial. */
final class DnsServer
{
    /** Code of the EDNS option by which a question says for which client it is asked (RFC 7871 §6). */
    private const CLIENT_SUBNET = 8;

    private readonly Authority $authority;

    private readonly Control $control;

    private readonly Journal $journal;

    /** @var array<string, ServedZone> zones that are being loaded in parts, by view and name */
    private array $loading = [];

    public function __construct(private readonly LoopInterface $loop, int $port, int $control, string $token, string $directory, private readonly ?int $forwardTo = null)
    {
        $this->authority = new Authority;
        $this->journal = new Journal("$directory/zones.jsonl");
        foreach ($this->journal->entries() as $entry) {
            $this->replay($entry);
        }
        $this->compact();
        $this->control = new Control($loop, $control, $token, [
            'status' => fn (): array => ['zones' => iterator_count($this->authority->all())],
            'views' => fn (array $m): array => $this->views($m),
            'zones' => fn (): array => $this->listing(),
            'apply' => fn (array $m): array => $this->apply($m),
            'drop' => fn (array $m): array => $this->drop($m),
        ]);
        new Udp($loop, $port, fn (string $packet, \Closure $answer) => $this->take($packet, $answer, false));
        $tcp = new TcpServer("127.0.0.1:$port", $loop);
        $tcp->on('connection', fn (ConnectionInterface $c) => $this->connection($c));
    }

    private function connection(ConnectionInterface $connection): void
    {
        $buffer = '';
        $connection->on('data', function (string $data) use ($connection, &$buffer): void {
            $buffer .= $data;
            while (strlen($buffer) >= 2 && strlen($buffer) >= 2 + ($size = ord($buffer[0]) << 8 | ord($buffer[1]))) {
                $packet = substr($buffer, 2, $size);
                $buffer = substr($buffer, 2 + $size);
                $this->take($packet, fn (string $answer) => $connection->write(pack('n', strlen($answer)).$answer), true);
            }
        });
        $this->loop->addTimer(30, fn () => $connection->close());
    }

    /** @param  \Closure(string): mixed  $answer */
    private function take(string $packet, \Closure $answer, bool $tcp): void
    {
        if ($this->control->mode === Mode::Silent) {
            return;
        }
        if ($this->control->mode === Mode::Slow) {
            $send = $answer;
            $answer = fn (string $bytes) => $this->loop->addTimer(Mode::DELAY, fn () => $send($bytes));
        }
        try {
            $query = Message::fromWire($packet);
        } catch (MalformedBytes) {
            if (strlen($packet) >= 12 && (ord($packet[2]) & 0x80) === 0) {
                $answer(substr($packet, 0, 2)."\x80\x01".str_repeat("\0", 8));
            }

            return;
        }
        if ($query->response) {
            return;
        }
        $this->reply($query, $answer, $tcp);
    }

    /** @param  \Closure(string): mixed  $answer */
    private function reply(Message $query, \Closure $answer, bool $tcp): void
    {
        $limit = $tcp ? 0xFFFF : max(Message::UDP_SIZE, min(1232, $query->edns->udpSize ?? Message::UDP_SIZE));
        $type = $query->questions[0]->type->number ?? 0;
        if ($this->control->mode === Mode::Refusing) {
            $answer($query->reply(Rcode::Refused)->wire($limit));
        } elseif ($type === RecordType::AXFR || $type === RecordType::IXFR) {
            $this->transfer($query, $answer, $tcp);
        } elseif ($this->forwardTo !== null && $this->authority->zoneFor($this->authority->viewOf($this->client($query)), $query->questions[0]->name ?? Name::root()) === null) {
            Forwarder::ask($this->loop, $this->forwardTo, $query, fn (Message $m) => $answer($m->wire($limit)));
        } else {
            $reply = $this->authority->answer($query, $this->client($query));
            $answer(($this->control->mode === Mode::Wrong ? $this->lie($query, $reply) : $reply)->wire($limit));
        }
    }

    /** Everything is on loopback, so the client that counts for a view is the one named in the question. */
    private function client(Message $query): Address
    {
        foreach ($query->edns->options->options ?? [] as [$code, $bytes]) {
            if ($code === self::CLIENT_SUBNET && strlen($bytes) >= 4) {
                $size = ord($bytes[1]) === 1 ? 4 : 16;

                return Address::fromBytes(str_pad(substr($bytes, 4, $size), $size, "\0"));
            }
        }

        return Address::parse('127.0.0.1');
    }

    private function lie(Message $query, Message $reply): Message
    {
        $lies = array_map(static fn (Record $r): Record => $r->data instanceof A ? new Record($r->owner, $r->ttl, A::of(Address::parse('192.0.2.66'))) : $r, $reply->answers);

        return $query->reply($reply->rcode, $lies, $reply->authority, $reply->additional, $reply->authoritative);
    }

    /**
     * AXFR (RFC 5936): the SOA, everything else, the SOA, in messages of a bounded number of records.
     *
     * @param  \Closure(string): mixed  $answer
     */
    private function transfer(Message $query, \Closure $answer, bool $tcp): void
    {
        $question = $query->questions[0] ?? null;
        $view = $this->authority->viewOf($this->client($query));
        $zone = $question === null ? null : $this->authority->zone($view, $question->name);
        $soa = $zone?->soa();
        if (! $tcp || $zone === null || $soa === null || ! self::allowed($zone, Address::parse('127.0.0.1'))) {
            $answer($query->reply($tcp && $zone === null ? Rcode::NotAuth : Rcode::Refused)->wire());

            return;
        }
        $batch = [$soa];
        foreach ($zone->records() as $record) {
            $batch[] = $record;
            if (count($batch) >= 200) {
                $answer($query->reply(Rcode::NoError, $batch, authoritative: true)->wire());
                $batch = [];
            }
        }
        $answer($query->reply(Rcode::NoError, [...$batch, $soa], authoritative: true)->wire());
    }

    private static function allowed(ServedZone $zone, Address $client): bool
    {
        foreach ($zone->transfer as $prefix) {
            if (Prefix::tryParse($prefix)?->contains($client) === true) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function views(array $message): array
    {
        $views = [];
        foreach (is_array($message['views'] ?? null) ? $message['views'] : [] as $view) {
            if (is_array($view) && is_string($view['name'] ?? null) && is_array($view['clients'] ?? null)) {
                $views[] = ['name' => $view['name'], 'clients' => array_values(array_filter($view['clients'], is_string(...)))];
            }
        }
        $this->authority->setViews($views);
        $this->journal->append(['views' => $views]);

        return ['views' => count($views)];
    }

    /** @return array<mixed> */
    private function listing(): array
    {
        $zones = [];
        foreach ($this->authority->all() as $view => $zone) {
            $zones[] = ['view' => $view, 'zone' => (string) $zone->origin->lower(), 'serial' => $zone->serial()];
        }

        return ['zones' => $zones];
    }

    /**
     * {view, zone, from: serial or null for a whole zone, remove: [line], add: [line], more: bool, transfer: [prefix]}. Parts of
     * a whole zone come with more=true and count only when the last one is there.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function apply(array $message): array
    {
        unset($message['token'], $message['op']);
        $answer = $this->carry($message);
        if (! isset($answer['error'])) {
            $this->journal->append(['apply' => $message]);
        }

        return $answer;
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function carry(array $message): array
    {
        $view = is_string($message['view'] ?? null) ? $message['view'] : '';
        $origin = Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : '');
        $key = $view.' '.$origin->lower();
        $running = $this->authority->zone($view, $origin);
        $whole = ($message['from'] ?? null) === null;
        if (! $whole && $running?->serial() !== $message['from']) {
            return ['error' => 'serial', 'serial' => $running?->serial()];
        }
        if ($whole && ($message['first'] ?? true) !== true && ! isset($this->loading[$key])) {
            return ['error' => 'a part of a zone whose first part is not here'];
        }
        $zone = $whole ? ($this->loading[$key] ?? new ServedZone($origin)) : $running;
        if ($whole && ($message['first'] ?? false) === true || $zone === null) {
            $zone = new ServedZone($origin);
        }
        foreach (is_array($message['remove'] ?? null) ? $message['remove'] : [] as $line) {
            $zone->remove(ServedZone::record(is_string($line) ? $line : ''));
        }
        foreach (is_array($message['add'] ?? null) ? $message['add'] : [] as $line) {
            $zone->add(ServedZone::record(is_string($line) ? $line : ''));
        }
        if (is_array($message['transfer'] ?? null)) {
            $zone->transfer = array_values(array_filter($message['transfer'], is_string(...)));
        }
        if (($message['more'] ?? false) === true) {
            $this->loading[$key] = $zone;

            return ['taken' => true];
        }
        unset($this->loading[$key]);
        $this->authority->put($view, $zone);

        return ['serial' => $zone->serial()];
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function drop(array $message): array
    {
        $view = is_string($message['view'] ?? null) ? $message['view'] : '';
        $this->authority->drop($view, Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : ''));
        $this->journal->append(['drop' => ['view' => $view, 'zone' => $message['zone'] ?? '']]);

        return ['dropped' => true];
    }

    /** @param  array<mixed>  $entry */
    private function replay(array $entry): void
    {
        foreach ($entry as $what => $message) {
            if ($what === 'apply' && is_array($message)) {
                $this->carry($message);
            } elseif ($what === 'drop' && is_array($message)) {
                $this->authority->drop(is_string($message['view'] ?? null) ? $message['view'] : '', Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : ''));
            } elseif ($what === 'views' && is_array($message)) {
                /** @var list<array{name: string, clients: list<string>}> $message */
                $this->authority->setViews($message);
            }
        }
    }

    private function compact(): void
    {
        $this->journal->rewrite((function (): \Generator {
            yield ['views' => $this->authority->views()];
            foreach ($this->authority->all() as $view => $zone) {
                $lines = array_map(ServedZone::line(...), [...($zone->soa() === null ? [] : [$zone->soa()]), ...iterator_to_array($zone->records(), false)]);
                yield ['apply' => ['view' => $view, 'zone' => (string) $zone->origin, 'from' => null, 'first' => true, 'add' => $lines, 'transfer' => $zone->transfer]];
            }
        })());
    }
}
