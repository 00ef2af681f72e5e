<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Queries\OwnOptions;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;

/**
 * A scope of IPv6 proved by packets through its relay address: the options by an INFORMATION-REQUEST, addresses and prefixes by leases that
 * are taken and given back.
 */
final readonly class ScopeProofV6
{
    /** From where a client's own messages come: its link-local address. */
    private const PEER = 'fe80::200:5eff:fe00:53fe';

    public function __construct(private Server $server, private RelayedClient $relayed)
    {
    }

    /**
     * @return string what was asked and answered, for people
     *
     * @throws Unanswered
     */
    public function of(Scope $scope): string
    {
        $relay = $scope->prefix->gateway ?? $scope->prefix->prefix()->usable()->first;
        $meant = array_diff_key(ScopeForm::payloads($scope, $this->server), [Code::PREFERENCE => 1]);
        $answer = $this->ask($relay, MessageType::InformationRequest, Duid::ofName('proof'), []);
        foreach ($meant as $code => $payload) {
            $has = $answer->options->first($code);
            if ($has !== $payload) {
                throw Unanswered::differs(
                    $this->server->name,
                    "option $code of $scope->name is meant to be ".OwnOptions::now()->meaning($code, $payload, Family::V6)
                        .', it answers '.($has === null ? 'nothing' : OwnOptions::now()->meaning($code, $has, Family::V6)),
                );
            }
        }
        $own = fn (ScopeRange|ScopeDelegation $r): bool => $r->server_id === null || $r->server_id === $this->server->id;
        $words = ["INFORMATION-REQUEST through $relay answered, ".count($meant).' options right'];
        $ranges = $scope->ranges->filter($own);
        $words[] = $ranges->isEmpty() ? 'no range, so no address is offered' : $this->lease(
            $scope,
            $relay,
            AssociationKind::Address,
            static fn (Prefix $net): bool => $ranges->contains(static fn (ScopeRange $r): bool => $r->range()->contains($net->first))
                && ! $scope->exclusions->contains(static fn ($x): bool => $x->range()->contains($net->first)),
        );
        $pools = $scope->delegations->filter($own);
        if ($pools->isNotEmpty()) {
            $words[] = $this->lease(
                $scope,
                $relay,
                AssociationKind::Prefix,
                static fn (Prefix $net): bool => $pools->contains(static fn (ScopeDelegation $d): bool => $d->delegation()->holds($net)),
            );
        }

        return implode('; ', $words);
    }

    /** @param  \Closure(Prefix): bool  $isOwn */
    private function lease(Scope $scope, Address $relay, AssociationKind $kind, \Closure $isOwn): string
    {
        $client = Duid::ofName(random_bytes(16));
        $number = random_int(1, 0x7FFFFFFF);
        $offer = $this->ask($relay, MessageType::Solicit, $client, [new Association($kind, $number)]);
        $part = $offer->associations()[0] ?? null;
        if ($part === null || $part->leases === []) {
            return $part?->status === $kind->none()
                ? 'nothing is left of '.($kind === AssociationKind::Prefix ? 'its pools' : 'its ranges')
                : throw Unanswered::differs($this->server->name, "a client of ours got no {$kind->label()} from $scope->name");
        }
        $lease = $part->leases[0];
        if (! $isOwn($lease->net)) {
            throw Unanswered::differs($this->server->name, "it offered {$lease->words()}, which is outside its share of $scope->name");
        }
        if ($lease->valid !== $scope->lease_time || $lease->preferred !== $scope->preferred()) {
            throw Unanswered::differs($this->server->name, "it offers a lease of other times than $scope->name has");
        }
        $wish = [new Association($kind, $number, [new Leased($lease->net)])];
        $server = (string) $offer->options->first(Code::SERVER_ID);
        $reply = $this->ask($relay, MessageType::Request, $client, $wish, $server);
        if (($reply->associations()[0]->leases[0] ?? null)?->net->equals($lease->net) !== true) {
            throw Unanswered::differs($this->server->name, "it offered {$lease->words()} and did not give it");
        }
        $back = $this->ask($relay, MessageType::Release, $client, $wish, $server);
        if (StatusCode::of($back->options->first(Code::STATUS)) !== StatusCode::Success || $back->associations() !== []) {
            throw Unanswered::differs($this->server->name, "it did not take {$lease->words()} back");
        }

        return "{$lease->words()} offered, taken and given back";
    }

    /** @param  list<Association>  $wishes */
    private function ask(Address $relay, MessageType $type, Duid $client, array $wishes, ?string $server = null): Message
    {
        $options = [[Code::CLIENT_ID, $client->bytes], ...$server === null ? [] : [[Code::SERVER_ID, $server]]];
        foreach ($wishes as $wish) {
            $options[] = [$wish->kind->value, $wish->wire()];
        }
        $message = new Message($type, random_int(1, 0xFFFFFF), new OptionList($options));

        return $this->relayed->exchange(Relayed::through($relay, Address::parse(self::PEER), $message))[0];
    }
}
