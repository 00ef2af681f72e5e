<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Names\ClientFqdn;
use HarborPost\Core\Dhcp\Names\ClientIdentity;
use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Exchange\LinkOrder;
use HarborPost\Core\Exchange\Pair\Binding;
use HarborPost\Core\Exchange\Pair\BindingState;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Measures;
use HarborPost\Standins\Mode;
use HarborPost\Standins\Udp;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/**
 * A DHCP server on loopback that keeps RFC 2131 §4.3 in all client states; relays and clients are told apart by their addresses, not by
 * ports.
 */
final class DhcpServer
{
    /** Seconds an offered address is kept for its client. */
    private const OFFER = 30;

    /** Leases that one message lists. */
    private const PAGE = 1000;

    /** Seconds a declined address is left alone. */
    private const DECLINED = 3600;

    /** Addresses that are probed for one question, until nothing is offered. */
    private const PROBED = 5;

    /** @var array<string, ServedScope> */
    private array $scopes = [];

    private readonly LeaseBook $leases;

    /** @var array<string, ServedPair> */
    private array $pairs = [];

    private ServerV6 $six;

    private readonly Journal $paired;

    private readonly NameKeeper $names;

    private LeaseTeller $teller;

    private LeaseTellerV6 $tellerV6;

    private readonly ChangeOrder $changes;

    /** As an agent: all that there is to do. */
    private const DOES = ['scopes', 'v6', 'classes', 'link', 'probe', 'pairs', 'names', 'leases', 'changes', 'grant', 'end', 'packets'];

    private Control $control;

    private readonly Journal $journal;

    private readonly Measures $measures;

    /** What it counts. */
    private const MEASURED = [
        'dhcp_messages' => ['counter', 'Messages of clients by kind.'],
        'dhcp_replies' => ['counter', 'Replies by kind; a message without one was not for this server.'],
        'dhcp_probes' => ['counter', 'Addresses that were probed before an offer.'],
        'dhcp_conflicts' => ['counter', 'Probed addresses that somebody answered for.'],
        'dhcp_leases' => ['gauge', 'Leases that are known.'],
        'dhcp_scopes' => ['gauge', 'Scopes that are served.'],
    ];

    /** @param  \Closure(): int  $now */
    public function __construct(
        private readonly LoopInterface $loop,
        int $port,
        int $control,
        string $token,
        private readonly string $directory,
        private readonly Address $identifier,
        private readonly \Closure $now,
        private readonly ?Probe $probe = null,
    ) {
        $this->measures = new Measures(self::MEASURED);
        $this->changes = new ChangeOrder;
        $this->leases = new LeaseBook(new Journal("$directory/leases.jsonl"), $this->changes);
        $this->teller = new LeaseTeller(
            $this->leases, $now, fn (): Mode => $this->control->mode, fn (Address $a): bool => $this->scopeAt($a) !== null,
        );
        $this->journal = new Journal("$directory/scopes.jsonl");
        $this->names = new NameKeeper(
            $loop,
            new Journal("$directory/names.jsonl"),
            new Journal("$directory/keys.jsonl"),
            $now,
            fn (string $scope): ?NamingRule => ($this->scopes[$scope] ?? null)->naming ?? $this->six->naming($scope),
            function (string $address): bool {
                $six = str_contains($address, ':') ? Address::tryParse($address) : null;
                $held = $six === null ? $this->leases->at($address) : null;

                return $six !== null ? $this->six->runs($six) : $held !== null && $held['state'] === 'active'
                    && $held['ends'] > ($this->now)();
            },
        );
        $this->six = new ServerV6($directory, $identifier, $now, $this->names, $this->changes);
        $this->tellerV6 = $this->six->teller(fn (): Mode => $this->control->mode);
        $this->paired = new Journal("$directory/pairs.jsonl");
        $this->listen($port);
        // The control channel opens behind them: who reaches it reaches the server too.
        $this->control = new Control($loop, $control, $token, $this->operations(), $this->figures(...), self::DOES);
        foreach ($this->paired->entries() as $entry) {
            $this->carryPair($entry);
        }
        $this->paired->rewrite(array_map(static fn (ServedPair $p): array => ['put' => $p->source], array_values($this->pairs)));
        foreach ($this->journal->entries() as $entry) {
            $this->carry($entry);
        }
        $this->joinPairs();
        $this->journal->rewrite(array_map(static fn (ServedScope $s): array => ['put' => $s->source], array_values($this->scopes)));
    }

    /** What clients and partners send, and who asks about leases. */
    private function listen(int $port): void
    {
        (new TcpServer("127.0.0.1:$port", $this->loop))->on('connection', function (ConnectionInterface $connection): void {
            if ($this->control->mode === Mode::Silent) {
                $connection->close();

                return;
            }
            // Partners speak in lines of text; a question about leases begins with its length, which is no letter.
            $connection->once('data', function (string $first) use ($connection): void {
                if ($first !== '' && ord($first[0]) < 32) {
                    LeaseTellerV6::isFor(substr($first, 2)) ? $this->tellerV6->serve($connection, $first)
                        : $this->teller->serve($connection, $first);

                    return;
                }
                PairLine::answer($connection, fn (string $id): ?ServedPair => $this->pairs[$id] ?? null);
                $connection->emit('data', [$first]);
            });
        });
        new Udp($this->loop, $port, function (string $packet, \Closure $answer): void {
            if ($this->control->mode === Mode::Silent) {
                return;
            }
            if (LeaseTeller::isFor($packet)) {
                $this->measures->add('dhcp_messages', ['message' => 'leasequery']);
                ($told = $this->teller->answer($packet)) === null ?: $answer($told);

                return;
            }
            if (LeaseTellerV6::isFor($packet)) {
                $this->measures->add('dhcp_messages', ['message' => 'leasequery']);
                ($told = $this->tellerV6->answer($packet)) === null ?: $answer($told);

                return;
            }
            if (ServerV6::isFor($packet)) {
                $this->measures->add('dhcp_messages', ['message' => 'v6']);
                $this->takeRelayed($packet, $answer);

                return;
            }
            try {
                $asked = Packet::fromWire($packet);
                $this->measures->add('dhcp_messages', ['message' => strtolower($asked->type()->name ?? 'none')]);
                $reply = $this->answer($asked);
            } catch (MalformedBytes) {
                return;
            }
            $reply === null ?: $this->probed($asked, $reply, fn (Packet $sure) => $this->send($asked, $sure, $answer));
        });
    }

    /** @return array<string, \Closure(array<mixed>): array<mixed>> what the control channel may be asked */
    private function operations(): array
    {
        return [
            'status' => fn (): array => [
                'scopes' => count($this->scopes) + count($this->six->scopes()),
                'leases' => $this->leases->count() + $this->six->leases->count(),
            ],
            'scopes' => fn (): array => [
                'scopes' => [
                    ...array_map(static fn (ServedScope $s): array => $s->source, array_values($this->scopes)),
                    ...$this->six->scopes(),
                ],
            ],
            'put' => fn (array $m): array => $this->change(['put' => $m['scope'] ?? []]),
            'cut' => fn (array $m): array => $this->change(['cut' => $m['id'] ?? '']),
            'leases' => fn (array $m): array => [
                'leases' => $this->page(is_string($m['after'] ?? null) ? $m['after'] : ''),
                'count' => $this->leases->count() + $this->six->leases->count(),
            ],
            'lease-changes' => fn (array $m): array => $this->changes(is_string($m['since'] ?? null) ? $m['since'] : ''),
            'pairs' => fn (): array => [
                'pairs' => array_map(static fn (ServedPair $p): array => $p->shown(), array_values($this->pairs)),
                'states' => array_map(static fn (ServedPair $p): array => $p->status(), array_values($this->pairs)),
            ],
            'pair-put' => fn (array $m): array => $this->changePair(['put' => $m['pair'] ?? []]),
            'pair-cut' => fn (array $m): array => $this->changePair(['cut' => $m['id'] ?? '']),
            'partner-down' => fn (array $m): array => $this->partnerDown(is_string($m['id'] ?? null) ? $m['id'] : ''),
            'names' => fn (): array => ['names' => $this->names->all()],
            'key-put' => function (array $m): array {
                $this->names->keep(['name' => $m['name'] ?? '', 'secret' => $m['secret'] ?? '', 'algorithm' => $m['algorithm'] ?? '']);

                return ['kept' => true];
            },
            'grant' => fn (array $m): array => $this->grant($m),
            'end' => fn (array $m): array => $this->end($m),
        ];
    }

    /** @param  \Closure(string): void  $answer */
    private function send(Packet $asked, Packet $reply, \Closure $answer): void
    {
        $this->measures->add('dhcp_replies', ['message' => strtolower($reply->type()->name ?? 'none')]);
        $send = fn () => $answer($reply->wire());
        $delay = $this->control->mode === Mode::Slow ? Mode::DELAY : $this->delay($asked);
        $delay > 0 ? $this->loop->addTimer($delay, $send) : $send();
    }

    /**
     * An address is probed before it is offered to a client that does not hold it. One that somebody answers for is put aside as if a
     * client had declined it, and the next is tried (RFC 2131 §2.2).
     *
     * @param  \Closure(Packet): void  $send
     */
    private function probed(Packet $asked, Packet $reply, \Closure $send, int $tries = 0): void
    {
        $scope = $reply->type() === MessageType::Offer ? $this->scopeAt($reply->yourAddress) : null;
        $address = $reply->yourAddress;
        $held = $this->leases->at((string) $address);
        $own = $held !== null && $held['client'] === bin2hex($asked->clientKey()) && $held['state'] === 'active'
            && $held['ends'] > ($this->now)();
        if ($this->probe === null || $scope === null || $scope->probes === 0 || $own || $tries >= self::PROBED) {
            // Where all that was tried is in use, nothing is offered.
            $tries < self::PROBED ? $send($reply) : null;

            return;
        }
        $this->measures->add('dhcp_probes');
        $done = function (?string $mac) use ($asked, $reply, $send, $scope, $address, $tries): void {
            if ($mac === null || $mac === (string) $asked->hardware) {
                $send($reply);

                return;
            }
            $this->measures->add('dhcp_conflicts');
            $now = ($this->now)();
            $this->leases->write((string) $address, '', '', '', 'declined', $now, $now + self::DECLINED, $scope->id);
            $this->pairOf($scope)?->member->decline($address, bin2hex($asked->clientKey()), $now + self::DECLINED, $now);
            $next = $this->answer($asked);
            $next === null ?: $this->probed($asked, $next, $send, $tries + 1);
        };
        $this->probe->ask($address, $scope->probes, $scope->probeWait / 1000, $done);
    }

    private function figures(): string
    {
        $this->measures->set('dhcp_leases', $this->leases->count() + $this->six->leases->count());
        $this->measures->set('dhcp_scopes', count($this->scopes) + count($this->six->scopes()));

        return $this->measures->text();
    }

    /** @param  \Closure(string): void  $answer */
    private function takeRelayed(string $packet, \Closure $answer): void
    {
        try {
            $reply = $this->six->take($packet, $this->control->mode);
        } catch (MalformedBytes) {
            return;
        }
        if ($reply !== null) {
            $this->control->mode === Mode::Slow ? $this->loop->addTimer(Mode::DELAY, fn () => $answer($reply)) : $answer($reply);
        }
    }

    /**
     * Leases behind an address, those of IPv4 first.
     *
     * @return list<array<string, int|string>>
     */
    private function page(string $after): array
    {
        $after = filter_var($after, FILTER_VALIDATE_IP) === false ? '' : $after;
        $four = str_contains($after, ':') ? [] : $this->leases->page($after, self::PAGE);
        $left = self::PAGE - count($four);

        return $left < 1 ? $four : [...$four, ...$this->six->leases->page(str_contains($after, ':') ? $after : '', $left)];
    }

    /**
     * What changed since a cursor was given; where it cannot be told, all of it is to be read.
     *
     * @return array{cursor: string, whole: true}|array{cursor: string, more: bool, leases: list<array<string, mixed>>, gone: list<string>}
     */
    private function changes(string $since): array
    {
        $changed = $this->changes->since($since, self::PAGE);
        if ($changed === null) {
            return ['cursor' => $this->changes->cursor(), 'whole' => true];
        }
        $leases = $gone = [];
        foreach ($changed['addresses'] as $address) {
            $found = str_contains($address, ':') ? $this->six->leases->from($address) : array_filter([$this->leases->at($address)]);
            foreach ($found as $lease) {
                // What a partner gave is the partner's to tell.
                $lease['state'] === LeaseBook::HELD ? $gone[] = $address : $leases[] = $lease;
            }
        }

        return ['cursor' => $changed['cursor'], 'more' => $changed['more'], 'leases' => $leases, 'gone' => $gone];
    }

    /** Seconds that the second server of a scope holds its offers back, so that the first one is heard. */
    private function delay(Packet $packet): float
    {
        return $packet->type() === MessageType::Discover ? ($this->scopeOf($packet)->delay ?? 0) / 1000 : 0.0;
    }

    public function answer(Packet $packet): ?Packet
    {
        $scope = $this->servedFrom($packet);
        if ($packet->op !== 1 || $scope === null) {
            return null;
        }
        if ($this->control->mode === Mode::Refusing) {
            return $packet->type() === MessageType::Request ? $this->nak($packet, 'told to refuse') : null;
        }

        $pair = $this->pairOf($scope);
        if ($scope->pair !== '' && $pair === null) {
            return null;
        }
        $reserved = $scope->reservationOf($packet)['address'] ?? null;
        // One of the two answers who asks everybody; who asks one of them by name, or renews, is answered by that one.
        $asksAll = $packet->type() === MessageType::Discover
            || $packet->type() === MessageType::Request
                && (string) $packet->clientAddress === '0.0.0.0'
                && ! isset($packet->options[OptionTable::SERVER_ID]);
        if ($pair !== null && $asksAll && ! $pair->member->answers($packet->clientKey(), $reserved, $packet->seconds)) {
            return null;
        }

        return match ($packet->type()) {
            MessageType::Discover => $this->discover($scope, $packet),
            MessageType::Request => $this->request($scope, $packet),
            MessageType::Decline => $this->decline($scope, $packet),
            MessageType::Release => $this->release($scope, $packet),
            MessageType::Inform => $packet->reply(MessageType::Ack, Address::parse('0.0.0.0'), $this->options($scope, $packet, null)),
            default => null,
        };
    }

    /** The scope whose subnet holds the relay, or the client's own address when it renews by itself. */
    private function scopeOf(Packet $packet): ?ServedScope
    {
        foreach ([$packet->relayAddress, $packet->clientAddress] as $address) {
            $scope = (string) $address === '0.0.0.0' ? null : $this->scopeAt($address);
            if ($scope !== null) {
                return $scope;
            }
        }

        return null;
    }

    private function scopeAt(Address $address): ?ServedScope
    {
        return LinkOrder::at($address, array_values($this->scopes), static fn (ServedScope $s): Prefix => $s->subnet);
    }

    /** The scope that a client is served from: on a link with several subnets not always that of the relay. */
    private function servedFrom(Packet $packet): ?ServedScope
    {
        $own = $this->scopeOf($packet);
        if ($own === null || $own->link === '') {
            return $own;
        }
        $others = array_filter($this->scopes, static fn (ServedScope $s): bool => $s->link === $own->link && $s->id !== $own->id);
        usort($others, static fn (ServedScope $a, ServedScope $b): int => $a->subnet->compare($b->subnet));
        $link = [$own, ...$others];
        $subnet = static fn (ServedScope $s): Prefix => $s->subnet;
        $wanted = $packet->address(OptionTable::REQUESTED_ADDRESS);
        if ($packet->type() !== MessageType::Discover) {
            return LinkOrder::at($wanted ?? $packet->clientAddress, $link, $subnet) ?? $own;
        }
        $client = bin2hex($packet->clientKey());
        $order = LinkOrder::of(
            $link,
            static fn (ServedScope $s): bool => $s->reservationOf($packet) !== null,
            fn (ServedScope $s): bool => $this->leases->ofClient($client, $s->id) !== null,
            static fn (ServedScope $s): bool => $wanted !== null && $s->subnet->contains($wanted),
        );
        foreach ($order as $scope) {
            if ($this->choose($scope, $packet) !== null) {
                return $scope;
            }
        }

        return $own;
    }

    private function discover(ServedScope $scope, Packet $packet): ?Packet
    {
        $address = $this->choose($scope, $packet);
        if ($address === null) {
            return null;
        }
        $now = ($this->now)();
        $held = $this->leases->at((string) $address);
        if ($held === null || $held['state'] !== 'active' || $held['ends'] <= $now) {
            $this->leases->write(
                (string) $address,
                bin2hex($packet->clientKey()),
                (string) $packet->hardware,
                $this->name($packet),
                'offered',
                $now,
                $now + self::OFFER,
                $scope->id,
            );
        }
        $offered = $this->control->mode === Mode::Wrong ? Address::parse('192.0.2.66') : $address;
        $seconds = $this->pairOf($scope)?->member->most($address, bin2hex($packet->clientKey()), $scope->leaseTime, $now);

        return $packet->reply(MessageType::Offer, $offered, $this->options($scope, $packet, $seconds ?? $scope->leaseTime));
    }

    /** What the client had, asked for, has reserved, or the next free one (RFC 2131 §4.3.1). */
    private function choose(ServedScope $scope, Packet $packet): ?Address
    {
        $client = bin2hex($packet->clientKey());
        $now = ($this->now)();
        $reserved = $scope->reservationOf($packet)['address'] ?? null;
        if ($reserved !== null && $this->leases->isFree((string) $reserved, $client, $now)
            && $this->pairGives($scope, $reserved, $client)) {
            return $reserved;
        }
        $classes = $scope->classesOf($packet);
        $usable = fn (?Address $a): bool => $a !== null
            && $scope->offers($a, $classes)
            && ! $scope->isReservedForOther($a, $packet)
            && $this->leases->isFree((string) $a, $client, $now)
            && $this->pairGives($scope, $a, $client);
        $before = Address::tryParse($this->leases->ofClient($client, $scope->id)['address'] ?? '');
        foreach ([$before, $packet->address(OptionTable::REQUESTED_ADDRESS)] as $wanted) {
            if ($usable($wanted)) {
                return $wanted;
            }
        }
        foreach ($scope->addresses($classes) as $address) {
            if ($usable($address)) {
                return $address;
            }
        }

        return null;
    }

    private function request(ServedScope $scope, Packet $packet): ?Packet
    {
        $client = bin2hex($packet->clientKey());
        $server = $packet->address(OptionTable::SERVER_ID);
        $wanted = $packet->address(OptionTable::REQUESTED_ADDRESS) ?? $packet->clientAddress;
        if ($server !== null && ! $server->equals($this->identifier)) {
            $lease = $this->leases->ofClient($client, $scope->id);
            if ($lease !== null && $lease['state'] === 'offered') {
                $this->leases->write(
                    $lease['address'],
                    $client,
                    $lease['mac'],
                    $lease['name'],
                    'released',
                    $lease['starts'],
                    ($this->now)(),
                    $scope->id,
                );
            }

            return null;
        }
        if (! $scope->subnet->contains($wanted)) {
            return $this->nak($packet, "$wanted is not on this link");
        }
        $mine = $this->leases->ofClient($client, $scope->id);
        $reserved = $scope->reservationOf($packet)['address'] ?? null;
        // What is reserved and still leased to another is that client's until its lease ends.
        $reserved = $reserved !== null && $this->leases->isFree((string) $reserved, $client, ($this->now)()) ? $reserved : null;
        $pair = $this->pairOf($scope);
        $now = ($this->now)();
        if ($pair !== null && $server === null) {
            // It renews. What this server knows may be less than what its partner gave: it says yes or nothing, and never no.
            $own = ($pair->member->binding((string) $wanted)->client ?? '') === $client;

            return $own && $pair->member->mayGive($wanted, $client, $now) ? $this->ack($scope, $packet, $wanted) : null;
        }
        if ($pair !== null && ! $pair->member->mayGive($wanted, $client, $now)) {
            // In its state it may not say yes, and it does not know enough to say no.
            return $mine === null ? $this->nak($packet, "$wanted is not this client's") : null;
        }
        if ($server === null && $mine === null && $reserved === null) {
            // Rebooting or rebinding with an address of another server: RFC 2131 §4.3.2 asks for silence.
            return null;
        }
        $right = $reserved ?? Address::tryParse($mine['address'] ?? '');
        // Nor is it taken from a client that holds a lease there and renews.
        $holds = $pair?->member->holds($wanted, $client, $now)
            ?? ($mine !== null && $mine['state'] === 'active' && $mine['ends'] > $now && $mine['address'] === (string) $wanted);
        $may = $right !== null
            && $right->equals($wanted)
            && (
                $reserved !== null || $holds || $scope->offers($wanted, $scope->classesOf($packet)) && $this->leases
                    ->isFree((string) $wanted, $client, ($this->now)())
            );

        return $may ? $this->ack($scope, $packet, $wanted) : $this->nak($packet, "$wanted is not this client's");
    }

    private function ack(ServedScope $scope, Packet $packet, Address $address): ?Packet
    {
        $now = ($this->now)();
        $client = bin2hex($packet->clientKey());
        $pair = $this->pairOf($scope);
        $about = $pair === null ? '' : (string) json_encode([(string) $packet->hardware, $this->name($packet), $scope->id]);
        $seconds = $pair === null ? $scope->leaseTime : $pair->member->give($address, $client, $scope->leaseTime, $now, $about);
        if ($seconds === null) {
            return null;
        }
        $held = $this->leases->at((string) $address);
        $running = in_array($held['state'] ?? '', ['active', LeaseBook::HELD], true);
        $renews = $held !== null && $held['client'] === $client && $running && $held['ends'] > $now;
        $this->leases->write(
            (string) $address,
            $client,
            (string) $packet->hardware,
            $this->name($packet),
            'active',
            // When the binding began, which a renewal does not change (RFC 6926 §6.2.4).
            $renews ? $held['starts'] : $now,
            $now + $seconds,
            $scope->id,
        );
        $pair?->settle();
        $options = $this->options($scope, $packet, $seconds);
        if ($scope->naming !== null) {
            $options += $this->named($scope->naming, $scope->id, $packet, $address);
        }

        return $packet->reply(MessageType::Ack, $address, $options);
    }

    /** @return array<int, string> what the client is told of its name, when it said something of it (RFC 4702 §4) */
    private function named(NamingRule $rule, string $scope, Packet $packet, Address $address): array
    {
        $fqdn = ClientFqdn::read($packet->options[OptionTable::CLIENT_FQDN] ?? '');
        $said = $fqdn === null || $fqdn->name === '' ? $this->name($packet) : $fqdn->name;
        $name = $fqdn?->none === true
            ? null
            : $this->names->given($scope, $rule, $address, ClientIdentity::of($packet), $said, (string) $packet->hardware);
        $who = $fqdn?->none === true ? LeaseNames::Nobody : $rule->who;

        return $fqdn === null ? [] : [OptionTable::CLIENT_FQDN => $fqdn->answer($who, $name === null ? '' : rtrim((string) $name, '.'))];
    }

    private function nak(Packet $packet, string $why): Packet
    {
        $options = [OptionTable::SERVER_ID => $this->identifier->bytes, OptionTable::MESSAGE => $why];

        return $packet->reply(MessageType::Nak, Address::parse('0.0.0.0'), $options + $this->echoed($packet));
    }

    private function decline(ServedScope $scope, Packet $packet): null
    {
        $address = $packet->address(OptionTable::REQUESTED_ADDRESS);
        $held = $address === null ? null : $this->leases->at((string) $address);
        // Only the client to which it was given can find it in use (RFC 2131 §4.3.3); another's lease is not ended by it.
        if (
            $address !== null
                && $held !== null
                && $held['client'] === bin2hex($packet->clientKey())
                && ($packet->address(OptionTable::SERVER_ID)?->equals($this->identifier) ?? false)
        ) {
            $now = ($this->now)();
            $this->leases->write((string) $address, '', '', '', 'declined', $now, $now + self::DECLINED, $scope->id);
            $pair = $this->pairOf($scope);
            $pair?->member->decline($address, bin2hex($packet->clientKey()), $now + self::DECLINED, $now);
            $pair?->settle();
        }

        return null;
    }

    private function release(ServedScope $scope, Packet $packet): null
    {
        $lease = $this->leases->at((string) $packet->clientAddress);
        if ($lease !== null && $lease['client'] === bin2hex($packet->clientKey())) {
            $this->leases->write(
                $lease['address'],
                $lease['client'],
                $lease['mac'],
                $lease['name'],
                'released',
                $lease['starts'],
                ($this->now)(),
                $scope->id,
            );
            $pair = $this->pairOf($scope);
            $pair?->member->release($packet->clientAddress, $lease['client'], ($this->now)());
            $pair?->settle();
        }

        return null;
    }

    private function pairOf(ServedScope $scope): ?ServedPair
    {
        return $this->pairs[$scope->pair] ?? null;
    }

    /** May the client have the address by what the pair knows? Before both servers have the scope in the pair, only what it has. */
    private function pairGives(ServedScope $scope, Address $address, string $client): bool
    {
        $pair = $this->pairOf($scope);
        $now = ($this->now)();

        return $scope->pair === ''
            || $pair !== null
                && $pair->member->mayGive($address, $client, $now)
                && ($pair->isReady($scope->id) || $pair->member->holds($address, $client, $now));
    }

    /**
     * @param  array<mixed>  $entry
     * @return array<mixed>
     */
    private function changePair(array $entry): array
    {
        $gone = is_string($entry['cut'] ?? null) ? $entry['cut'] : '';
        foreach ($this->scopes as $scope) {
            if ($gone !== '' && $scope->pair === $gone) {
                throw new \DomainException("The scope $scope->id is leased by the pair: without it nobody there would be answered.");
            }
        }
        $this->carryPair($entry);
        $this->paired->append($entry);
        $this->joinPairs();

        return ['pairs' => count($this->pairs)];
    }

    /** @param  array<mixed>  $entry */
    private function carryPair(array $entry): void
    {
        $put = is_array($entry['put'] ?? null) ? $entry['put'] : [];
        $id = is_string($put['id'] ?? null) ? $put['id'] : (is_string($entry['cut'] ?? null) ? $entry['cut'] : '');
        if (preg_match('/^[0-9A-Za-z]{1,40}$/', $id) !== 1) {
            return;
        }
        ($this->pairs[$id] ?? null)?->end();
        unset($this->pairs[$id]);
        if ($put !== []) {
            $this->pairs[$id] = new ServedPair($this->loop, "$this->directory/pair-$id", $put, $this->now, $this->hear(...),
                $this->speaks(...));
        }
    }

    /** Each pair is told which scopes are here, and what was leased in them before. */
    private function joinPairs(bool $again = false): void
    {
        foreach ($this->pairs as $id => $pair) {
            $scopes = array_filter($this->scopes, static fn (ServedScope $s): bool => $s->pair === (string) $id);
            foreach ($scopes as $scope) {
                foreach ($again || ! $pair->knows($scope->id) ? $this->leases->ofScope($scope->id) : [] as $lease) {
                    $runs = $lease['state'] === 'active' && $lease['ends'] > ($this->now)();
                    if ($runs && $pair->member->binding($lease['address']) === null) {
                        $about = (string) json_encode([$lease['mac'], $lease['name'], $scope->id]);
                        $pair->member->learn($lease['address'], $lease['client'], $lease['ends'], ($this->now)(), $about);
                    }
                }
            }
            $pair->has(array_map(strval(...), array_keys($scopes)));
        }
    }

    /** What the partner gave is held here for its client; what ended is free here too. */
    private function hear(Binding $binding): void
    {
        $held = $this->leases->at($binding->address);
        $about = json_decode($binding->about, true);
        $part = static fn (int $i): string => is_array($about) && is_string($about[$i] ?? null) ? $about[$i] : '';
        $runs = $held !== null && in_array($held['state'], ['active', LeaseBook::HELD], true);
        if ($binding->state === BindingState::Active) {
            if ($held === null || ! $runs || $held['client'] !== $binding->client || $held['ends'] < $binding->ends) {
                $starts = $runs && $held['client'] === $binding->client ? $held['starts'] : ($this->now)();
                $this->leases->write(
                    $binding->address,
                    $binding->client,
                    $part(0),
                    $part(1),
                    LeaseBook::HELD,
                    $starts,
                    $binding->ends,
                    $part(2),
                );
            }
        } elseif ($held !== null && $runs && $held['client'] !== $binding->client) {
            $now = ($this->now)();
            $ends = min($held['ends'], $now);
            $this->leases->write(
                $binding->address,
                $held['client'],
                $held['mac'],
                $held['name'],
                'released',
                $held['starts'],
                $ends,
                $held['scope'],
            );
        }
    }

    private function speaks(): bool
    {
        return $this->control->mode !== Mode::Silent;
    }

    /** @return array<mixed> */
    private function partnerDown(string $id): array
    {
        $pair = $this->pairs[$id] ?? throw new \DomainException('This pair is not here.');
        $pair->member->partnerDown(($this->now)());
        $pair->settle();

        return ['state' => $pair->status()];
    }

    /** @return array<int, string> in the order the client asked for, what every reply needs in front */
    private function options(ServedScope $scope, Packet $packet, ?int $seconds): array
    {
        $all = $scope->optionsFor($packet, $scope->classesOf($packet));
        $options = [OptionTable::SERVER_ID => $this->identifier->bytes];
        if ($seconds !== null) {
            $options += [
                OptionTable::LEASE_TIME => pack('N', $seconds),
                OptionTable::RENEWAL => pack('N', intdiv($seconds, 2)),
                OptionTable::REBINDING => pack('N', intdiv($seconds * 7, 8)),
            ];
        }
        $asked = $packet->options[OptionTable::PARAMETERS] ?? null;
        foreach ($asked === null || $asked === '' ? array_keys($all) : array_map(ord(...), str_split($asked)) as $code) {
            if (isset($all[$code])) {
                $options[$code] = $all[$code];
            }
        }

        return $options + [OptionTable::MASK => $all[OptionTable::MASK]] + $this->echoed($packet);
    }

    /** @return array<int, string> what is sent back as it came: client identifier (RFC 6842), relay agent information (RFC 3046) */
    private function echoed(Packet $packet): array
    {
        return array_intersect_key($packet->options, [OptionTable::CLIENT_ID => 1, OptionTable::RELAY_AGENT => 1]);
    }

    private function name(Packet $packet): string
    {
        return substr((string) preg_replace('/[^A-Za-z0-9.-]/', '', $packet->options[OptionTable::HOST_NAME] ?? ''), 0, 63);
    }

    /**
     * @param  array<mixed>  $entry
     * @return array<mixed>
     */
    private function change(array $entry): array
    {
        $put = is_array($entry['put'] ?? null) ? $entry['put'] : [];
        if (($put['family'] ?? 4) === 6 || is_string($entry['cut'] ?? null)) {
            $this->six->change($entry);
        }
        if (($put['family'] ?? 4) === 6) {
            return ['scopes' => count($this->six->scopes())];
        }
        $before = $this->scopes[is_string($put['id'] ?? null) ? $put['id'] : (is_string($entry['cut'] ?? null) ? $entry['cut'] : '')]
            ?? null;
        $pair = $before === null || $before->pair === ($put['pair'] ?? '') ? null : $this->pairOf($before);
        if ($pair !== null && ! $pair->mayLeave()) {
            throw new \DomainException(
                'The scope cannot leave its pair now: this server does not hear its partner, which may be leasing the same addresses. '
                    .'Let it hear its partner again, or say that the partner is off.',
            );
        }
        $this->carry($entry);
        $this->journal->append($entry);
        $this->joinPairs();

        return ['scopes' => count($this->scopes)];
    }

    /** @param  array<mixed>  $entry */
    private function carry(array $entry): void
    {
        if (is_array($entry['put'] ?? null)) {
            $scope = ServedScope::fromForm($entry['put']);
            $this->scopes[$scope->id] = $scope;
        } elseif (is_string($entry['cut'] ?? null)) {
            unset($this->scopes[$entry['cut']]);
        }
    }

    /**
     * Leases that exist already, of a scenario or from before the server was rebuilt: {leases: [{address, mac, name, starts, ends,
     * scope}]}.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function grant(array $message): array
    {
        $count = 0;
        $kept = [];
        $now = ($this->now)();
        foreach (is_array($message['leases'] ?? null) ? $message['leases'] : [] as $one) {
            $linked = is_array($one) ? $this->six->grant($one) : null;
            if ($linked !== null && is_array($one)) {
                $count += $linked ? 1 : 0;
                $kept = $linked ? $kept : [...$kept, $one['address']];

                continue;
            }
            if (is_array($one) && is_string($one['address'] ?? null) && is_string($one['mac'] ?? null)) {
                $mac = str_replace(':', '', $one['mac']);
                $held = $this->leases->at($one['address']);
                // What another client has by now stays that client's.
                if ($held !== null && $held['client'] !== "01$mac" && $held['ends'] > $now && $held['state'] !== 'released') {
                    $kept[] = $one['address'];

                    continue;
                }
                $this->leases->write(
                    $one['address'],
                    "01$mac",
                    $one['mac'],
                    is_string($one['name'] ?? null) ? $one['name'] : '',
                    'active',
                    is_int($one['starts'] ?? null) ? $one['starts'] : 0,
                    is_int($one['ends'] ?? null) ? $one['ends'] : 0,
                    is_string($one['scope'] ?? null) ? $one['scope'] : '',
                );
                $count++;
            }
        }

        $this->joinPairs(again: true);

        return ['granted' => $count, 'kept' => $kept];
    }

    /**
     * Ends leases: {leases: [{address, mac}]}. One that another client has by now is left alone, and said.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function end(array $message): array
    {
        $ended = $kept = [];
        foreach (is_array($message['leases'] ?? null) ? $message['leases'] : [] as $one) {
            $address = is_array($one) && is_string($one['address'] ?? null) ? $one['address'] : '';
            $linked = is_array($one) ? $this->six->end($one) : null;
            if ($linked !== null) {
                $linked ? $ended[] = $address : $kept[] = $address;

                continue;
            }
            $held = $this->leases->at($address);
            if ($held === null || $held['state'] !== 'active' || $held['mac'] !== ($one['mac'] ?? '')) {
                $kept[] = $address;

                continue;
            }
            $now = ($this->now)();
            $this->leases->write($address, $held['client'], $held['mac'], $held['name'], 'released', $held['starts'], $now, $held['scope']);
            $pair = $this->pairs[$this->scopes[$held['scope']]->pair ?? ''] ?? null;
            $at = Address::tryParse($address);
            if ($pair !== null && $at !== null) {
                $pair->member->release($at, $held['client'], $now);
                $pair->settle();
            }
            $ended[] = $address;
        }

        return ['ended' => $ended, 'kept' => $kept];
    }
}
