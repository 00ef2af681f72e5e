<?php

declare(strict_types=1);

/*
 * Starts one stand-in: run.php SETTINGS.json NAME
 *
 * SETTINGS: { NAME: {"kind": "dns"|"resolver"|"dhcp"|"network"|"controller"|"mailbox"|"provider", "port": n, "control": n, "token": "...",
 * "directory": "...",
 *             "forward": port of the server a resolver asks until it is told otherwise, "identifier": address of the server in the plan} }
 */

use HarborPost\Core\Net\Address;
use HarborPost\Standins\Dhcp\DhcpServer;
use HarborPost\Standins\Dhcp\Probe;
use HarborPost\Standins\Dns\DnsServer;
use HarborPost\Standins\Mailbox\Mailbox;
use HarborPost\Standins\Network\Network;
use HarborPost\Standins\Outside\Controller;
use HarborPost\Standins\Outside\Provider;
use React\EventLoop\Loop;

require __DIR__.'/../vendor/autoload.php';
ini_set('memory_limit', '1G');

$settings = json_decode((string) file_get_contents($argv[1] ?? ''), true);
$own = is_array($settings) ? ($settings[$argv[2] ?? ''] ?? null) : null;
if (! is_array($own)) {
    fwrite(STDERR, "usage: run.php SETTINGS.json NAME\n");
    exit(2);
}
is_dir($own['directory']) || mkdir($own['directory'], 0700, true);
$loop = Loop::get();
$now = static fn (): int => time();
$network = array_values(array_filter($settings, static fn (array $one): bool => $one['kind'] === 'network'))[0] ?? null;
$probe = $network === null ? null : new Probe($loop, $network['control'], $network['token']);
$server = match ($own['kind']) {
    'dhcp' => new DhcpServer(
        $loop,
        $own['port'],
        $own['control'],
        $own['token'],
        $own['directory'],
        Address::parse($own['identifier']),
        $now,
        $probe,
    ),
    'controller' => new Controller($loop, $own['port'], $own['control'], $own['token'], $own['directory']),
    'provider' => new Provider($loop, $own['port'], $own['control'], $own['token'], $own['directory']),
    'mailbox' => new Mailbox($loop, $own['port'], $own['control'], $own['token'], $own['directory']),
    'network' => new Network($loop, $own['control'], $own['token'], $own['directory'], $now),
    default => new DnsServer(
        $loop,
        $own['port'],
        $own['control'],
        $own['token'],
        $own['directory'],
        Address::parse($own['identifier']),
        $own['forward'] ?? null,
    ),
};
$ended = false;
foreach ([SIGTERM, SIGINT] as $signal) {
    $loop->addSignal($signal, function () use ($loop, &$ended): void {
        $ended = true;
        $loop->stop();
    });
}
// Told to end before the loop began, it would forget that when it begins: a loop starts anew whatever was said before.
$loop->futureTick(static fn () => $ended ? $loop->stop() : null);
$loop->run();
