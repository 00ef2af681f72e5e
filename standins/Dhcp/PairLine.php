<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpConnector;

/**
 * What two servers of a pair say to each other over TCP. Both begin with a line that names the pair, the keys they have and a number used
 * once; after that each message is a length, an HMAC-SHA256 over the other's number, the count of the message and its text, and the text. A
 * message that is not signed so ends the line. While a key is changed, the newest one that both have signs.
 */
final class PairLine
{
    private const MOST = 1 << 20;

    /** Seconds without a word after which the partner counts as silent. */
    private const PATIENCE = 4;

    private string $buffer = '';

    private readonly string $own;

    private string $theirs = '';

    private string $secret = '';

    private string $keyName = '';

    private int $sent = 0;

    private int $got = 0;

    private int $heardAt;

    private bool $closed = false;

    private ?\Closure $take = null;

    private ?\Closure $lost = null;

    /** @param  \Closure(string $id): ?ServedPair  $pairs */
    private function __construct(private readonly ConnectionInterface $connection, private readonly \Closure $pairs, ?ServedPair $asks)
    {
        $this->own = bin2hex(random_bytes(16));
        $this->heardAt = time();
        $connection->on('data', function (string $data): void {
            $this->buffer .= $data;
            $this->read();
        });
        $connection->on('close', $this->ended(...));
        if ($asks !== null) {
            $this->introduce($asks);
        }
    }

    /** @param  \Closure(): void  $failed */
    public static function dial(LoopInterface $loop, string $to, ServedPair $pair, \Closure $failed): void
    {
        (new TcpConnector($loop))->connect("tcp://$to")->then(
            static function (ConnectionInterface $connection) use ($pair, $failed): void {
                $line = new self($connection, static fn (string $id): ?ServedPair => $id === $pair->id() ? $pair : null, $pair);
                $line->lost = $failed;
            },
            static fn () => $failed(),
        );
    }

    /** @param  \Closure(string $id): ?ServedPair  $pairs */
    public static function answer(ConnectionInterface $connection, \Closure $pairs): void
    {
        new self($connection, $pairs, null);
    }

    public function key(): string
    {
        return $this->keyName;
    }

    /**
     * @param  \Closure(array<mixed>): void  $take
     * @param  \Closure(): void  $lost
     */
    public function take(\Closure $take, \Closure $lost): void
    {
        $this->take = $take;
        $this->lost = $lost;
    }

    public function isSilent(): bool
    {
        return time() - $this->heardAt > self::PATIENCE;
    }

    /** @param  array<string, mixed>  $message */
    public function send(array $message): void
    {
        if ($this->theirs !== '' && ! $this->closed) {
            $text = (string) json_encode($message, JSON_INVALID_UTF8_SUBSTITUTE);
            $mac = $this->mac($this->theirs, $this->sent++, $text);
            $this->connection->write(pack('N', strlen($text)).$mac.$text);
        }
    }

    public function close(): void
    {
        $this->connection->close();
        $this->ended();
    }

    private function ended(): void
    {
        if (! $this->closed) {
            $this->closed = true;
            $this->lost === null || ($this->lost)();
        }
    }

    private function introduce(ServedPair $pair): void
    {
        $this->connection->write(
            json_encode(['pair' => $pair->id(), 'number' => $this->own, 'keys' => array_keys($pair->keys())])."\n",
        );
    }

    private function mac(string $number, int $count, string $text): string
    {
        return hash_hmac('sha256', $number.pack('J', $count).$text, $this->secret, true);
    }

    private function read(): void
    {
        if ($this->theirs === '' && ! $this->meet()) {
            return;
        }
        while (strlen($this->buffer) >= 36) {
            $length = (unpack('N', $this->buffer) ?: [1 => self::MOST + 1])[1];
            if ($length > self::MOST) {
                $this->close();

                return;
            }
            if (strlen($this->buffer) < 36 + $length) {
                return;
            }
            $text = substr($this->buffer, 36, $length);
            if (! hash_equals($this->mac($this->own, $this->got++, $text), substr($this->buffer, 4, 32))) {
                $this->close();

                return;
            }
            $this->buffer = substr($this->buffer, 36 + $length);
            $this->heardAt = time();
            $message = json_decode($text, true);
            if (is_array($message) && $this->take !== null) {
                ($this->take)($message);
            }
        }
    }

    /** Reads who is there; false while its line has not come, or when it was refused. */
    private function meet(): bool
    {
        $end = strpos($this->buffer, "\n");
        if ($end === false) {
            if (strlen($this->buffer) > 4096) {
                $this->close();
            }

            return false;
        }
        $first = json_decode(substr($this->buffer, 0, $end), true);
        $this->buffer = substr($this->buffer, $end + 1);
        $id = is_array($first) && is_string($first['pair'] ?? null) ? $first['pair'] : '';
        $pair = ($this->pairs)($id);
        $number = is_array($first) && is_string($first['number'] ?? null) ? $first['number'] : '';
        $theirs = is_array($first) && is_array($first['keys'] ?? null) ? $first['keys'] : [];
        if ($pair === null || preg_match('/^[0-9a-f]{32}$/', $number) !== 1 || $number === $this->own) {
            $this->close();

            return false;
        }
        foreach ($pair->keys() as $name => $secret) {
            if (in_array((string) $name, $theirs, true)) {
                [$this->keyName, $this->secret] = [(string) $name, $secret];
            }
        }
        if ($this->secret === '') {
            $this->close();

            return false;
        }
        if ($this->lost === null) {
            $this->introduce($pair);
        }
        $this->theirs = $number;
        $pair->speak($this);

        return true;
    }
}
