<?php

declare(strict_types=1);

namespace HarborPost\Standins;

use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/** The management side of a stand-in: TCP on loopback, one JSON message a line in and out, a token in every message. */
final class Control
{
    private const MOST = 8 << 20;

    public Mode $mode = Mode::Normal;

    /** @param  array<string, \Closure(array<mixed>): array<mixed>>  $operations */
    public function __construct(LoopInterface $loop, int $port, private readonly string $token, private readonly array $operations)
    {
        $server = new TcpServer("127.0.0.1:$port", $loop);
        $server->on('connection', function (ConnectionInterface $connection) use ($loop): void {
            $buffer = '';
            $connection->on('data', function (string $data) use ($connection, $loop, &$buffer): void {
                $buffer .= $data;
                if (strlen($buffer) > self::MOST) {
                    $connection->close();
                }
                while (($end = strpos($buffer, "\n")) !== false) {
                    $line = substr($buffer, 0, $end);
                    $buffer = substr($buffer, $end + 1);
                    $this->take($loop, $connection, $line);
                }
            });
        });
    }

    private function take(LoopInterface $loop, ConnectionInterface $connection, string $line): void
    {
        $message = json_decode($line, true);
        $op = is_array($message) && is_string($message['op'] ?? null) ? $message['op'] : '';
        $given = is_array($message) && is_string($message['token'] ?? null) ? $message['token'] : '';
        if (! is_array($message) || ! hash_equals($this->token, $given)) {
            $connection->end(json_encode(['error' => 'the token is wrong'])."\n");

            return;
        }
        if ($op === 'mode') {
            $this->mode = Mode::tryFrom(is_string($message['mode'] ?? null) ? $message['mode'] : '') ?? Mode::Normal;
            $connection->write(json_encode(['mode' => $this->mode->value])."\n");

            return;
        }
        if ($this->mode === Mode::Silent) {
            return;
        }
        $answer = $this->mode === Mode::Refusing ? ['error' => 'told to refuse'] : $this->answer($op, $message);
        $send = fn () => $connection->write(json_encode($answer, JSON_INVALID_UTF8_SUBSTITUTE)."\n");
        $this->mode === Mode::Slow ? $loop->addTimer(Mode::DELAY, $send) : $send();
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function answer(string $op, array $message): array
    {
        $operation = $this->operations[$op] ?? null;
        if ($op === 'status') {
            return ['mode' => $this->mode->value, 'since' => $_SERVER['REQUEST_TIME'] ?? 0] + (
                $operation === null ? [] : $operation($message)
            );
        }
        try {
            return $operation === null ? ['error' => "unknown operation \"$op\""] : $operation($message);
        } catch (\Throwable $e) {
            return ['error' => $e->getMessage()];
        }
    }
}
