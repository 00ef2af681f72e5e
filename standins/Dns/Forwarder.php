<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use React\EventLoop\LoopInterface;

/** Passes a question on to another server over TCP and its answer back, with the client's own id. */
final class Forwarder
{
    private const PATIENCE = 2.0;

    /** @param  \Closure(Message): void  $done */
    public static function ask(LoopInterface $loop, int $port, Message $query, \Closure $done): void
    {
        if (! $query->recursionDesired) {
            $done($query->reply(Rcode::Refused, recursionAvailable: true));

            return;
        }
        $socket = @stream_socket_client("tcp://127.0.0.1:$port", $code, $message, self::PATIENCE, STREAM_CLIENT_CONNECT | STREAM_CLIENT_ASYNC_CONNECT);
        if ($socket === false) {
            $done($query->reply(Rcode::ServFail, recursionAvailable: true));

            return;
        }
        stream_set_blocking($socket, false);
        $bytes = $query->wire();
        $buffer = '';
        $over = false;
        $finish = function (Message $answer) use ($loop, $socket, $done, &$over): void {
            if (! $over) {
                $over = true;
                $loop->removeReadStream($socket);
                $loop->removeWriteStream($socket);
                fclose($socket);
                $done($answer);
            }
        };
        $failed = $query->reply(Rcode::ServFail, recursionAvailable: true);
        $loop->addTimer(self::PATIENCE, fn () => $finish($failed));
        $loop->addWriteStream($socket, function () use ($loop, $socket, $bytes): void {
            $loop->removeWriteStream($socket);
            @fwrite($socket, pack('n', strlen($bytes)).$bytes);
        });
        $loop->addReadStream($socket, function () use ($socket, $query, $failed, $finish, &$buffer): void {
            $data = @fread($socket, 65535);
            if ($data === false || $data === '') {
                $finish($failed);

                return;
            }
            $buffer .= $data;
            if (strlen($buffer) < 2 || strlen($buffer) < 2 + (ord($buffer[0]) << 8 | ord($buffer[1]))) {
                return;
            }
            try {
                $answer = Message::fromWire(substr($buffer, 2, ord($buffer[0]) << 8 | ord($buffer[1])));
                $finish($query->reply($answer->rcode, $answer->answers, $answer->authority, $answer->additional, recursionAvailable: true));
            } catch (MalformedBytes) {
                $finish($failed);
            }
        });
    }
}
