<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\DhcpClient;
use App\Links\Unanswered;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;

/**
 * A whole exchange by real packets through a relay address: DISCOVER, OFFER, REQUEST, ACK, and a RELEASE so that nothing is
 * left behind. All of it is bounded by one patience.
 */
final class Exchange
{
    /** @var list<array{from: string, to: string, type: string, text: string, packet: ?Packet, bytes: string, at: float}> */
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

    private function talk(Scope $scope, Server $server, ClientSketch $sketch): void
    {
        $relay = $scope->prefix->gateway ?? $scope->prefix->prefix()->usable()->first;
        $xid = random_int(1, 0xFFFFFFFF);
        $client = $sketch->mac;
        $common = $sketch->common();
        $discover = $sketch->discover($xid, $relay);
        $this->note(
            'client',
            $server->name,
            $discover,
            $discover->wire(),
            $sketch->asked === [] ? 'asks for nothing by name' : 'asks '.implode(', ', $sketch->asked),
        );
        [$offer, $bytes] = $this->client($server)->exchange($discover);
        $this->note($server->name, 'client', $offer, $bytes, "$offer->yourAddress");
        $request = Packet::fromClient(
            MessageType::Request,
            $xid,
            $client,
            [
                OptionTable::REQUESTED_ADDRESS => $offer->yourAddress->bytes,
                OptionTable::SERVER_ID => $offer->options[OptionTable::SERVER_ID] ?? '',
            ] + $common,
            $relay,
        );
        $this->note('client', $server->name, $request, $request->wire(), "$offer->yourAddress");
        [$ack, $bytes] = $this->client($server)->exchange($request);
        $this->note(
            $server->name,
            'client',
            $ack,
            $bytes,
            $ack->type() === MessageType::Ack
                ? "$ack->yourAddress"
                : OptionTable::meaning(OptionTable::MESSAGE, $ack->options[OptionTable::MESSAGE] ?? ' '),
        );
        if ($ack->type() === MessageType::Ack) {
            $release = Packet::fromClient(
                MessageType::Release,
                $xid,
                $client,
                [
                    OptionTable::SERVER_ID => $ack->options[OptionTable::SERVER_ID] ?? '',
                    OptionTable::CLIENT_ID => $common[OptionTable::CLIENT_ID],
                ],
                null,
                $ack->yourAddress,
            );
            $this->client($server)->tell($release);
            $this->note('client', $server->name, $release, $release->wire(), "$ack->yourAddress given back");
        }
    }

    private function client(Server $server): DhcpClient
    {
        return new DhcpClient(
            $server->name,
            $server->endpoint,
            max(0.1, (float) config('harbor.patience') - (microtime(true) - $this->start)),
        );
    }

    private function note(string $from, string $to, Packet $packet, string $bytes, string $text): void
    {
        $this->steps[] = [
            'from' => $from, 'to' => $to, 'type' => $packet->type()?->label() ?? '?', 'text' => $text, 'packet' => $packet,
            'bytes' => $bytes, 'at' => (microtime(true) - $this->start) * 1000,
        ];
    }
}
