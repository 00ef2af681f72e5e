<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Signature;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Measures;
use HarborPost\Standins\Mode;
use HarborPost\Standins\Udp;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/**
 * A name server on loopback: questions, transfers, notifications and updates over UDP and TCP; what it serves comes over the control
 * channel.
 */
final class DnsServer
{
    private readonly Control $control;

    private readonly ZoneBook $book;

    private readonly Recursor $recursor;

    private readonly Measures $measures;

    /** seconds by which this server's clock was put ahead, to see what time brings */
    private int $ahead = 0;

    public function __construct(
        private readonly LoopInterface $loop,
        int $port,
        int $control,
        string $token,
        string $directory,
        private readonly Address $source,
        ?int $forwardTo = null,
    ) {
        $this->measures = new Measures([
            'dns_queries' => ['counter', 'Questions by type.'],
            'dns_answers' => ['counter', 'Answers by response code.'],
            'dns_answer_seconds' => ['summary', 'From the question to its answer.', 'seconds'],
            'dns_transfers' => ['counter', 'Zone transfers that were asked for.'],
            'dns_zones' => ['gauge', 'Zones that are served.'],
            'dns_cache_answers' => ['gauge', 'Answers kept for their time to live.'],
        ]);
        $now = fn (): int => time() + $this->ahead;
        $this->recursor = new Recursor($loop, $source, $now);
        if ($forwardTo !== null) {
            [$this->recursor->on, $this->recursor->forwarders] = [true, ["127.0.0.1:$forwardTo"]];
        }
        $this->book = new ZoneBook($loop, new Journal("$directory/zones.jsonl"), $source, $token, $now, $this->recursor);
        $this->recursor->own = function (Message $query, Address $client): ?Message {
            $authority = $this->book->authority;
            $question = $query->questions[0];
            // A DS stands with the parent, which may be elsewhere.
            $name = $question->type->number === RecordType::DS ? $question->name->parent() ?? $question->name : $question->name;
            $zone = $authority->zoneFor($authority->viewOf($client), $name);

            return $zone === null ? null : $authority->answer($query, $client);
        };
        new Udp($loop, $port, fn (string $packet, \Closure $answer) => $this->take($packet, $answer, false));
        $tcp = new TcpServer("127.0.0.1:$port", $loop);
        $tcp->on('connection', fn (ConnectionInterface $c) => $this->connection($c));
        // The control channel opens behind them: who reaches it reaches the server too.
        $this->control = new Control($loop, $control, $token, $this->book->operations() + [
            'status' => fn (): array => ['zones' => iterator_count($this->book->authority->all()), 'recursion' => $this->recursor->on],
            'flush' => fn (): array => ['flushed' => $this->recursor->flush()],
            'clock' => function (array $m): array {
                $this->ahead += is_int($m['ahead'] ?? null) ? max(0, $m['ahead']) : 0;
                $this->book->tick();

                return ['now' => time() + $this->ahead];
            },
        ], $this->figures(...));
        $loop->addPeriodicTimer(1.0, function (): void {
            $this->control->mode === Mode::Silent ?: $this->book->tick();
        });
    }

    private function figures(): string
    {
        $this->measures->set('dns_zones', iterator_count($this->book->authority->all()));
        $this->measures->set('dns_cache_answers', $this->recursor->count());

        return $this->measures->text();
    }

    /** @param  \Closure(Message): void  $answer */
    private function measured(Message $query, \Closure $answer): \Closure
    {
        $began = hrtime(true);
        $type = $query->questions[0]->type ?? null;
        $transfer = in_array($type?->number, [RecordType::AXFR, RecordType::IXFR], true);
        $this->measures->add('dns_queries', ['type' => $type === null ? 'none' : (string) $type]);
        $transfer ? $this->measures->add('dns_transfers') : null;

        return function (Message $message) use ($answer, $began, $transfer): void {
            if (! $transfer) {
                $this->measures->add('dns_answers', ['code' => $message->rcode->name]);
                $this->measures->time('dns_answer_seconds', (hrtime(true) - $began) / 1e9);
            }
            $answer($message);
        };
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
            [$signature, $bare] = Tsig::check($packet, $this->book->keys(), time());
            $query = Message::fromWire($bare);
        } catch (MalformedBytes) {
            if (strlen($packet) >= 12 && (ord($packet[2]) & 0x80) === 0) {
                $answer(substr($packet, 0, 2)."\x80\x01".str_repeat("\0", 8));
            }

            return;
        }
        if ($query->response) {
            return;
        }
        if ($signature->state !== Signature::NONE && ! $signature->isGood()) {
            $answer(Tsig::refuse($query->reply(Rcode::NotAuth)->wire(), $signature, time()));

            return;
        }
        $this->reply(
            $query,
            $signature,
            $this->signed(
                $answer,
                $signature,
                $tcp ? 0xFFFF : max(Message::UDP_SIZE, min(1232, $query->edns->udpSize ?? Message::UDP_SIZE)),
            ),
            $tcp,
        );
    }

    /**
     * Answers in the key of the question, each message covering the one before it.
     *
     * @param  \Closure(string): mixed  $answer
     * @return \Closure(Message): void
     */
    private function signed(\Closure $answer, Signature $signature, int $limit): \Closure
    {
        $before = $signature->mac;
        $further = false;

        return function (Message $message) use ($answer, $signature, $limit, &$before, &$further): void {
            if ($signature->key === null) {
                $answer($message->wire($limit));

                return;
            }
            [$bytes, $before] = Tsig::sign($message->wire($limit - 120), $signature->key, time(), $before, $further);
            $further = true;
            $answer($bytes);
        };
    }

    /** @param  \Closure(Message): void  $answer */
    private function reply(Message $query, Signature $signature, \Closure $answer, bool $tcp): void
    {
        $answer = $this->measured($query, $answer);
        $type = $query->questions[0]->type->number ?? 0;
        $view = $this->book->authority->viewOf(Asking::client($query));
        $name = $query->questions[0]->name ?? Name::root();
        if ($this->control->mode === Mode::Refusing) {
            $answer($query->reply(Rcode::Refused));
        } elseif ($query->opcode === Opcode::Notify) {
            $this->book->notified($view, $name);
            $answer(
                $query->reply(
                    $this->book->authority->zone($view, $name) === null
                        && ! $this->book->isSecondary($view, $name) ? Rcode::NotAuth : Rcode::NoError,
                    authoritative: true,
                ),
            );
        } elseif ($query->opcode === Opcode::Update) {
            $this->update($query, $signature, $view, $answer);
        } elseif ($type === RecordType::AXFR || $type === RecordType::IXFR) {
            $zone = $this->book->authority->zone($view, $name);
            foreach (Outgoing::of($query, $zone, $zone !== null && $this->mayTransfer($zone, $query, $signature), $tcp) as $message) {
                $answer($message);
            }
        } elseif ($this->recursor->on && $this->book->authority->zoneFor($view, $name) === null) {
            $this->recursor->ask($query, $answer);
        } else {
            $reply = $this->book->authority->answer($query, Asking::client($query));
            $answer($this->control->mode === Mode::Wrong ? $this->lie($query, $reply) : $reply);
        }
    }

    private function mayTransfer(ServedZone $zone, Message $query, Signature $signature): bool
    {
        return $signature->isGood() && $signature->keyName === ZoneBook::OWN_KEY
            || self::listed($zone->transfer, Asking::source($query), $signature);
    }

    /** @param  list<string>  $list  prefixes, or "key NAME" */
    private static function listed(array $list, Address $source, Signature $signature): bool
    {
        foreach ($list as $entry) {
            if (
                str_starts_with($entry, 'key ') ? $signature->isGood()
                    && strtolower(substr($entry, 4)) === $signature->keyName : Prefix::tryParse($entry)?->contains($source) === true
            ) {
                return true;
            }
        }

        return false;
    }

    /** @param  \Closure(Message): void  $answer */
    private function update(Message $query, Signature $signature, string $view, \Closure $answer): void
    {
        $request = UpdateRequest::fromMessage($query);
        if ($request instanceof Rcode) {
            $answer($query->reply($request));

            return;
        }
        $zone = $this->book->authority->zone($view, $request->zone);
        if ($zone === null || $this->book->isSecondary($view, $request->zone)) {
            $answer($query->reply(Rcode::NotAuth));

            return;
        }
        $may = match ($zone->updateMode) {
            'key' => $signature->isGood()
                && self::listed(
                    array_values(array_filter($zone->updateFrom, static fn (string $e): bool => str_starts_with($e, 'key '))),
                    $this->source,
                    $signature,
                ),
            'address' => self::listed($zone->updateFrom, Asking::source($query), $signature),
            default => false,
        };
        $answer($query->reply($may ? $this->book->update($view, $zone, $request) : Rcode::Refused));
    }

    private function lie(Message $query, Message $reply): Message
    {
        $lies = array_map(
            static fn (Record $r): Record => $r->data instanceof A
                ? new Record($r->owner, $r->ttl, A::of(Address::parse('192.0.2.66')))
                : $r,
            $reply->answers,
        );

        return $query->reply($reply->rcode, $lies, $reply->authority, $reply->additional, $reply->authoritative);
    }
}
