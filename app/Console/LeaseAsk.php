<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Datagram;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQueryV6;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;

final class LeaseAsk extends Computes
{
    protected $signature = 'lease:ask {server : name of a DHCP server}
        {what : an address, a MAC, a client identifier in hexadecimal, or a DUID with colons}
        {--relay=127.0.0.1 : the address the answer goes to} {--json}';

    protected $description = 'Asks a server itself about one lease, by a packet (RFC 4388, RFC 5007); exit status 1 when nobody has it';

    public function handle(): int
    {
        $server = Server::query()->where('kind', ServerKind::Dhcp)->where('name', $this->word('server'))->first();
        $what = self::meant($this->word('what'));
        $relay = Address::tryParse($this->word('relay'));
        if ($server === null || $what === null || $relay?->family !== Family::V4) {
            return $this->unusable(match (true) {
                $server === null => "no DHCP server is called {$this->word('server')}",
                $what === null => "\"{$this->word('what')}\" is no address, no MAC, no client identifier in hexadecimal and no DUID",
                default => 'the relay is an IPv4 address',
            });
        }
        try {
            return $what instanceof Duid || $what instanceof Address && $what->family === Family::V6
                ? $this->six($server, $what) : $this->four($server, $what, $relay);
        } catch (Unanswered $e) {
            return $this->unusable($e->getMessage());
        }
    }

    private function four(Server $server, Address|MacAddress|string $what, Address $relay): int
    {
        $question = LeaseQuery::of(random_int(1, 0xFFFFFFFF), $what, $relay);
        [$answer] = (new Datagram($server->name, $server->endpoint, (float) config('harbor.patience')))->ask(
            $question->wire(),
            static fn (string $bytes): ?LeaseQuery => ($read = LeaseQuery::fromWire($bytes))->xid === $question->xid ? $read : null,
        );
        $lease = $answer->lease(time());
        $this->tell($server, match ($answer->type) {
            MessageType::LeaseActive => 'leased',
            MessageType::LeaseUnassigned => 'served from there, and leased to nobody',
            default => 'not known there',
        }, $lease === null ? [] : [$lease]);

        return $answer->type === MessageType::LeaseActive ? 0 : 1;
    }

    private function six(Server $server, Address|Duid $what): int
    {
        $self = Duid::ofName('harbor post');
        $transaction = random_int(1, 0xFFFFFF);
        $question = $what instanceof Duid ? LeaseQueryV6::ofClient($transaction, $self, $what)
            : LeaseQueryV6::ofAddress($transaction, $self, $what);
        [$answer] = (new Datagram($server->name, $server->endpoint, (float) config('harbor.patience')))->ask(
            $question->wire(),
            static fn (string $bytes): ?Message => ($read = Message::fromWire($bytes))->transaction === $transaction ? $read : null,
        );
        $status = StatusCode::of($answer->options->first(Code::STATUS)) ?? StatusCode::Success;
        $leases = LeaseQueryV6::told($answer, time());
        $links = array_map(
            static fn (string $bytes): string => (string) Address::fromBytes($bytes),
            array_filter(
                str_split((string) $answer->options->first(LeaseQueryV6::CLIENT_LINKS), 16),
                static fn (string $b): bool => strlen($b) === 16,
            ),
        );
        $this->tell($server, match (true) {
            $status !== StatusCode::Success => "it answers $status->name",
            $links !== [] => 'leased on more than one link: '.implode(', ', $links),
            $leases !== [] => 'leased',
            default => 'leased to nobody there',
        }, $leases);

        return $leases !== [] || $links !== [] ? 0 : 1;
    }

    /** @param  list<array{address: string, starts: int, ends: int, ...}>  $leases */
    private function tell(Server $server, string $says, array $leases): void
    {
        foreach ($leases === [] ? [null] : $leases as $lease) {
            $words = ['server' => $server->name, 'says' => $says] + ($lease === null ? []
                : array_diff_key($lease, ['starts' => 0, 'ends' => 0, 'preferred' => 0, 'length' => 0])
                + (($lease['length'] ?? 128) === 128 ? [] : ['length' => $lease['length']])
                + ['since' => gmdate('c', $lease['starts']), 'until' => gmdate('c', $lease['ends'])]);
            $this->option('json') ? $this->json($words) : $this->say(implode("\t", $words));
        }
    }

    private function word(string $name): string
    {
        $word = $this->hasArgument($name) ? $this->argument($name) : $this->option($name);

        return is_string($word) ? trim($word) : '';
    }

    private static function meant(string $text): Address|MacAddress|Duid|string|null
    {
        $address = Address::tryParse($text);
        $hex = preg_match('/\A(?:[0-9a-f]{2}){2,255}\z/i', $text) === 1;

        return match (true) {
            $address !== null => $address,
            substr_count($text, ':') > 5 => Duid::tryParse($text),
            ! $hex || strlen($text) === 12 => MacAddress::tryParse($text),
            default => (string) hex2bin($text),
        };
    }
}
