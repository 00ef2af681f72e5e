<?php

declare(strict_types=1);

namespace App\Links;

use App\Links\Names\DnsClient;
use App\Links\Names\HereLink;
use App\Links\Names\NameLink;
use App\Links\Names\OwnKey;
use App\Links\Names\StandardDnsLink;
use App\Links\Names\StandinDnsLink;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Speaks;

/** The one place that knows which link a server has. */
final class Links
{
    /** @param  bool  $glance  a page waits for it: it is asked once, and not waited for for long */
    public static function to(Server $server, bool $glance = false): Link
    {
        $patience = self::patience($glance);
        $channel = new ControlChannel($server, $patience, $glance ? 1 : 3);

        return match ($server->kind) {
            ServerKind::Dhcp => new LeaseLink(
                $server,
                $channel,
                new DhcpClient($server->name, $server->endpoint, $patience),
                new RelayedClient($server->name, $server->endpoint, $patience),
            ),
            ServerKind::Network => new SwitchLink(NetworkLink::to($server, $patience)),
            default => self::names($server, $channel, $patience),
        };
    }

    public static function patience(bool $glance = false): float
    {
        return (float) config($glance ? 'harbor.glance' : 'harbor.patience');
    }

    private static function names(Server $server, ControlChannel $channel, float $patience): NameLink
    {
        $dns = new DnsClient($server->name, $server->endpoint, $patience);

        return match ($server->speaks) {
            Speaks::Standard => new StandardDnsLink($server, $server->key === null ? $dns : $dns->signing($server->key->tsig())),
            Speaks::Here => new HereLink($server, $dns->signing(OwnKey::tsig())),
            Speaks::Control => new StandinDnsLink($server, $channel, $dns),
        };
    }
}
