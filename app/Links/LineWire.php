<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;

/** A stand-in on loopback: one JSON message a line over TCP, with its token. One connection for many messages. */
final class LineWire implements Wire
{
    /** @var resource|null */
    private $socket = null;

    public function __construct(private readonly Server $server, private readonly float $patience)
    {
    }

    public function tell(string $op, array $message): array
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

        return is_array($decoded) ? $decoded : throw Unanswered::nonsense($name, 'no JSON');
    }

    public function does(): ?array
    {
        return null;
    }

    public function __destruct()
    {
        $this->close();
    }

    private function close(): void
    {
        if ($this->socket !== null) {
            fclose($this->socket);
            $this->socket = null;
        }
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
