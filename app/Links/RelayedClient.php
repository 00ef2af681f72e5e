<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\Relayed;

/** Sends DHCPv6 messages to a server as a relay would, and waits for the answer with the same transaction. */
final readonly class RelayedClient
{
    public function __construct(private string $server, private string $endpoint, private float $patience = 3.0)
    {
    }

    /**
     * @return array{Message, string, float} the answer, its bytes as they came through the relay, milliseconds
     *
     * @throws Unanswered
     */
    public function exchange(Relayed $asked): array
    {
        $start = microtime(true);
        $socket = @stream_socket_client("udp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, (string) $why);
        }
        fwrite($socket, $asked->wire());
        $until = $start + $this->patience;
        while (($left = $until - microtime(true)) > 0) {
            stream_set_timeout($socket, (int) $left, (int) (fmod($left, 1) * 1e6));
            $bytes = @fread($socket, 65535);
            if ($bytes === false && ! stream_get_meta_data($socket)['timed_out']) {
                throw Unanswered::closed($this->server, $this->endpoint, 'nobody listens there');
            }
            if ($bytes === false || $bytes === '') {
                break;
            }
            try {
                $answer = Relayed::fromWire($bytes);
            } catch (MalformedBytes $e) {
                throw Unanswered::nonsense($this->server, $e->getMessage());
            }
            if ($answer->reply && $answer->message->transaction === $asked->message->transaction) {
                return [$answer->message, $bytes, (microtime(true) - $start) * 1000];
            }
        }
        throw Unanswered::silence($this->server, $this->endpoint, $this->patience);
    }
}
