<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\QueryStatus;
use HarborPost\Core\Dhcp\V4\MessageType;

/**
 * All leases of a server that keeps to the standards, over one connection (bulk leasequery, RFC 6926). They come as the server lists
 * them, a page in memory at a time; an answer that ends without its last message is no whole answer.
 */
final readonly class BulkLeases
{
    public function __construct(private string $server, private string $endpoint, private float $patience)
    {
    }

    /**
     * @return \Generator<int, list<array{address: string, mac: string, client: string, name: string, state: string, starts: int,
     *     ends: int}>> pages of so many leases
     *
     * @throws Unanswered
     */
    public function pages(int $size): \Generator
    {
        $socket = $this->connected();
        try {
            $asked = LeaseQuery::ofAll(random_int(1, 0xFFFFFFFF));
            $this->send($socket, $asked->framed());
            $page = [];
            while (($answer = $this->next($socket, $asked->xid))->type !== MessageType::LeaseQueryDone) {
                $lease = $answer->lease(time());
                if ($lease !== null) {
                    $page[] = $lease;
                }
                if (count($page) >= $size) {
                    yield $page;
                    $page = [];
                }
            }
            if ($answer->status() !== QueryStatus::Success) {
                throw Unanswered::refused($this->server, 'asked for all leases, '.$answer->status()->words());
            }
            yield $page;
        } finally {
            fclose($socket);
        }
    }

    /** @return resource */
    private function connected()
    {
        $socket = @stream_socket_client("tcp://$this->endpoint", $code, $why, $this->patience);
        if ($socket === false) {
            throw Unanswered::closed($this->server, $this->endpoint, ((string) $why) === '' ? 'nobody listens there' : (string) $why);
        }
        stream_set_timeout($socket, (int) $this->patience, (int) (fmod($this->patience, 1) * 1e6));

        return $socket;
    }

    /** @param  resource  $socket */
    private function send($socket, string $bytes): void
    {
        if (@fwrite($socket, $bytes) !== strlen($bytes)) {
            throw Unanswered::closed($this->server, $this->endpoint, 'it closed the connection');
        }
    }

    /** @param  resource  $socket */
    private function next($socket, int $xid): LeaseQuery
    {
        $length = unpack('n', $this->read($socket, 2));
        $wire = $this->read($socket, $length === false ? 0 : (int) $length[1]);
        try {
            $answer = LeaseQuery::fromWire($wire);
        } catch (MalformedBytes $e) {
            throw Unanswered::nonsense($this->server, $e->getMessage());
        }
        if ($answer->xid !== $xid) {
            throw Unanswered::nonsense($this->server, sprintf('an answer to %08x; %08x was asked', $answer->xid, $xid));
        }

        return $answer;
    }

    /** @param  resource  $socket */
    private function read($socket, int $count): string
    {
        $bytes = '';
        while (strlen($bytes) < $count) {
            $part = @fread($socket, max(1, $count - strlen($bytes)));
            if ($part === false || $part === '') {
                throw stream_get_meta_data($socket)['timed_out']
                    ? Unanswered::silence($this->server, $this->endpoint, $this->patience)
                    : Unanswered::closed($this->server, $this->endpoint, 'it closed the connection before it had told of all leases');
            }
            $bytes .= $part;
        }

        return $bytes;
    }
}
