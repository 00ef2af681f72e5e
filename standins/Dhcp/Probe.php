<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Net\Address;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpConnector;

/** Asks the network whether somebody has an address, as an echo request would (RFC 2131 §2.2): silence after so many tries is a no. */
final class Probe
{
    public function __construct(private readonly LoopInterface $loop, private readonly int $control, private readonly string $token)
    {
    }

    /**
     * @param  int  $tries  how often it is asked
     * @param  float  $wait  seconds for an answer to each
     * @param  \Closure(?string): void  $done  the MAC that answers, empty when it is not told; null: nobody answers
     */
    public function ask(Address $address, int $tries, float $wait, \Closure $done): void
    {
        $once = function (?string $mac) use (&$done): void {
            $then = $done;
            $done = null;
            $then === null ?: $then($mac);
        };
        $this->loop->addTimer($wait, function () use ($address, $tries, $wait, $once, &$done): void {
            if ($done !== null && $tries > 1) {
                $this->ask($address, $tries - 1, $wait, $once);
            } elseif ($done !== null) {
                $once(null);
            }
        });
        $line = json_encode(['op' => 'probe', 'token' => $this->token, 'addresses' => [(string) $address]])."\n";
        (new TcpConnector($this->loop))->connect("127.0.0.1:$this->control")->then(
            static function (ConnectionInterface $connection) use ($line, $once): void {
                $connection->on('data', static function (string $data) use ($connection, $once): void {
                    $answer = json_decode($data, true);
                    $one = is_array($answer) && is_array($answer['answers'] ?? null) ? $answer['answers'][0] ?? null : null;
                    $connection->close();
                    is_array($one) ? $once(is_string($one['mac'] ?? null) ? $one['mac'] : '') : null;
                });
                $connection->write($line);
            },
            static fn () => null, // A network that is away answers for nobody.
        );
    }
}
