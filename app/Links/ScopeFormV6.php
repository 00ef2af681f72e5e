<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Queries\OwnOptions;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Family;

/** A scope of IPv6 as it goes to a server and comes back, and the lines in which people read it. */
final class ScopeFormV6
{
    /**
     * @return array{id: string, family: 6, name: string, subnet: string, ranges: list<string>, exclusions: list<string>,
     *     delegations: list<string>, lease_time: int, preferred: int, rapid: bool, options: array<int, string>,
     *     reservations: list<array{duid: string, iaid: ?int, net: string, name: string, options: array<int, ?string>}>,
     *     names?: array<string, mixed>}
     */
    public static function of(Scope $scope, Server $server): array
    {
        $names = ScopeNaming::form($scope);
        $own = static fn (ScopeRange|ScopeDelegation $r): bool => $r->server_id === null || $r->server_id === $server->id;

        return [
            'id' => $scope->id, 'family' => 6, 'name' => $scope->name, 'subnet' => (string) $scope->prefix->prefix(),
            'ranges' => array_values($scope->ranges->filter($own)->map(fn (ScopeRange $r): string => (string) $r->range())->all()),
            'exclusions' => array_values($scope->exclusions->map(fn ($e): string => (string) $e->range())->all()),
            'delegations' => array_values($scope->delegations->filter($own)->map(fn (ScopeDelegation $d): string => $d->line())->all()),
            'lease_time' => $scope->lease_time, 'preferred' => $scope->preferred(), 'rapid' => $scope->rapid_commit,
            'options' => array_map(bin2hex(...), ScopeForm::payloads($scope, $server)),
            'reservations' => array_values($scope->reservations->map(static fn (Reservation $r): array => [
                'duid' => (string) Duid::tryFrom((string) $r->client_id), 'iaid' => $r->iaid < 0 ? null : $r->iaid, 'net' => $r->given(),
                'name' => $r->name, 'options' => ScopeForm::own($r->optionValues),
            ])->all()),
        ] + ($names === null ? [] : ['names' => $names]);
    }

    /**
     * What a server says of a scope, with all parts there.
     *
     * @param  array<mixed>  $form
     * @return array<string, mixed>
     */
    public static function whole(array $form): array
    {
        return [
            'id' => (string) ($form['id'] ?? ''), 'family' => 6, 'name' => (string) ($form['name'] ?? ''),
            'subnet' => (string) ($form['subnet'] ?? ''), 'ranges' => (array) ($form['ranges'] ?? []),
            'exclusions' => (array) ($form['exclusions'] ?? []), 'delegations' => (array) ($form['delegations'] ?? []),
            'lease_time' => (int) ($form['lease_time'] ?? 0), 'preferred' => (int) ($form['preferred'] ?? 0),
            'rapid' => ($form['rapid'] ?? false) === true, 'options' => (array) ($form['options'] ?? []),
            'reservations' => array_values(array_filter((array) ($form['reservations'] ?? []), is_array(...))),
        ] + (is_array($form['names'] ?? null) ? ['names' => $form['names']] : []);
    }

    /**
     * @param  array<string, mixed>  $form
     * @return list<string> one line a fact
     */
    public static function lines(array $form): array
    {
        $time = static fn (int $seconds): string => $seconds > 0x7FFFFFFF ? 'without an end' : Ttl::of($seconds)->spoken();
        $lines = [
            "subnet {$form['subnet']}", 'valid life '.$time((int) $form['lease_time']),
            'preferred life '.$time((int) $form['preferred']), 'rapid commit '.($form['rapid'] ? 'on' : 'off'),
        ];
        if (is_array($form['names'] ?? null)) {
            array_push($lines, ...ScopeNaming::lines($form['names']));
        }
        foreach (['ranges' => 'range', 'exclusions' => 'excluded', 'delegations' => 'delegates'] as $key => $word) {
            foreach ((array) $form[$key] as $text) {
                $lines[] = "$word $text";
            }
        }
        foreach ((array) $form['options'] as $code => $hex) {
            $lines[] = "option $code ".OwnOptions::now()->definition((int) $code, Family::V6)->name.': '
                .OwnOptions::now()->meaning((int) $code, (string) hex2bin((string) $hex), Family::V6);
        }
        foreach ((array) $form['reservations'] as $one) {
            $net = $one['net'] ?? '?';
            $number = isset($one['iaid']) ? " iaid {$one['iaid']}" : '';
            $lines[] = trim("reservation $net for ".($one['duid'] ?? '?').$number.' '.($one['name'] ?? ''));
            array_push($lines, ...ScopeForm::ownLines("reservation $net", (array) ($one['options'] ?? []), Family::V6));
        }

        return $lines;
    }
}
