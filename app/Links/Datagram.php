<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;

/** One question by UDP to a server, and the answer that is told from others by what it says. */
final readonly class Datagram
{
    public function __construct(private string $server, private string $endpoint, private float $patience)
    {
    }

    /**
     * @template T of object
     *
     * @param  \Closure(string $bytes): ?T  $read  null: it answers something else
     * @return array{T, string, float} the answer, its bytes, milliseconds
     *
     * @throws Unanswered
     */
    public function ask(string $question, \Closure $read): array
    {
        $start = microtime(true);
        $socket = $this->send($question);
        $until = $start + $this->patience;
        while (($left = $until - microtime(true)) > 0) {
            stream_set_timeout($socket, (int) $left, (int) (fmod($left, 1) * 1e6));
            $bytes = @fread($socket, 65535);
            if ($bytes === false && ! stream_get_meta_data($socket)['timed_out']) {
                throw Unanswered::closed($this->server, $this->endpoint, 'nobody listens there');
            }
            if ($bytes === false || $bytes === '') {
                break;
            }
            try {
                $answer = $read($bytes);
            } catch (MalformedBytes $e) {
                throw Unanswered::nonsense($this->server, $e->getMessage());
            }
            if ($answer !== null) {
                return [$answer, $bytes, (microtime(true) - $start) * 1000];
            }
        }
        throw Unanswered::silence($this->server, $this->endpoint, $this->patience);
    }

    /** @return resource */
    public function send(string $bytes)
    {
        $socket = @stream_socket_client("udp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, (string) $why);
        }
        fwrite($socket, $bytes);

        return $socket;
    }
}
