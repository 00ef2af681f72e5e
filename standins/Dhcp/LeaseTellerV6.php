<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQueryV6;
use HarborPost\Core\Dhcp\LeaseQuery\QueryKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;
use HarborPost\Standins\Mode;
use React\EventLoop\Loop;
use React\Socket\ConnectionInterface;

/**
 * Tells of leases of IPv6 who asks by the standards: of one by a datagram (RFC 5007), of all on a link over TCP (RFC 5460).
 *
 * @phpstan-import-type LeaseV6 from BookV6
 */
final readonly class LeaseTellerV6
{
    /** Leases that are read at a time, while the other side takes them. */
    private const PAGE = 500;

    /**
     * @param  \Closure(): int  $now
     * @param  \Closure(): Mode  $mode
     * @param  \Closure(Address): ?string  $scopeOf  the scope that serves a link
     * @param  \Closure(string): ?Address  $linkOf  the link that a scope serves
     */
    public function __construct(
        private BookV6 $leases,
        private Duid $self,
        private \Closure $now,
        private \Closure $mode,
        private \Closure $scopeOf,
        private \Closure $linkOf,
    ) {
    }

    public static function isFor(string $packet): bool
    {
        return str_starts_with($packet, chr(MessageType::LeaseQuery->value));
    }

    /** @return ?string the answer to one datagram; null where none is given */
    public function answer(string $packet): ?string
    {
        try {
            $asked = Message::fromWire($packet);
        } catch (MalformedBytes) {
            return null;
        }
        if ($asked->client() === null) {
            return null;
        }
        $query = $this->judged($asked);
        if ($query instanceof StatusCode) {
            return $this->reply($asked, [Code::STATUS, $query->with()])->wire();
        }
        if ($query->kind === QueryKind::Link) {
            // Of all on a link is asked over TCP.
            return $this->reply($asked, [Code::STATUS, StatusCode::NotAllowed->with('ask over TCP')])->wire();
        }

        $leases = $this->leases($query);
        $scopes = array_values(array_unique(array_column($leases, 'scope')));
        if (count($scopes) > 1) {
            // On which links the client has something: it is asked for each of them again.
            $links = array_filter(array_map($this->linkOf, $scopes));

            return $this->reply($asked, [
                LeaseQueryV6::CLIENT_LINKS, implode('', array_map(static fn (Address $a): string => $a->bytes, $links)),
            ])->wire();
        }
        $data = $leases === [] ? [] : [[LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data($leases, ($this->now)())]];

        return $this->reply($asked, ...$data)->wire();
    }

    /** @param  string  $first  what came already */
    public function serve(ConnectionInterface $connection, string $first): void
    {
        Framed::read($connection, $first, fn (string $message) => $this->take($connection, $message));
    }

    private function take(ConnectionInterface $connection, string $message): void
    {
        try {
            $asked = Message::fromWire($message);
        } catch (MalformedBytes) {
            $connection->close();

            return;
        }
        $query = $this->judged($asked);
        if ($query instanceof StatusCode) {
            $connection->write(LeaseQueryV6::framed($this->reply($asked, [Code::STATUS, $query->with()])));

            return;
        }
        $leases = $this->leases($query);
        $first = array_shift($leases);
        $connection->write(LeaseQueryV6::framed($this->reply($asked, ...$this->data($first === null ? [] : [$first]))));
        $first === null ? null : $this->tell($connection, $asked, $leases);
    }

    /**
     * As fast as the other side takes it.
     *
     * @param  list<LeaseV6>  $leases
     */
    private function tell(ConnectionInterface $connection, Message $asked, array $leases): void
    {
        $text = '';
        foreach (array_slice($leases, 0, self::PAGE) as $lease) {
            $text .= LeaseQueryV6::framed(
                new Message(MessageType::LeaseQueryData, $asked->transaction, new OptionList($this->data([$lease]))),
            );
        }
        $left = array_slice($leases, self::PAGE);
        if ($left === []) {
            $connection->write($text.LeaseQueryV6::framed(new Message(MessageType::LeaseQueryDone, $asked->transaction, new OptionList)));

            return;
        }
        $on = fn () => $this->tell($connection, $asked, $left);
        $connection->write($text) ? Loop::futureTick($on) : $connection->once('drain', $on);
    }

    /** What is asked, or why it cannot be told. */
    private function judged(Message $asked): LeaseQueryV6|StatusCode
    {
        $query = LeaseQueryV6::read($asked);

        return match (true) {
            ($this->mode)() === Mode::Refusing => StatusCode::NotAllowed,
            $query instanceof StatusCode => $query,
            $query->kind === QueryKind::Relay, $query->kind === QueryKind::Remote => StatusCode::UnknownQueryType,
            $query->kind === QueryKind::Link && ($this->scopeOf)($query->link) === null => StatusCode::NotConfigured,
            default => $query,
        };
    }

    /** @return list<LeaseV6> what runs of it */
    private function leases(LeaseQueryV6 $query): array
    {
        $scope = $query->isOfAnyLink() ? null : ($this->scopeOf)($query->link);
        $now = ($this->now)();
        $leases = match ($query->kind) {
            QueryKind::Address => $this->leases->from((string) $query->address()),
            QueryKind::Client => $this->leases->ofClient((string) $query->client()),
            default => $this->leases->ofScope((string) $scope),
        };

        return array_values(array_filter(
            $leases,
            static fn (array $l): bool => $l['state'] === 'active' && $l['ends'] > $now && ($scope === null || $l['scope'] === $scope),
        ));
    }

    /**
     * @param  list<LeaseV6>  $leases
     * @return list<array{int, string}>
     */
    private function data(array $leases): array
    {
        $now = ($this->now)();

        return array_map(static fn (array $l): array => [LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data([$l], $now)], $leases);
    }

    /** @param  array{int, string}  ...$options */
    private function reply(Message $asked, array ...$options): Message
    {
        return new Message(MessageType::LeaseQueryReply, $asked->transaction, new OptionList([
            [Code::SERVER_ID, $this->self->bytes], [Code::CLIENT_ID, $asked->client()->bytes ?? ''], ...array_values($options),
        ]));
    }
}
