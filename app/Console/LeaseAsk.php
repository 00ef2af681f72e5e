<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Datagram;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;

final class LeaseAsk extends Computes
{
    protected $signature = 'lease:ask {server : name of a DHCP server}
        {what : an IPv4 address, a MAC, or a client identifier in hexadecimal}
        {--relay=127.0.0.1 : the address the answer goes to} {--json}';

    protected $description = 'Asks a server itself about one lease, by a packet (leasequery, RFC 4388); exit status 1 when nobody has it';

    public function handle(): int
    {
        $server = Server::query()->where('kind', ServerKind::Dhcp)->where('name', $this->word('server'))->first();
        $what = self::meant($this->word('what'));
        $relay = Address::tryParse($this->word('relay'));
        if ($server === null || $what === null || $relay?->family !== Family::V4) {
            return $this->unusable(match (true) {
                $server === null => "no DHCP server is called {$this->word('server')}",
                $what === null => "\"{$this->word('what')}\" is no IPv4 address, no MAC and no client identifier in hexadecimal",
                default => 'the relay is an IPv4 address',
            });
        }
        $question = LeaseQuery::of(random_int(1, 0xFFFFFFFF), $what, $relay);
        try {
            [$answer] = (new Datagram($server->name, $server->endpoint, (float) config('harbor.patience')))->ask(
                $question->wire(),
                static fn (string $bytes): ?LeaseQuery => ($read = LeaseQuery::fromWire($bytes))->xid === $question->xid ? $read : null,
            );
        } catch (Unanswered $e) {
            return $this->unusable($e->getMessage());
        }
        $lease = $answer->lease(time());
        $words = ['server' => $server->name, 'says' => match ($answer->type) {
            MessageType::LeaseActive => 'leased',
            MessageType::LeaseUnassigned => 'served from there, and leased to nobody',
            default => 'not known there',
        }];
        if ($lease !== null) {
            $words += array_diff_key($lease, ['starts' => 0, 'ends' => 0])
                + ['since' => gmdate('c', $lease['starts']), 'until' => gmdate('c', $lease['ends'])];
        }
        $this->option('json') ? $this->json($words) : $this->say(implode("\t", $words));

        return $answer->type === MessageType::LeaseActive ? 0 : 1;
    }

    private function word(string $name): string
    {
        $word = $this->hasArgument($name) ? $this->argument($name) : $this->option($name);

        return is_string($word) ? trim($word) : '';
    }

    private static function meant(string $text): Address|MacAddress|string|null
    {
        $address = Address::tryParse($text);
        $hex = preg_match('/\A(?:[0-9a-f]{2}){2,255}\z/i', $text) === 1;

        return match (true) {
            $address !== null => $address->family === Family::V4 ? $address : null,
            ! $hex || strlen($text) === 12 => MacAddress::tryParse($text),
            default => (string) hex2bin($text),
        };
    }
}
