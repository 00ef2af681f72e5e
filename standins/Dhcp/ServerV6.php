<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Names\ClientFqdn;
use HarborPost\Core\Dhcp\Names\ClientIdentity;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Exchange\V6\Grant;
use HarborPost\Core\Exchange\V6\Responder;
use HarborPost\Core\Exchange\V6\Terms;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Mode;

/**
 * The DHCPv6 half of a server on loopback (RFC 8415). Clients are heard through relays alone: a relayed message begins with a byte that no
 * DHCPv4 packet begins with, so that both come to one port.
 */
final class ServerV6
{
    /** Where an address points that is wrong on purpose. */
    private const WRONG = '2001:db8:bad::1-2001:db8:bad::ff';

    public readonly BookV6 $leases;

    /** @var array<string, ScopeV6> */
    private array $scopes = [];

    private readonly Duid $self;

    private readonly Journal $journal;

    /** @param  \Closure(): int  $now */
    public function __construct(
        string $directory,
        Address $identifier,
        private readonly \Closure $now,
        private readonly NameKeeper $names,
        ChangeOrder $changes,
    ) {
        $this->self = Duid::ofName("server $identifier");
        $this->leases = new BookV6(new Journal("$directory/leases6.jsonl"), $changes);
        $this->journal = new Journal("$directory/scopes6.jsonl");
        foreach ($this->journal->entries() as $entry) {
            $this->carry($entry);
        }
        $this->journal->rewrite(array_map(static fn (ScopeV6 $s): array => ['put' => $s->source], array_values($this->scopes)));
    }

    /** @param  \Closure(): Mode  $mode */
    public function teller(\Closure $mode): LeaseTellerV6
    {
        return new LeaseTellerV6(
            $this->leases, $this->self, $this->now, $mode,
            fn (Address $link): ?string => $this->scopeOf($link)?->id,
            fn (string $scope): ?Address => ($this->scopes[$scope] ?? null)?->terms->link->first,
        );
    }

    public static function isFor(string $packet): bool
    {
        return str_starts_with($packet, "\x0c");
    }

    /** @return list<array<mixed>> the forms of all scopes */
    public function scopes(): array
    {
        return array_map(static fn (ScopeV6 $s): array => $s->source, array_values($this->scopes));
    }

    /** @param  array<mixed>  $entry  {put: form} of family 6, or {cut: id} */
    public function change(array $entry): void
    {
        $this->carry($entry);
        $this->journal->append($entry);
    }

    public function naming(string $scope): ?NamingRule
    {
        return ($this->scopes[$scope] ?? null)?->naming;
    }

    /** Does a lease run at the address? */
    public function runs(Address $address): bool
    {
        $lease = $this->leases->at($address->in(128));

        return $lease !== null && $lease['state'] === 'active' && $lease['ends'] > ($this->now)();
    }

    /** @throws MalformedBytes */
    public function take(string $packet, Mode $mode): ?string
    {
        $relayed = Relayed::fromWire($packet);
        $scope = $this->scopeOf($relayed->link());
        if ($scope === null || $relayed->reply) {
            return null;
        }
        $answer = (new Responder($this->self, self::terms($scope, $mode), $this->leases, ($this->now)()))->answer($relayed->message);
        if ($answer->message === null) {
            return null;
        }
        $fqdn = ClientFqdn::readV6((string) $relayed->message->options->first(Code::CLIENT_FQDN));
        $said = substr((string) preg_replace('/[^A-Za-z0-9.-]/', '', $fqdn->name ?? ''), 0, 63);
        $name = null;
        foreach ($answer->grants as $grant) {
            $this->write($grant, $scope, $said);
            if ($scope->naming !== null && $grant->state === 'active' && $grant->net->length === 128) {
                $identity = ClientIdentity::ofDuid($grant->client->bytes);
                $name = $this->names->given($scope->id, $scope->naming, $grant->net->first, $identity, $said,
                    (string) $grant->client->mac());
            }
        }
        $message = $answer->message;
        if ($fqdn !== null && $scope->naming !== null && $message->type === MessageType::Reply && $answer->grants !== []) {
            $told = $fqdn->answerV6($scope->naming->who, $name === null ? '' : rtrim((string) $name, '.'));
            $message = new Message($message->type, $message->transaction, $message->options->with(Code::CLIENT_FQDN, $told));
        }

        return $relayed->answered($message)->wire();
    }

    /**
     * Leases that exist already: {leases: [{address, length, client, iaid, name, starts, ends, scope}]}.
     *
     * @param  array<mixed>  $one
     * @return bool|null null when it is none of IPv6; false when another client has it by now
     */
    public function grant(array $one): ?bool
    {
        $net = self::net($one);
        $client = is_string($one['client'] ?? null) ? Duid::tryParse($one['client']) : null;
        if ($net === null || $client === null) {
            return null;
        }
        $iaid = is_int($one['iaid'] ?? null) ? $one['iaid'] : 1;
        $kind = $net->length === 128 ? AssociationKind::Address : AssociationKind::Prefix;
        $key = (new Association($kind, $iaid))->key($client);
        $holder = $this->leases->holder($net, ($this->now)());
        if ($holder !== null && $holder !== $key) {
            return false;
        }
        $number = static fn (string $key): int => is_int($one[$key] ?? null) ? $one[$key] : 0;
        $this->leases->write([
            'address' => (string) $net->first, 'length' => $net->length, 'key' => $key, 'client' => (string) $client, 'iaid' => $iaid,
            'name' => is_string($one['name'] ?? null) ? $one['name'] : '', 'state' => 'active', 'starts' => $number('starts'),
            'ends' => $number('ends'), 'preferred' => $number('preferred') ?: $number('ends'),
            'scope' => is_string($one['scope'] ?? null) ? $one['scope'] : '',
        ]);

        return true;
    }

    /**
     * @param  array<mixed>  $one  {address, length, client}
     * @return bool|null null when it is none of IPv6; false when it is not this client's
     */
    public function end(array $one): ?bool
    {
        $net = self::net($one);
        if ($net === null) {
            return null;
        }
        $held = $this->leases->at($net);
        if ($held === null || $held['state'] !== 'active' || $held['client'] !== ($one['client'] ?? '')) {
            return false;
        }
        $this->leases->write(['state' => 'released', 'ends' => ($this->now)()] + $held);

        return true;
    }

    /** @param  array<mixed>  $one */
    private static function net(array $one): ?Prefix
    {
        $address = is_string($one['address'] ?? null) ? Address::tryParse($one['address']) : null;
        $length = is_int($one['length'] ?? null) ? $one['length'] : 128;

        return $address === null || $address->family->value !== 6 || $length < 1 || $length > 128 ? null : $address->in($length);
    }

    private function write(Grant $grant, ScopeV6 $scope, string $name): void
    {
        $now = ($this->now)();
        $held = $this->leases->at($grant->net);
        $own = $held !== null && $held['key'] === $grant->key && $held['state'] === 'active' && $held['ends'] > $now;
        $until = static fn (int $seconds): int => $seconds === 0xFFFFFFFF ? 253402300799 : $now + $seconds;
        $this->leases->write([
            'address' => (string) $grant->net->first, 'length' => $grant->net->length, 'key' => $grant->key,
            'client' => (string) $grant->client, 'iaid' => $grant->iaid, 'name' => $name !== '' || ! $own ? $name : $held['name'],
            'state' => $grant->state, 'starts' => $own ? $held['starts'] : $now, 'ends' => $until($grant->valid),
            'preferred' => $until($grant->preferred), 'scope' => $scope->id,
        ]);
    }

    private function scopeOf(?Address $link): ?ScopeV6
    {
        foreach ($this->scopes as $scope) {
            if ($link !== null && $scope->terms->link->contains($link)) {
                return $scope;
            }
        }

        return null;
    }

    /** What it leases when it is told to refuse or to be wrong. */
    private static function terms(ScopeV6 $scope, Mode $mode): Terms
    {
        $t = $scope->terms;

        return match ($mode) {
            Mode::Refusing => new Terms($t->link, [], [], [], [], $t->options, $t->preferred, $t->valid, $t->rapid),
            Mode::Wrong => new Terms($t->link, [AddressRange::parse(self::WRONG)], [], [], [], $t->options, $t->preferred, $t->valid,
                $t->rapid),
            default => $t,
        };
    }

    /** @param  array<mixed>  $entry */
    private function carry(array $entry): void
    {
        if (is_array($entry['put'] ?? null)) {
            $scope = ScopeV6::fromForm($entry['put']);
            $this->scopes[$scope->id] = $scope;
        } elseif (is_string($entry['cut'] ?? null)) {
            unset($this->scopes[$entry['cut']]);
        }
    }
}
