<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\Relayed;

/** Sends DHCPv6 messages to a server as a relay would, and waits for the answer with the same transaction. */
final readonly class RelayedClient
{
    private Datagram $datagram;

    public function __construct(string $server, string $endpoint, float $patience = 3.0)
    {
        $this->datagram = new Datagram($server, $endpoint, $patience);
    }

    /**
     * @return array{Message, string, float} the answer, its bytes as they came through the relay, milliseconds
     *
     * @throws Unanswered
     */
    public function exchange(Relayed $asked): array
    {
        return $this->datagram->ask($asked->wire(), static function (string $bytes) use ($asked): ?Message {
            $answer = Relayed::fromWire($bytes);

            return $answer->reply && $answer->message->transaction === $asked->message->transaction ? $answer->message : null;
        });
    }
}
