<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseState;
use HarborPost\Core\Dhcp\LeaseQuery\QueryStatus;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Standins\Mode;
use React\Socket\ConnectionInterface;

/**
 * Tells of leases who asks by the standards: one by a datagram (RFC 4388), all of them over TCP (RFC 6926).
 *
 * @phpstan-type Lease array{address: string, client: string, mac: string, name: string, state: string, starts: int, ends: int,
 *     scope: string}
 */
final readonly class LeaseTeller
{
    /** Leases that are read at a time, while the other side takes them. */
    private const PAGE = 500;

    /**
     * @param  \Closure(): int  $now
     * @param  \Closure(): Mode  $mode
     * @param  \Closure(Address): bool  $serves  is the address in a subnet that is leased from here?
     */
    public function __construct(private LeaseBook $leases, private \Closure $now, private \Closure $mode, private \Closure $serves)
    {
    }

    /** Is a datagram such a question? By its message type, wherever that option stands. */
    public static function isFor(string $packet): bool
    {
        return strlen($packet) > 240 && $packet[0] === "\1" && preg_match('/\x35\x01\x0a/', substr($packet, 240)) === 1;
    }

    /** @return ?string the answer to one question (RFC 4388 §6.4); null where none is given */
    public function answer(string $packet): ?string
    {
        try {
            $asked = LeaseQuery::fromWire($packet);
        } catch (MalformedBytes) {
            return null;
        }
        if ($asked->type !== MessageType::LeaseQuery || ($this->mode)() === Mode::Refusing) {
            return null;
        }
        $known = $this->of($asked);
        $byAddress = (string) $asked->address !== '0.0.0.0';
        if ($known === []) {
            $type = $byAddress && ($this->serves)($asked->address) ? MessageType::LeaseUnassigned : MessageType::LeaseUnknown;

            return $asked->answered($type, $byAddress ? $asked->address : null, $asked->mac, '', '', null, 0, 0, ($this->now)())->wire();
        }
        // Of several that a client has the one that was heard last is told, with the addresses of the others.
        usort($known, static fn (array $a, array $b): int => $b['starts'] <=> $a['starts']);
        $also = $byAddress ? [] : array_map(static fn (array $l): Address => Address::parse($l['address']), array_slice($known, 1));

        return $this->told($asked, $known[0], $also)->wire();
    }

    /**
     * @param  string  $first  what came already
     */
    public function serve(ConnectionInterface $connection, string $first): void
    {
        Framed::read($connection, $first, fn (string $message) => $this->take($connection, $message));
    }

    private function take(ConnectionInterface $connection, string $message): void
    {
        try {
            $asked = LeaseQuery::fromWire($message);
        } catch (MalformedBytes) {
            $connection->close();

            return;
        }
        if ($asked->type !== MessageType::BulkLeaseQuery) {
            $connection->write($asked->done(QueryStatus::Malformed, 'a bulk query was expected')->framed());

            return;
        }
        if (($this->mode)() === Mode::Refusing) {
            $connection->write($asked->done(QueryStatus::NotAllowed, 'told to refuse')->framed());

            return;
        }
        $isNarrow = (string) $asked->address !== '0.0.0.0' || $asked->mac !== null || $asked->client() !== '';
        $this->tell($connection, $asked, $isNarrow ? null : '');
    }

    /** Page by page, as fast as the other side takes it, so that memory does not grow with the number of leases. */
    private function tell(ConnectionInterface $connection, LeaseQuery $asked, ?string $after): void
    {
        $page = $after === null ? $this->of($asked) : $this->leases->page($after, self::PAGE);
        $text = '';
        foreach ($page as $lease) {
            if (($asked->since() ?? 0) <= $lease['starts']) {
                $text .= $this->told($asked, $lease)->framed();
            }
        }
        $last = $after === null || count($page) < self::PAGE ? null : $page[count($page) - 1]['address'];
        if ($last === null) {
            $connection->write($text.$asked->done(QueryStatus::Success)->framed());

            return;
        }
        $on = fn () => $this->tell($connection, $asked, $last);
        $connection->write($text) ? \React\EventLoop\Loop::futureTick($on) : $connection->once('drain', $on);
    }

    /** @return list<Lease> */
    private function of(LeaseQuery $asked): array
    {
        $at = (string) $asked->address === '0.0.0.0' ? null : $this->leases->at((string) $asked->address);
        if ($at !== null || (string) $asked->address !== '0.0.0.0') {
            return $at === null || $at['state'] === LeaseBook::HELD ? [] : [$at];
        }

        $client = $asked->client() === '' ? null : bin2hex($asked->client());

        return $this->leases->where($client, $asked->mac === null ? null : (string) $asked->mac);
    }

    /**
     * @param  Lease  $lease
     * @param  list<Address>  $also
     */
    private function told(LeaseQuery $asked, array $lease, array $also = []): LeaseQuery
    {
        $now = ($this->now)();
        $active = $lease['state'] === 'active' && $lease['ends'] > $now;

        return $asked->answered(
            $active ? MessageType::LeaseActive : MessageType::LeaseUnassigned, Address::parse($lease['address']),
            MacAddress::tryParse($lease['mac']), (string) @hex2bin($lease['client']), $lease['name'],
            $lease['state'] === 'active' && ! $active ? LeaseState::Expired : LeaseState::ofWord($lease['state']),
            $lease['starts'], $lease['ends'], $now, $also,
        );
    }
}
