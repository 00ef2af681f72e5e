<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQueryV6;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;

/**
 * The leases on one link after another, of a server of IPv6 that keeps to the standards (bulk leasequery, RFC 5460). An answer that ends
 * without its last message is no whole answer.
 *
 * @phpstan-import-type Told from LeaseQueryV6
 */
final readonly class BulkLeasesV6
{
    public function __construct(private string $server, private string $endpoint, private float $patience)
    {
    }

    /**
     * @param  Address  $link  an address in the subnet that is leased from
     * @return \Generator<int, list<Told>> pages of so many leases
     *
     * @throws Unanswered
     */
    public function pages(Address $link, int $size): \Generator
    {
        $asked = LeaseQueryV6::ofLink(random_int(1, 0xFFFFFF), Duid::ofName('harbor post'), $link);
        $stream = MessageStream::ask($this->server, $this->endpoint, $this->patience, $asked->wire());
        try {
            $answer = $this->read($stream->next(), $asked->transaction, MessageType::LeaseQueryReply);
            $page = LeaseQueryV6::told($answer, time());
            // A first message that tells of nothing is the only one (RFC 5460 §6.4).
            for ($ends = $page === []; ! $ends;) {
                $answer = $this->read($stream->next(), $asked->transaction, MessageType::LeaseQueryData, MessageType::LeaseQueryDone);
                $ends = $answer->type === MessageType::LeaseQueryDone;
                $page = [...$page, ...LeaseQueryV6::told($answer, time())];
                if (count($page) >= $size) {
                    yield $page;
                    $page = [];
                }
            }
            yield $page;
        } catch (MalformedBytes $e) {
            throw Unanswered::nonsense($this->server, $e->getMessage());
        } finally {
            $stream->close();
        }
    }

    /** @throws MalformedBytes|Unanswered */
    private function read(string $wire, int $transaction, MessageType ...$expected): Message
    {
        $answer = Message::fromWire($wire);
        if ($answer->transaction !== $transaction || ! in_array($answer->type, $expected, true)) {
            throw Unanswered::nonsense($this->server, sprintf('%s %06x to the question %06x', $answer->type->label(), $answer->transaction,
                $transaction));
        }
        $status = StatusCode::of($answer->options->first(Code::STATUS)) ?? StatusCode::Success;

        return $status === StatusCode::Success ? $answer
            : throw Unanswered::refused($this->server, 'asked for all leases of a link, '.self::words($status));
    }

    private static function words(StatusCode $status): string
    {
        return match ($status) {
            StatusCode::UnknownQueryType => 'it does not know questions by link',
            StatusCode::MalformedQuery => 'it does not understand the question',
            StatusCode::NotConfigured => 'it does not serve that link',
            StatusCode::NotAllowed => 'it is not allowed to ask',
            StatusCode::QueryTerminated => 'it ended the answer before its end',
            default => "it answers $status->name",
        };
    }
}
