<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\MessageStream;
use App\Links\Unanswered;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Dnssec\Validator;
use HarborPost\Core\Dns\Dnssec\Verdict;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Edns;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\Transfer;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;

/** Asks a DNS server by real packets: UDP, and TCP when the answer is truncated. Bounded in time; every failure names the server. */
final readonly class DnsClient
{
    /**
     * @param  ?TsigKey  $key  signs questions and checks answers
     * @param  ?Address  $source  who asks, where everything is on loopback
     */
    public function __construct(
        private string $server,
        private string $endpoint,
        private float $patience = 3.0,
        private ?TsigKey $key = null,
        private ?Address $source = null,
    ) {
    }

    public function signing(TsigKey $key): self
    {
        return new self($this->server, $this->endpoint, $this->patience, $key, $this->source);
    }

    /**
     * @param  ?Address  $for  ask on behalf of this client (RFC 7871), by which a server chooses the view
     * @param  bool  $unchecked  CD: data that fails validation is wanted too (RFC 4035 §3.2.2)
     * @param  bool  $dnssecOk  DO: signatures are wanted (RFC 3225)
     */
    public function ask(
        Name $name,
        RecordType $type,
        ?Address $for = null,
        bool $recursion = true,
        bool $tcp = false,
        bool $unchecked = false,
        bool $dnssecOk = false,
    ): DnsAnswer {
        $query = new Message(
            random_int(0, 0xFFFF),
            recursionDesired: $recursion,
            checkingDisabled: $unchecked,
            questions: [new Question($name, $type)],
            edns: $this->edns($for, $dnssecOk),
        );
        $start = microtime(true);
        $answer = $tcp ? $this->overTcp($query, $start) : $this->overUdp($query, $start);

        return $answer->message->truncated && ! $tcp ? $this->overTcp($query, $start, true) : $answer;
    }

    /**
     * What the answer to a question is worth by its signatures; whatever else the chain of trust needs is asked here too. CD is set, since
     * what fails validation at the server is wanted, to say why.
     *
     * @param  list<Record>  $anchors
     *
     * @throws Unanswered
     */
    public function judge(Question $question, array $anchors, int $now, ?Address $for = null, bool $recursion = true): Verdict
    {
        $ask = fn (Question $q): Message => $this->ask($q->name, $q->type, $for, $recursion, unchecked: true, dnssecOk: true)->message;
        $asking = (new Validator($anchors, $now))->judge($question, $ask($question));
        while ($asking->valid()) {
            $next = $asking->current();
            $asking->send($ask($next));
        }

        return $asking->getReturn();
    }

    /** The serial the server answers with authority; null when it does not know the zone. */
    public function serial(Name $zone, ?Address $for = null): ?Serial
    {
        $answer = $this->ask($zone, RecordType::of(RecordType::SOA), $for, false)->message;
        foreach ($answer->authoritative ? $answer->answers : [] as $record) {
            if ($record->data instanceof Soa && $record->owner->equals($zone)) {
                return $record->data->serial;
            }
        }
        if (! in_array($answer->rcode, [Rcode::Refused, Rcode::NotAuth, Rcode::NxDomain, Rcode::NoError], true)) {
            throw Unanswered::refused($this->server, $answer->rcode->explained());
        }

        return null;
    }

    /**
     * The whole zone by AXFR (RFC 5936), record by record; the SOA comes once, first.
     *
     * @return \Generator<int, Record>
     */
    public function transfer(Name $zone, ?Address $for = null): \Generator
    {
        $have = $this->take($zone, $for, null);
        foreach ($have->records() as $record) {
            yield $record;
        }
    }

    /** What came since a serial, by IXFR (RFC 1995), or the whole zone when the server does not have the steps. */
    public function since(Name $zone, Soa $have, ?Address $for = null): Transfer
    {
        return $this->take($zone, $for, $have);
    }

    /** A dynamic update (RFC 2136): its outcome. */
    public function update(UpdateRequest $request, ?Address $for = null): Rcode
    {
        $message = $request->toMessage(random_int(0, 0xFFFF));
        $message = new Message(
            $message->id,
            opcode: $message->opcode,
            questions: $message->questions,
            answers: $message->answers,
            authority: $message->authority,
            edns: $this->edns($for),
        );

        return $this->overTcp($message, microtime(true))->message->rcode;
    }

    /** Says that a zone has changed (RFC 1996): its outcome. */
    public function notify(Name $zone, Soa $soa): Rcode
    {
        $message = new Message(
            random_int(0, 0xFFFF),
            opcode: Opcode::Notify,
            authoritative: true,
            questions: [new Question($zone, RecordType::of(RecordType::SOA))],
            answers: [new Record($zone, 0, $soa)],
        );

        return $this->overUdp($message, microtime(true))->message->rcode;
    }

    /** A message as bytes that may be anything, and whatever comes back; for trying what a server makes of nonsense. */
    public function raw(string $bytes): string
    {
        return $this->stream($bytes)->next();
    }

    private function take(Name $zone, ?Address $for, ?Soa $have): Transfer
    {
        $known = $have === null ? [] : [new Record($zone, 0, $have)];
        $query = new Message(
            random_int(0, 0xFFFF),
            questions: [new Question($zone, RecordType::of($have === null ? RecordType::AXFR : RecordType::IXFR))],
            authority: $known,
            edns: $this->edns($for),
        );
        [$bytes, $before] = $this->sign($query);
        $stream = $this->stream($bytes);
        $transfer = new Transfer($have?->serial);
        $further = false;
        while (! $transfer->isComplete()) {
            $message = $this->parse($stream->next(), $query, $before, $further);
            $further = true;
            if ($message->rcode !== Rcode::NoError || $message->answers === []) {
                throw Unanswered::refused($this->server, 'the transfer of '.$zone.': '.$message->rcode->explained());
            }
            try {
                array_map($transfer->take(...), $message->answers);
            } catch (Malformed $e) {
                throw Unanswered::nonsense($this->server, $e->getMessage());
            }
        }
        $stream->close();

        return $transfer;
    }

    private function edns(?Address $for, bool $dnssecOk = false): Edns
    {
        return (new Asker($for, $this->source))->edns($dnssecOk);
    }

    /** @return array{string, ?string} the message, and its MAC when it is signed */
    private function sign(Message $message): array
    {
        return $this->key === null ? [$message->wire(), null] : Tsig::sign($message->wire(), $this->key, time());
    }

    private function overUdp(Message $query, float $start): DnsAnswer
    {
        $socket = @stream_socket_client("udp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, (string) $why);
        }
        [$bytes, $before] = $this->sign($query);
        // One packet may be lost on a real network: asked twice within the time allowed.
        foreach ([0.5, 0.5] as $share) {
            fwrite($socket, $bytes);
            $until = microtime(true) + $this->patience * $share;
            while (($left = $until - microtime(true)) > 0) {
                stream_set_timeout($socket, (int) $left, (int) (fmod($left, 1) * 1e6));
                $packet = @fread($socket, 65535);
                if ($packet === false && stream_get_meta_data($socket)['timed_out'] === false) {
                    throw Unanswered::closed($this->server, $this->endpoint, 'nobody listens there');
                }
                if ($packet === false || $packet === '') {
                    break;
                }
                if (substr($packet, 0, 2) === substr($bytes, 0, 2)) {
                    return new DnsAnswer(
                        $query,
                        $bytes,
                        $this->parse($packet, $query, $before),
                        $packet,
                        'UDP',
                        (microtime(true) - $start) * 1000,
                    );
                }
            }
        }
        throw Unanswered::silence($this->server, $this->endpoint, $this->patience);
    }

    private function overTcp(Message $query, float $start, bool $wasTruncated = false): DnsAnswer
    {
        [$bytes, $before] = $this->sign($query);
        $stream = $this->stream($bytes);
        $packet = $stream->next();
        $stream->close();

        return new DnsAnswer(
            $query,
            $bytes,
            $this->parse($packet, $query, $before),
            $packet,
            'TCP',
            (microtime(true) - $start) * 1000,
            $wasTruncated,
        );
    }

    private function stream(string $question): MessageStream
    {
        return MessageStream::ask($this->server, $this->endpoint, $this->patience, $question);
    }

    /** @param  bool  $further  not the first message of a transfer */
    private function parse(string $packet, Message $query, ?string &$before = null, bool $further = false): Message
    {
        try {
            if ($this->key !== null) {
                [$signature, $packet] = Tsig::check($packet, [$this->key], time(), $before, $further);
                if (! $signature->isGood() || $signature->error !== 0) {
                    throw Unanswered::refused(
                        $this->server,
                        $signature->error === 0
                            ? "its answer is {$signature->explained()}"
                            : 'it does not take the key '
                                .rtrim((string) $this->key->name, '.')
                                .' ('
                                .(
                                    [16 => 'the secret differs', 17 => 'it does not know the key', 18 => 'the clocks disagree'][
                                        $signature->error
                                    ]
                                        ?? $signature->error
                                )
                                .')',
                    );
                }
                $before = $signature->mac;
            }
            $message = Message::fromWire($packet);
        } catch (MalformedBytes $e) {
            throw Unanswered::nonsense($this->server, $e->getMessage());
        }
        $same = ! isset($query->questions[0]) || $message->questions === [] || $message->questions[0]->equals($query->questions[0]);

        return $message->id === $query->id
            && $message->response
            && $same ? $message : throw Unanswered::nonsense($this->server, 'an answer to another question');
    }
}
