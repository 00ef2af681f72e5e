<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Dhcp\V4\Packet;

/** Sends DHCP packets to a server as a relay would, and waits for the answer with the same transaction. */
final readonly class DhcpClient
{
    private Datagram $datagram;

    public function __construct(string $server, string $endpoint, float $patience = 3.0)
    {
        $this->datagram = new Datagram($server, $endpoint, $patience);
    }

    /**
     * @return array{Packet, string, float} the answer, its bytes, milliseconds
     *
     * @throws Unanswered
     */
    public function exchange(Packet $packet): array
    {
        return $this->datagram->ask($packet->wire(), static function (string $bytes) use ($packet): ?Packet {
            $answer = Packet::fromWire($bytes);

            return $answer->xid === $packet->xid && $answer->op === 2 ? $answer : null;
        });
    }

    /** For messages that are not answered: release and decline. */
    public function tell(Packet $packet): void
    {
        fclose($this->datagram->send($packet->wire()));
    }
}
