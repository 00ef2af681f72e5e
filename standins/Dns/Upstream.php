<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use React\EventLoop\LoopInterface;
use React\EventLoop\TimerInterface;

/** Talks to another server over TCP without waiting: one question out, messages in until enough is there or time is over. */
final class Upstream
{
    /**
     * @param  string  $endpoint  host:port on loopback
     * @param  \Closure(string): bool  $take  a message as it came; true when more is expected
     * @param  \Closure(string): void  $failed  why nothing, or not everything, came
     * @param  float  $patience  seconds without a byte
     */
    public static function ask(
        LoopInterface $loop,
        string $endpoint,
        string $question,
        \Closure $take,
        \Closure $failed,
        float $patience = 2.0,
    ): void {
        if (! str_starts_with($endpoint, '127.0.0.1:')) {
            $failed("$endpoint is not on this machine");

            return;
        }
        $socket = @stream_socket_client("tcp://$endpoint", $code, $message, $patience, STREAM_CLIENT_CONNECT | STREAM_CLIENT_ASYNC_CONNECT);
        if ($socket === false) {
            $failed("no connection to $endpoint");

            return;
        }
        stream_set_blocking($socket, false);
        $buffer = '';
        $over = false;
        /** @var ?TimerInterface $timer */
        $timer = null;
        $end = function (?string $why) use ($loop, $socket, $failed, &$over, &$timer): void {
            if ($over) {
                return;
            }
            $over = true;
            $timer === null ?: $loop->cancelTimer($timer);
            $loop->removeReadStream($socket);
            $loop->removeWriteStream($socket);
            fclose($socket);
            $why === null ?: $failed($why);
        };
        $wait = function () use ($loop, $endpoint, $end, $patience, &$timer): void {
            $timer === null ?: $loop->cancelTimer($timer);
            $timer = $loop->addTimer($patience, fn () => $end("$endpoint does not answer"));
        };
        $wait();
        $loop->addWriteStream($socket, function () use ($loop, $socket, $question): void {
            $loop->removeWriteStream($socket);
            @fwrite($socket, pack('n', strlen($question)).$question);
        });
        $loop->addReadStream($socket, function () use ($socket, $endpoint, $take, $end, $wait, &$buffer): void {
            $data = @fread($socket, 65535);
            if ($data === false || $data === '') {
                $end("$endpoint closed the connection");

                return;
            }
            $wait();
            $buffer .= $data;
            while (strlen($buffer) >= 2 && strlen($buffer) >= 2 + ($size = ord($buffer[0]) << 8 | ord($buffer[1]))) {
                $packet = substr($buffer, 2, $size);
                $buffer = substr($buffer, 2 + $size);
                try {
                    $more = $take($packet);
                } catch (\Throwable $e) {
                    $end("$endpoint: {$e->getMessage()}");

                    return;
                }
                if (! $more) {
                    $end(null);

                    return;
                }
            }
        });
    }
}
