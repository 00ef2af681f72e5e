<?php

declare(strict_types=1);

namespace App\Links;

/**
 * A question over TCP, and its answers one by one: each message has its length in two bytes in front (RFC 1035 §4.2.2 for names, RFC 6926
 * §6.1 for leases).
 */
final readonly class MessageStream
{
    /** @param  resource  $socket */
    private function __construct(private string $server, private string $endpoint, private float $patience, private mixed $socket)
    {
    }

    /** @throws Unanswered */
    public static function ask(string $server, string $endpoint, float $patience, string $question): self
    {
        $socket = @stream_socket_client("tcp://$endpoint", $code, $why, $patience);
        if ($socket === false) {
            throw Unanswered::closed($server, $endpoint, strtolower($why ?: 'no connection'));
        }
        stream_set_timeout($socket, (int) $patience, (int) (fmod($patience, 1) * 1e6));
        // A connection that is closed already is said when its answer is read.
        @fwrite($socket, pack('n', strlen($question)).$question);

        return new self($server, $endpoint, $patience, $socket);
    }

    /** @throws Unanswered */
    public function next(): string
    {
        $head = $this->read(2);

        return $this->read(ord($head[0]) << 8 | ord($head[1]));
    }

    public function close(): void
    {
        fclose($this->socket);
    }

    private function read(int $size): string
    {
        $data = '';
        while (($left = $size - strlen($data)) > 0) {
            $part = @fread($this->socket, $left);
            if ($part === false || $part === '') {
                throw stream_get_meta_data($this->socket)['timed_out']
                    ? Unanswered::silence($this->server, $this->endpoint, $this->patience)
                    : Unanswered::closed($this->server, $this->endpoint, 'it closed the connection before its answer was whole');
            }
            $data .= $part;
        }

        return $data;
    }
}
