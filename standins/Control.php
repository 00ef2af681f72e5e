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

    /**
     * @param  array<string, \Closure(array<mixed>): array<mixed>>  $operations
     * @param  list<string>  $does  what it says that it does, to who speaks to it as to an agent
     * @param  ?\Closure(): string  $figures  what is told to who asks for it by HTTP, as OpenMetrics text
     */
    public function __construct(
        LoopInterface $loop,
        int $port,
        private readonly string $token,
        private readonly array $operations,
        private readonly ?\Closure $figures = null,
        private readonly array $does = [],
    ) {
        $server = new TcpServer("127.0.0.1:$port", $loop);
        $server->on('connection', function (ConnectionInterface $connection) use ($loop): void {
            $buffer = '';
            $connection->on('data', function (string $data) use ($connection, $loop, &$buffer): void {
                $buffer .= $data;
                if (strlen($buffer) > self::MOST) {
                    $connection->close();
                }
                if (preg_match('/\A(GET|POST) /', $buffer) === 1) {
                    self::isWhole($buffer) && $this->tell($loop, $connection, $buffer);

                    return;
                }
                while (($end = strpos($buffer, "\n")) !== false) {
                    $line = substr($buffer, 0, $end);
                    $buffer = substr($buffer, $end + 1);
                    $this->take($loop, $connection, $line);
                }
            });
        });
    }

    private static function isWhole(string $request): bool
    {
        $end = strpos($request, "\r\n\r\n");
        $length = preg_match('/^Content-Length: (\d+)\r$/mi', $request, $m) === 1 ? (int) $m[1] : 0;

        return $end !== false && strlen($request) >= $end + 4 + $length;
    }

    /** As an agent (docs/agent.md): the same operations by HTTP. */
    private function asAgent(LoopInterface $loop, ConnectionInterface $connection, string $request): void
    {
        [$head, $body] = explode("\r\n\r\n", $request, 2);
        $given = preg_match('/^Authorization: Bearer (\S+)\r?$/mi', $head, $m) === 1 ? $m[1] : '';
        preg_match('~\A(GET|POST) /v1(?:/([a-z-]+))? ~', $head, $asked);
        $op = $asked[2] ?? '';
        $message = $body === '' ? [] : json_decode($body, true);
        $fault = static fn (int $status, string $detail): array => [
            $status, ['title' => 'not done', 'status' => $status, 'detail' => $detail],
        ];
        [$status, $answer] = match (true) {
            ! hash_equals($this->token, $given) => $fault(401, 'the token is wrong'),
            ($asked[1] ?? '') === 'GET' && $op === '' => [200, ['agent' => 'stand-in', 'version' => 1, 'does' => $this->does]],
            ($asked[1] ?? '') !== 'POST' || $op !== 'status' && ! isset($this->operations[$op]) => $fault(404, "there is no \"$op\""),
            ! is_array($message) => $fault(400, 'the body is no JSON object'),
            $this->mode === Mode::Refusing => $fault(503, 'told to refuse'),
            default => [200, $this->answer($op, $message)],
        };
        if (isset($answer['error'])) {
            [$status, $answer] = [422, $fault(422, is_string($answer['error']) ? $answer['error'] : '')[1] + $answer];
        }
        $text = json_encode($answer === [] ? new \stdClass : $answer, JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR);
        $type = $status === 200 ? 'application/json' : 'application/problem+json';
        $send = fn () => $connection->end("HTTP/1.1 $status x\r\nContent-Type: $type\r\nContent-Length: ".strlen($text)
            ."\r\nConnection: close\r\n\r\n$text");
        $this->mode === Mode::Slow ? $loop->addTimer(Mode::DELAY, $send) : $send();
    }

    /** Figures by HTTP, to who has the token. */
    private function tell(LoopInterface $loop, ConnectionInterface $connection, string $request): void
    {
        if ($this->mode === Mode::Silent) {
            return;
        }
        if (preg_match('~\A\w+ /v1[/ ]~', $request) === 1) {
            $this->asAgent($loop, $connection, $request);

            return;
        }
        $given = preg_match('/^Authorization: Bearer (\S+)\r$/mi', $request, $m) === 1 ? $m[1] : '';
        [$status, $body] = match (true) {
            ! hash_equals($this->token, $given) => ['401 Unauthorized', "the token is wrong\n"],
            ! str_starts_with($request, 'GET /metrics ') || $this->figures === null => ['404 Not Found', "only /metrics is here\n"],
            $this->mode === Mode::Refusing => ['503 Service Unavailable', "told to refuse\n"],
            $this->mode === Mode::Wrong => ['200 OK', str_repeat("figure_of_nothing NaN\n", 50_000)],
            default => ['200 OK', ($this->figures)()],
        };
        $type = 'application/openmetrics-text; version=1.0.0; charset=utf-8';
        $send = fn () => $connection->end("HTTP/1.1 $status\r\nContent-Type: $type\r\nContent-Length: ".strlen($body)
            ."\r\nConnection: close\r\n\r\n$body");
        $this->mode === Mode::Slow ? $loop->addTimer(Mode::DELAY, $send) : $send();
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
