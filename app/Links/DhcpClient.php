<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\V4\Packet;

/** Sends DHCP packets to a server as a relay would, and waits for the answer with the same transaction. */
final readonly class DhcpClient
{
    public function __construct(private string $server, private string $endpoint, private float $patience = 3.0)
    {
    }

    /**
     * @return array{Packet, string, float} the answer, its bytes, milliseconds
     *
     * @throws Unanswered
     */
    public function exchange(Packet $packet): array
    {
        $start = microtime(true);
        $socket = $this->send($packet);
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
                $answer = Packet::fromWire($bytes);
            } catch (MalformedBytes $e) {
                throw Unanswered::nonsense($this->server, $e->getMessage());
            }
            if ($answer->xid === $packet->xid && $answer->op === 2) {
                return [$answer, $bytes, (microtime(true) - $start) * 1000];
            }
        }
        throw Unanswered::silence($this->server, $this->endpoint, $this->patience);
    }

    /** For messages that are not answered: release and decline. */
    public function tell(Packet $packet): void
    {
        fclose($this->send($packet));
    }

    /** @return resource */
    private function send(Packet $packet)
    {
        $socket = @stream_socket_client("udp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, $why);
        }
        fwrite($socket, $packet->wire());

        return $socket;
    }
}
