<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Server;
use App\Models\ServerKind;
use Illuminate\Database\Eloquent\Collection;

/** Which clients are given resolvers that validate, and what an answer with a bad signature would give them. */
final class WhoValidates
{
    private const FORGED = 'the forged answer';

    /**
     * @return list<array{clients: list<array{label: string, link: string}>, resolvers: list<array{address: string, name: string,
     *     resolves: bool, validates: bool}>, words: string, gives: string, good: bool}> one row for all who are given the same
     */
    public static function everywhere(): array
    {
        $servers = Server::answering(ServerKind::naming())->get();
        $rows = [];
        foreach (GivenResolvers::everywhere() as $given) {
            $key = implode(' ', $given['resolvers']);
            $client = ['label' => $given['label'], 'link' => $given['link']];
            if (isset($rows[$key])) {
                $rows[$key]['clients'][] = $client;

                continue;
            }
            $resolvers = array_map(static fn (string $a): array => self::resolver($a, $servers), $given['resolvers']);
            $good = count(array_filter($resolvers, static fn (array $r): bool => $r['validates']));
            $all = count($resolvers);
            $rows[$key] = [
                'clients' => [$client], 'resolvers' => $resolvers, 'good' => $all > 0 && $good === $all,
                'words' => match (true) {
                    $all === 0 => 'no resolver is given',
                    $good === $all => 'every resolver',
                    $good === 0 => 'nobody',
                    default => implode(', ', array_map(
                        static fn (array $r): string => $r['name'].match (true) {
                            $r['validates'] => ' does',
                            $r['resolves'] => ' does not',
                            default => ' resolves for nobody',
                        },
                        $resolvers,
                    )),
                },
                'gives' => self::gives($resolvers),
            ];
        }

        return array_values($rows);
    }

    /** @param  list<array{address: string, name: string, resolves: bool, validates: bool}>  $resolvers */
    private static function gives(array $resolvers): string
    {
        $each = array_values(array_unique(array_map(static fn (array $r): string => match (true) {
            $r['validates'] => 'SERVFAIL',
            $r['resolves'] => self::FORGED,
            default => 'REFUSED',
        }, $resolvers)));

        return ($each === [] || in_array(self::FORGED, $each, true) ? '' : 'nothing: ')
            .implode(' or ', $each).(count($each) > 1 ? ', by chance' : '');
    }

    /**
     * @param  Collection<int, Server>  $servers
     * @return array{address: string, name: string, resolves: bool, validates: bool}
     */
    private static function resolver(string $address, Collection $servers): array
    {
        $server = $servers->first(
            static fn (Server $s): bool => (string) $s->address === $address || in_array($address, $s->resolving['also'] ?? [], true),
        );
        $own = $server->resolving ?? [];

        return [
            'address' => $address, 'name' => $server->name ?? $address,
            // A server that is not kept here is taken to resolve: somebody was told to ask it.
            'resolves' => $server === null || ($own['recursion'] ?? false),
            'validates' => ($own['recursion'] ?? false) && ($own['validating'] ?? false) && ($own['anchors'] ?? []) !== [],
        ];
    }
}
