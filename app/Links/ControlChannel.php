<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;

/**
 * The management side of a stand-in: one JSON message a line over TCP, with its token. One connection for many messages.
 *
 * A message that got no answer is sent again on a new connection, since a lost answer and a lost message look the same; what may
 * not be done twice says so.
 */
final class ControlChannel
{
    /** Seconds before the second and the third try of a connection that broke or was refused. */
    private const PAUSES = [0.1, 0.4];

    /** @var resource|null */
    private $socket = null;

    /**
     * @param  int  $tries  how often a message is sent at most; a server that stays silent for the whole patience is asked twice at most
     */
    public function __construct(private readonly Server $server, private readonly float $patience, private readonly int $tries = 3)
    {
    }

    /**
     * @param  array<string, mixed>  $message
     * @param  bool  $once  doing it twice is not doing it once: the caller repairs what a lost answer leaves
     * @return array<string, mixed>
     *
     * @throws Unanswered
     */
    public function ask(string $op, array $message = [], bool $errorsToo = false, bool $once = false): array
    {
        for ($try = 1; ; $try++) {
            try {
                return $this->tell($op, $message, $errorsToo);
            } catch (Unanswered $e) {
                if ($once || ! $e->mayPass || $try >= ($e->late ? min(2, $this->tries) : $this->tries)) {
                    throw $e->after($try);
                }
                usleep((int) (1e6 * (self::PAUSES[$try - 1] ?? 0.4)));
            }
        }
    }

    /**
     * @param  array<string, mixed>  $message
     * @return array<string, mixed>
     */
    private function tell(string $op, array $message, bool $errorsToo): array
    {
        $name = $this->server->name;
        $endpoint = (string) $this->server->control;
        $socket = $this->open();
        $line = json_encode(['op' => $op, 'token' => $this->server->token] + $message, JSON_THROW_ON_ERROR)."\n";
        for ($sent = 0; $sent < strlen($line); $sent += $written) {
            $written = @fwrite($socket, substr($line, $sent, 65536));
            if ($written === false || $written === 0) {
                $this->close();
                throw Unanswered::closed($name, $endpoint, 'the connection broke while it was written to');
            }
        }
        $answer = @stream_get_line($socket, 64 << 20, "\n");
        if ($answer === false || $answer === '') {
            $late = stream_get_meta_data($socket)['timed_out'];
            $this->close();
            throw $late
                ? Unanswered::silence($name, $endpoint, $this->patience)
                : Unanswered::closed($name, $endpoint, 'it closed the connection');
        }
        $decoded = json_decode($answer, true);
        if (! is_array($decoded)) {
            throw Unanswered::nonsense($name, 'no JSON');
        }
        if (isset($decoded['error']) && ! $errorsToo) {
            throw Unanswered::refused($name, is_string($decoded['error']) ? $decoded['error'] : 'an error');
        }

        return $decoded;
    }

    public function close(): void
    {
        if ($this->socket !== null) {
            fclose($this->socket);
            $this->socket = null;
        }
    }

    public function __destruct()
    {
        $this->close();
    }

    /** @return resource */
    private function open()
    {
        if ($this->socket !== null) {
            return $this->socket;
        }
        $endpoint = (string) $this->server->control;
        if ($endpoint === '') {
            throw Unanswered::closed($this->server->name, '-', 'no control endpoint is written down for it');
        }
        $socket = @stream_socket_client("tcp://$endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server->name, $endpoint, strtolower($why ?: 'no connection'));
        }
        stream_set_timeout($socket, (int) $this->patience, (int) (fmod($this->patience, 1) * 1e6));

        return $this->socket = $socket;
    }
}
