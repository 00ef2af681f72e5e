<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Models\Server;
use App\Models\ServerKind;

/** How a server resolves, in the form in which its stand-in is told, and as lines for people. */
final class Resolving
{
    /**
     * @return array{recursion: bool, forwarders: list<string>, fallback: bool, roots: list<string>, reach: array<string, string>,
     *     zones: list<array{zone: string, kind: string, servers: list<string>}>, validating: bool, anchors: list<string>,
     *     negative: list<string>} forwarders as endpoints, anchors as records with a TTL of 0
     */
    public static function message(Server $server): array
    {
        $own = $server->resolving ?? [];
        $reach = self::reach();

        return [
            'recursion' => $own['recursion'] ?? false,
            'forwarders' => array_map(static fn (string $a): string => $reach[$a] ?? $a, $own['forwarders'] ?? []),
            'fallback' => $own['fallback'] ?? false,
            'roots' => array_merge(...array_column($own['hints'] ?? [], 'addresses'), ...[[]]), 'reach' => $reach,
            'zones' => array_map(
                static fn (array $z): array => [
                    'zone' => $z['zone'],
                    'kind' => $z['kind'],
                    'servers' => array_map(static fn (string $a): string => $z['kind'] === 'stub' ? $a : $reach[$a] ?? $a, $z['addresses']),
                ],
                $own['zones'] ?? [],
            ),
            'validating' => $own['validating'] ?? false,
            'anchors' => array_map(static fn (string $a): string => preg_replace('/ /', ' 0 ', $a, 1) ?? $a, $own['anchors'] ?? []),
            'negative' => $own['negative'] ?? [],
        ];
    }

    /** The same settings give the same digest, wherever other servers are reached meanwhile. */
    public static function digest(Server $server): string
    {
        return hash('sha256', implode("\n", self::lines(self::message($server))));
    }

    /** @return array<string, string> address in the plan → endpoint of every server that answers names */
    public static function reach(): array
    {
        $reach = [];
        foreach (Server::answering(ServerKind::asked())->orderBy('name')->get() as $server) {
            foreach (array_filter([(string) $server->address, ...($server->resolving['also'] ?? [])]) as $address) {
                $reach[$address] = $server->endpoint;
            }
        }
        ksort($reach);

        return $reach;
    }

    /**
     * @param  array<mixed>  $message
     * @return list<string>
     */
    public static function lines(array $message): array
    {
        $list = static fn (mixed $v): array => is_array($v) ? array_values(array_filter($v, is_string(...))) : [];
        $names = array_flip(self::reach());
        $lines = ['recursion '.(($message['recursion'] ?? false) === true ? 'on' : 'off')];
        foreach ($list($message['forwarders'] ?? null) as $i => $forwarder) {
            $lines[] = 'forwarder '.($i + 1).': '.($names[$forwarder] ?? $forwarder);
        }
        $lines[] = 'when none answers: '.(($message['fallback'] ?? false) === true ? 'asks the roots' : 'gives up');
        foreach ($list($message['roots'] ?? null) as $root) {
            $lines[] = "root hint $root";
        }

        foreach (is_array($message['zones'] ?? null) ? $message['zones'] : [] as $zone) {
            $lines[] = is_array($zone)
                ? ($zone['kind'] ?? '')
                    .' zone '
                    .rtrim((string) ($zone['zone'] ?? ''), '.')
                    .': '
                    .implode(', ', array_map(static fn (string $s): string => $names[$s] ?? $s, $list($zone['servers'] ?? null)))
                : '';
        }

        $lines[] = ($message['validating'] ?? false) === true ? 'validates' : 'does not validate';
        foreach ($list($message['anchors'] ?? null) as $anchor) {
            $lines[] = 'anchor '.(preg_replace('/\. 0 /', ' ', $anchor, 1) ?? $anchor);
        }
        foreach ($list($message['negative'] ?? null) as $zone) {
            $lines[] = 'believed without proof: '.rtrim($zone, '.');
        }

        return $lines;
    }
}
