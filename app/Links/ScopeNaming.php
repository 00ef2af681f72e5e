<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Scope;
use App\Models\Zone;
use App\Queries\NamingZones;

/** How the leases of a scope are named, as it goes to a server. */
final class ScopeNaming
{
    /** @return ?array<string, mixed> null where nobody names them */
    public static function form(Scope $scope): ?array
    {
        $zone = $scope->nameZone;
        $server = $zone?->primaryPlacement()?->server;
        if ($scope->name_who === null || $zone === null || $server === null) {
            return null;
        }
        $reverse = app(NamingZones::class)->reverse($scope, $zone, $scope->nameKey)
            ->mapWithKeys(static fn (Zone $z): array => [$z->name => (string) $z->primaryPlacement()?->server->endpoint])->sortKeys()
            ->all();

        return [
            'who' => $scope->name_who->value, 'from' => $scope->name_by_pattern ? 'pattern' : 'client', 'pattern' => $scope->name_pattern,
            'ttl' => (int) $scope->name_ttl, 'zone' => $zone->name, 'server' => $server->endpoint, 'key' => (string) $scope->nameKey?->name,
            'client' => (string) $zone->clientInView(), 'reverse' => $reverse,
        ];
    }

    /**
     * @param  array<mixed>  $form
     * @return list<string> one line a fact
     */
    public static function lines(array $form): array
    {
        $text = static fn (string $key): string => is_scalar($form[$key] ?? null) ? (string) $form[$key] : '?';
        $reverse = is_array($form['reverse'] ?? null) ? $form['reverse'] : [];
        $lines = [
            'names: '.($text('who') === 'client' ? 'the client its address, the lease server the pointer'
                : 'the lease server, address and pointer'),
            "names go into {$text('zone')} at {$text('server')}, key "
                .($text('key') === '' ? 'none' : $text('key')).", TTL {$text('ttl')} s",
            $text('from') === 'pattern' ? "names by the pattern {$text('pattern')}" : 'names as clients say them'
                .($text('pattern') === '' ? '' : ", or by the pattern {$text('pattern')}"),
        ];
        foreach ($reverse as $zone => $server) {
            $lines[] = "pointers go into $zone at ".(is_string($server) ? $server : '?');
        }

        return $lines;
    }
}
