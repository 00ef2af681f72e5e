<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;
use App\Models\ServerKind;

/** The one place that knows which link a server has. */
final class Links
{
    public static function to(Server $server): Link
    {
        $patience = (float) config('harbor.patience');
        $channel = new ControlChannel($server, $patience);

        return match ($server->kind) {
            ServerKind::Dhcp => new StandinDhcpLink(
                $server,
                $channel,
                new DhcpClient($server->name, $server->endpoint, $patience),
                new RelayedClient($server->name, $server->endpoint, $patience),
            ),
            ServerKind::Network => new SwitchLink(NetworkLink::to($server)),
            default => new StandinDnsLink($server, $channel, new DnsClient($server->name, $server->endpoint, $patience)),
        };
    }
}
