<?php

declare(strict_types=1);

namespace HarborPost\Standins;

use React\EventLoop\LoopInterface;

/** A UDP socket on loopback; answers go to the socket that asked, so no packet leaves this machine. */
final class Udp
{
    /** @var resource */
    private $socket;

    /** @param  \Closure(string $packet, \Closure(string): void $answer): void  $take */
    public function __construct(LoopInterface $loop, int $port, \Closure $take)
    {
        $socket = stream_socket_server("udp://127.0.0.1:$port", $code, $message, STREAM_SERVER_BIND);
        if ($socket === false) {
            throw new \RuntimeException("UDP port $port: $message");
        }
        stream_set_blocking($socket, false);
        $this->socket = $socket;
        $loop->addReadStream($socket, function () use ($take): void {
            while (($packet = @stream_socket_recvfrom($this->socket, 65535, 0, $peer)) !== false && $packet !== '') {
                $to = (string) $peer;
                $take($packet, function (string $answer) use ($to): void {
                    @stream_socket_sendto($this->socket, $answer, 0, $to);
                });
            }
        });
    }
}
