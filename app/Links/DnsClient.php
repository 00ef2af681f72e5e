<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Opt;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Edns;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** Asks a DNS server by real packets: UDP, and TCP when the answer is truncated. Bounded in time; every failure names the server. */
final readonly class DnsClient
{
    public function __construct(private string $server, private string $endpoint, private float $patience = 3.0)
    {
    }

    /** @param  ?Address  $for  ask on behalf of this client (RFC 7871), by which a server chooses the view */
    public function ask(Name $name, RecordType $type, ?Address $for = null, bool $recursion = true, bool $tcp = false): DnsAnswer
    {
        $options = $for === null ? [] : [[8, pack('nCC', $for->family === Family::V4 ? 1 : 2, $for->family->bits(), 0).$for->bytes]];
        $query = Message::query(random_int(0, 0xFFFF), new Question($name, $type), $recursion, new Edns(options: new Opt($options)));
        $start = microtime(true);
        $answer = $tcp ? $this->overTcp($query, $start) : $this->overUdp($query, $start);

        return $answer->message->truncated && ! $tcp ? $this->overTcp($query, $start, true) : $answer;
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
        $options = $for === null ? [] : [[8, pack('nCC', $for->family === Family::V4 ? 1 : 2, $for->family->bits(), 0).$for->bytes]];
        $query = Message::query(random_int(0, 0xFFFF), new Question($zone, RecordType::of(RecordType::AXFR)), false, new Edns(options: new Opt($options)));
        $socket = $this->connect($query->wire());
        $seen = 0;
        while ($seen < 2) {
            $message = $this->parse($this->readTcp($socket), $query);
            if ($message->rcode !== Rcode::NoError || $message->answers === []) {
                throw Unanswered::refused($this->server, 'the transfer of '.$zone.': '.$message->rcode->explained());
            }
            foreach ($message->answers as $record) {
                if ($record->data instanceof Soa) {
                    $seen++;
                }
                if ($seen === 0) {
                    throw Unanswered::nonsense($this->server, 'a transfer that does not start with the SOA');
                }
                if (! $record->data instanceof Soa || $seen === 1) {
                    yield $record;
                }
            }
        }
        fclose($socket);
    }

    private function overUdp(Message $query, float $start): DnsAnswer
    {
        $socket = @stream_socket_client("udp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, $why);
        }
        $bytes = $query->wire();
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
                    return new DnsAnswer($query, $bytes, $this->parse($packet, $query), $packet, 'UDP', (microtime(true) - $start) * 1000);
                }
            }
        }
        throw Unanswered::silence($this->server, $this->endpoint, $this->patience);
    }

    private function overTcp(Message $query, float $start, bool $wasTruncated = false): DnsAnswer
    {
        $bytes = $query->wire();
        $socket = $this->connect($bytes);
        $packet = $this->readTcp($socket);
        fclose($socket);

        return new DnsAnswer($query, $bytes, $this->parse($packet, $query), $packet, 'TCP', (microtime(true) - $start) * 1000, $wasTruncated);
    }

    /** @return resource */
    private function connect(string $bytes)
    {
        $socket = @stream_socket_client("tcp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, strtolower($why ?: 'no connection'));
        }
        stream_set_timeout($socket, (int) $this->patience, (int) (fmod($this->patience, 1) * 1e6));
        fwrite($socket, pack('n', strlen($bytes)).$bytes);

        return $socket;
    }

    /** @param  resource  $socket */
    private function readTcp($socket): string
    {
        $head = $this->readExactly($socket, 2);

        return $this->readExactly($socket, ord($head[0]) << 8 | ord($head[1]));
    }

    /** @param  resource  $socket */
    private function readExactly($socket, int $size): string
    {
        $data = '';
        while (strlen($data) < $size) {
            $part = @fread($socket, $size - strlen($data));
            if ($part === false || $part === '') {
                throw stream_get_meta_data($socket)['timed_out'] ? Unanswered::silence($this->server, $this->endpoint, $this->patience) : Unanswered::closed($this->server, $this->endpoint, 'it closed the connection');
            }
            $data .= $part;
        }

        return $data;
    }

    private function parse(string $packet, Message $query): Message
    {
        try {
            $message = Message::fromWire($packet);
        } catch (MalformedBytes $e) {
            throw Unanswered::nonsense($this->server, $e->getMessage());
        }
        $same = $message->questions === [] || $message->questions[0]->equals($query->questions[0]);

        return $message->id === $query->id && $message->response && $same ? $message : throw Unanswered::nonsense($this->server, 'an answer to another question');
    }
}
