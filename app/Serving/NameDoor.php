<?php

declare(strict_types=1);

namespace App\Serving;

use App\Domain\Watch\Tallies;
use App\Queries\HandedOutZones;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Support\Facades\DB;

/**
 * Where zones are handed out: questions over UDP, transfers over TCP. Each connection is a process of its own with a database connection
 * of its own, so that a secondary that reads slowly holds up nobody, and a zone of any size is read in parts from one moment.
 */
final class NameDoor
{
    /** Connections at once; more wait until one ends. */
    private const MOST = 64;

    /** From one address: who holds many open holds up nobody else. */
    private const MOST_FROM = 16;

    /** Seconds that a connection may be silent, and that it may last (RFC 7766 §6.2.3). */
    private const IDLE = 30;

    private const LONGEST = 7200;

    /** Seconds between two looks for what is new. */
    private const LOOK = 2;

    /** Lines of the log a second. */
    private const LINES = 5;

    private bool $over = false;

    /** @var array<int, string> processes of connections → from where */
    private array $children = [];

    /** @var array{int, int} the second of the last lines of the log, and how many there were in it */
    private array $said = [0, 0];

    /** @param  \Closure(string): void  $log */
    public function __construct(private readonly string $listen, private readonly \Closure $log)
    {
    }

    /** Serves until it is told to end. @return bool false when it cannot listen there */
    public function serve(): bool
    {
        $udp = @stream_socket_server("udp://$this->listen", $code, $why, STREAM_SERVER_BIND);
        $tcp = @stream_socket_server("tcp://$this->listen", $code, $why);
        $notify = @stream_socket_server('udp://'.self::any($this->listen), $code, $why, STREAM_SERVER_BIND);
        if ($udp === false || $tcp === false || $notify === false) {
            ($this->log)("cannot listen at $this->listen: $why");

            return false;
        }
        foreach ([$udp, $tcp, $notify] as $socket) {
            stream_set_blocking($socket, false);
        }
        pcntl_async_signals(true);
        foreach ([SIGTERM, SIGINT] as $signal) {
            pcntl_signal($signal, function (): void {
                $this->over = true;
            });
        }
        ($this->log)("hands zones out at $this->listen");
        $this->loop($udp, $tcp, $notify);

        return true;
    }

    /**
     * @param  resource  $udp
     * @param  resource  $tcp
     * @param  resource  $notify
     */
    private function loop($udp, $tcp, $notify): void
    {
        $notices = null;
        $next = 0;
        while (! $this->over) {
            $read = count($this->children) < self::MOST ? [$udp, $tcp, $notify] : [$udp, $notify];
            [$write, $except] = [[], []];
            if (@stream_select($read, $write, $except, 0, 500_000) === false) {
                $read = [];
            }
            foreach ($read as $socket) {
                match ($socket) {
                    $udp => $this->question($udp),
                    $tcp => $this->connection($tcp, [$udp, $notify]),
                    default => $notices === null ?: self::heard($notify, $notices),
                };
            }
            $this->reap();
            if (time() >= $next) {
                $next = time() + self::LOOK;
                $notices = $this->tell($notify, $notices);
            }
        }
    }

    /** @param  resource  $udp */
    private function question($udp): void
    {
        $packet = @stream_socket_recvfrom($udp, 65535, 0, $peer);
        $from = self::address((string) $peer);
        if ($packet === false || $from === null) {
            return;
        }
        foreach ($this->answers($packet, $from, false) as $answer) {
            @stream_socket_sendto($udp, $answer, 0, (string) $peer);
        }
    }

    /**
     * @param  resource  $tcp
     * @param  list<resource>  $others
     */
    private function connection($tcp, array $others): void
    {
        $socket = @stream_socket_accept($tcp, 0, $peer);
        $from = self::address((string) $peer);
        if ($socket === false || $from === null) {
            return;
        }
        if (count(array_keys($this->children, (string) $from, true)) >= self::MOST_FROM) {
            $this->say("$from holds ".self::MOST_FROM.' connections open: one more is closed');
            fclose($socket);

            return;
        }
        // Two processes on one database connection would read each other's answers.
        DB::disconnect();
        $process = pcntl_fork();
        if ($process === 0) {
            array_map(fclose(...), [$tcp, ...$others]);
            pcntl_signal(SIGTERM, SIG_DFL);
            pcntl_alarm(self::LONGEST);
            try {
                $this->converse($socket, $from);
            } finally {
                // Nothing of the parent's is tidied up here.
                posix_kill((int) getmypid(), SIGKILL);
            }
        }
        fclose($socket);
        if ($process > 0) {
            $this->children[$process] = (string) $from;
        }
    }

    /** @param  resource  $socket */
    private function converse($socket, Address $from): void
    {
        stream_set_blocking($socket, true);
        stream_set_timeout($socket, self::IDLE);
        while (($head = self::exactly($socket, 2)) !== null) {
            $packet = self::exactly($socket, ord($head[0]) << 8 | ord($head[1]));
            if ($packet === null) {
                return;
            }
            $answer = '';
            foreach ($this->answers($packet, $from, true) as $answer) {
                if (! self::send($socket, pack('n', strlen($answer)).$answer)) {
                    return;
                }
            }
            self::count($packet, $answer);
        }
    }

    /** Transfers that were told to their end, by what was asked. */
    private static function count(string $packet, string $last): void
    {
        $good = strlen($last) >= 4 && (ord($last[3]) & 15) === 0;
        try {
            $asked = $good ? (Message::fromWire($packet)->questions[0] ?? null)?->type->number : null;
        } catch (MalformedBytes) {
            return;
        }
        $kind = [RecordType::AXFR => 'axfr', RecordType::IXFR => 'ixfr'][(int) $asked] ?? null;
        $kind === null ?: rescue(static fn () => Tallies::add(Tallies::TRANSFERS, [$kind => 1]), report: false);
    }

    /** @return \Generator<int, string> */
    private function answers(string $packet, Address $from, bool $tcp): \Generator
    {
        try {
            $server = HandedOutZones::server();
            // What a transfer reads part by part is all of one moment.
            $tcp && DB::beginTransaction();
            yield from (new Answering($server, $this->say(...)))->to($packet, $from, $tcp, time());
        } catch (\Throwable $e) {
            $this->say("$from: {$e->getMessage()}");
            DB::purge();
            if (strlen($packet) >= 12 && (ord($packet[2]) & 0x80) === 0) {
                yield substr($packet, 0, 2)."\x80\x02".str_repeat("\0", 8);
            }
        } finally {
            if (DB::transactionLevel() > 0) {
                DB::rollBack();
            }
        }
    }

    /** @param  resource  $notify */
    private function tell($notify, ?Notices $notices): ?Notices
    {
        try {
            $server = HandedOutZones::server();
            $notices = $server === null ? null : ($notices ?? new Notices);
            foreach ($server === null ? [] : $notices?->due($server, time()) ?? [] as [$endpoint, $bytes]) {
                @stream_socket_sendto($notify, $bytes, 0, $endpoint);
            }
        } catch (\Throwable $e) {
            ($this->log)("nobody was told: {$e->getMessage()}");
            DB::purge();
        }

        return $notices;
    }

    /** @param  resource  $notify */
    private static function heard($notify, Notices $notices): void
    {
        $packet = @stream_socket_recvfrom($notify, 65535, 0, $peer);
        if ($packet !== false) {
            $notices->heard($packet, (string) $peer);
        }
    }

    private function reap(): void
    {
        while (($process = pcntl_waitpid(-1, $status, WNOHANG)) > 0) {
            unset($this->children[$process]);
        }
    }

    /** A flood of questions is no flood of lines. */
    private function say(string $words): void
    {
        $this->said = $this->said[0] === time() ? [$this->said[0], $this->said[1] + 1] : [time(), 1];
        if ($this->said[1] <= self::LINES) {
            ($this->log)($words);
        }
    }

    /** Any port of the address that is listened on, so that secondaries see notices come from their primary. */
    private static function any(string $listen): string
    {
        return substr($listen, 0, (int) strrpos($listen, ':')).':0';
    }

    private static function address(string $peer): ?Address
    {
        try {
            return Address::parse(trim(substr($peer, 0, (int) strrpos($peer, ':')), '[]'));
        } catch (NotUnderstood) {
            return null;
        }
    }

    /** @param  resource  $socket */
    private static function exactly($socket, int $size): ?string
    {
        $data = '';
        while (strlen($data) < $size) {
            $part = @fread($socket, max(1, $size - strlen($data)));
            if ($part === false || $part === '') {
                return null;
            }
            $data .= $part;
        }

        return $data;
    }

    /** @param  resource  $socket */
    private static function send($socket, string $bytes): bool
    {
        for ($sent = 0; $sent < strlen($bytes);) {
            $part = @fwrite($socket, substr($bytes, $sent));
            if ($part === false || $part === 0) {
                return false;
            }
            $sent += $part;
        }

        return true;
    }
}
