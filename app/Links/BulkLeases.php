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
        $asked = LeaseQuery::ofAll(random_int(1, 0xFFFFFFFF));
        $stream = MessageStream::ask($this->server, $this->endpoint, $this->patience, $asked->wire());
        try {
            $page = [];
            while (($answer = $this->read($stream->next(), $asked->xid))->type !== MessageType::LeaseQueryDone) {
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
            $stream->close();
        }
    }

    private function read(string $wire, int $xid): LeaseQuery
    {
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
}
