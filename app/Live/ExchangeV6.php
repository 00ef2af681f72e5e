<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\RelayedClient;
use App\Links\Unanswered;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\OwnOptions;
use App\Queries\ServedClientV6;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\ClientSketch;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * A whole exchange of DHCPv6 by real packets through a relay: SOLICIT, ADVERTISE, REQUEST, REPLY, or two messages with rapid commit, or
 * options alone; and a RELEASE so that nothing is left behind.
 */
final class ExchangeV6
{
    /** From where a client's own messages come: a link-local address. */
    private const PEER = 'fe80::200:5eff:fe00:53fd';

    /** @var list<array{from: string, to: string, type: string, text: string, message: Message, bytes: string, at: float}> */
    public array $steps = [];

    public ?string $problem = null;

    private float $start = 0.0;

    public static function run(Scope $scope, Server $server, ClientSketch $client): self
    {
        $exchange = new self;
        $exchange->start = microtime(true);
        try {
            $exchange->talk($scope, $server, $client);
        } catch (Unanswered $e) {
            $exchange->problem = $e->getMessage();
        }

        return $exchange;
    }

    /** The answer that ends the asking: a REPLY that gives, or tells. */
    public function reply(): ?Message
    {
        foreach ($this->steps as $step) {
            if ($step['message']->type === MessageType::Reply) {
                return $step['message'];
            }
        }

        return null;
    }

    /** @return list<string> each difference between what was computed and what packets told */
    public function findings(ServedClientV6 $computed, Server $server): array
    {
        $reply = $this->reply();
        $meant = null;
        foreach ($computed->servers as $one) {
            $meant = $one['server']->id === $server->id ? $one : $meant;
        }
        if ($reply === null || $meant === null) {
            return [];
        }
        $found = $meant['silent'] === null ? [] : ["$server->name answered although {$meant['silent']}"];
        $given = $reply->associations();
        foreach ($meant['parts'] as $i => $part) {
            $has = $given[$i]->leases[0] ?? null;
            $same = $part['choice']->net === null ? $has === null : $has?->net->equals($part['choice']->net) === true;
            if (! $same) {
                $computedWords = $part['choice']->net === null ? 'nothing' : (new Leased($part['choice']->net))->words();
                $found[] = "{$part['wish']->kind->label()}: ".($has?->words() ?? 'nothing')." was given, $computedWords was computed, "
                    .$part['choice']->why;
            }
        }
        $sent = array_diff_key($meant['stack']->payloads(), [Code::PREFERENCE => 1]);
        $asked = $computed->client->asked === [] ? array_keys($sent) : $computed->client->asked;
        foreach ($asked as $code) {
            if ($reply->options->first($code) !== ($sent[$code] ?? null)) {
                $found[] = "option $code, ".OwnOptions::now()->definition($code, Family::V6)->name.', was sent otherwise than computed';
            }
        }

        return $found;
    }

    private function talk(Scope $scope, Server $server, ClientSketch $client): void
    {
        $relay = $scope->prefix->gateway ?? $scope->prefix->prefix()->usable()->first;
        $first = $this->ask($server, $relay, $client->first(random_int(1, 0xFFFFFF)));
        $given = $first;
        $identifier = (string) $first->options->first(Code::SERVER_ID);
        if ($first->type === MessageType::Advertise) {
            $offered = array_values(array_filter($first->associations(), static fn (Association $a): bool => $a->leases !== []));
            if ($offered === []) {
                return;
            }
            $given = $this->ask($server, $relay, $client->message(MessageType::Request, random_int(1, 0xFFFFFF), $offered, $identifier));
        }
        $back = array_values(array_map(
            static fn (Association $a): Association => new Association($a->kind, $a->iaid, array_map(
                static fn (Leased $l): Leased => new Leased($l->net),
                $a->leases,
            )),
            array_filter($given->associations(), static fn (Association $a): bool => $a->leases !== []),
        ));
        if ($back !== []) {
            $this->ask($server, $relay, $client->message(MessageType::Release, random_int(1, 0xFFFFFF), $back, $identifier));
        }
    }

    private function ask(Server $server, Address $relay, Message $message): Message
    {
        $relayed = Relayed::through($relay, Address::parse(self::PEER), $message);
        $this->note('client', $server->name, $message, $relayed->wire());
        $left = max(0.1, (float) config('harbor.patience') - (microtime(true) - $this->start));
        [$answer, $bytes] = (new RelayedClient($server->name, $server->endpoint, $left))->exchange($relayed);
        $this->note($server->name, 'client', $answer, $bytes);

        return $answer;
    }

    private function note(string $from, string $to, Message $message, string $bytes): void
    {
        $this->steps[] = [
            'from' => $from, 'to' => $to, 'type' => $message->type->label(), 'text' => self::words($message), 'message' => $message,
            'bytes' => $bytes, 'at' => (microtime(true) - $this->start) * 1000,
        ];
    }

    private static function words(Message $message): string
    {
        $parts = [];
        foreach ($message->associations() as $one) {
            foreach ($one->leases as $lease) {
                $parts[] = $lease->words();
            }
            $one->status === null ?: $parts[] = "{$one->kind->label()} {$one->status->name}";
        }

        return implode(', ', $parts);
    }
}
