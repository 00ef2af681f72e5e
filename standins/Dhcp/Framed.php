<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use React\Socket\ConnectionInterface;

/** Messages of a connection, each with its length in two bytes in front (RFC 6926 §6.1, RFC 5460 §5.1). */
final class Framed
{
    /**
     * @param  string  $first  what came already
     * @param  \Closure(string): void  $take
     */
    public static function read(ConnectionInterface $connection, string $first, \Closure $take): void
    {
        $buffer = '';
        $read = function (string $data) use (&$buffer, $take): void {
            $buffer .= $data;
            while (strlen($buffer) >= 2 && strlen($buffer) >= 2 + ($length = ord($buffer[0]) << 8 | ord($buffer[1]))) {
                $message = substr($buffer, 2, $length);
                $buffer = substr($buffer, 2 + $length);
                $take($message);
            }
        };
        $connection->on('data', $read);
        $read($first);
    }
}
