<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\ClientClass;
use App\Models\OptionValue;
use App\Models\Pair;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Models\Vlan;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use App\Queries\SharedLinks;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** A scope as it goes to a server and comes back, and the lines in which people read it. */
final class ScopeForm
{
    /**
     * The scope as it goes over the channel. The same scope gives the same form, so that a digest tells. Parts that a scope need not have
     * stand in it only where it has them; those of IPv6 are another form, marked by its family.
     *
     * @return array<string, mixed>
     */
    public static function of(Scope $scope, Server $server): array
    {
        if ($scope->prefix->family === 6) {
            return ScopeFormV6::of($scope, $server);
        }
        $ranges = $scope->ranges->filter(fn ($r): bool => $r->server_id === null || $r->server_id === $server->id)->values();
        $kept = $ranges->filter(fn (ScopeRange $r): bool => $r->class_id !== null);
        $names = ScopeNaming::form($scope);
        $link = app(SharedLinks::class)->of($scope);
        $classes = app(OptionLayers::class)->classes()
            ->filter(fn (ClientClass $c): bool => $c->optionValues->isNotEmpty() || $kept->contains('class_id', $c->id));

        return [
            'id' => $scope->id, 'name' => $scope->name, 'subnet' => (string) $scope->prefix->prefix(),
            'ranges' => array_values($ranges->map(fn ($r): string => (string) $r->range())->all()),
            'exclusions' => array_values($scope->exclusions->map(fn ($e): string => (string) $e->range())->all()),
            'lease_time' => $scope->lease_time,
            'delay_ms' => (int) ($scope->placements->firstWhere('server_id', $server->id)->delay_ms ?? 0),
            'options' => array_map(bin2hex(...), self::payloads($scope, $server)),
            'reservations' => array_values($scope->reservations->map(self::reservation(...))->all()),
            'classes' => array_values($classes->map(self::classForm(...))->all()),
            'kept' => $kept->mapWithKeys(fn (ScopeRange $r): array => [
                (string) $r->range() => ['class' => (string) $r->class_id, 'only' => (bool) $r->class_only],
            ])->all(),
        ] + ($link === null ? [] : ['link' => $link])
            + ($scope->pair_id === null ? [] : ['pair' => $scope->pair_id]) + ($names === null ? [] : ['names' => $names])
            + ($server->probe_tries === 0 ? [] : ['probe' => ['tries' => $server->probe_tries, 'wait_ms' => $server->probe_wait_ms]]);
    }

    /**
     * @return array{id: string, name: string, any: bool, conditions: list<array{field: string, is: string, value: string}>,
     *     options: array<int, ?string>}
     */
    private static function classForm(ClientClass $c): array
    {
        return [
            'id' => $c->id,
            'name' => $c->name,
            'any' => $c->any,
            'conditions' => $c->conditions,
            'options' => self::own($c->optionValues),
        ];
    }

    /** @return array{mac: string, client: string, address: string, name: string, options: array<int, ?string>} */
    private static function reservation(Reservation $r): array
    {
        return [
            'mac' => (string) $r->mac, 'client' => bin2hex((string) $r->client_id), 'address' => (string) $r->address, 'name' => $r->name,
            'options' => self::own($r->optionValues),
        ];
    }

    /**
     * @param  iterable<OptionValue>  $values
     * @return array<int, ?string> code → payload in hexadecimal; null for none, on purpose
     */
    public static function own(iterable $values): array
    {
        $own = [];
        foreach ($values as $value) {
            $payload = $value->payload();
            $own[$value->code] = $payload === null ? null : bin2hex($payload);
        }

        return $own;
    }

    public static function digest(Scope $scope, Server $server): string
    {
        return self::digestOf(self::of($scope, $server));
    }

    /** @param  array<string, mixed>  $form */
    public static function digestOf(array $form): string
    {
        return hash('sha256', json_encode($form, JSON_THROW_ON_ERROR));
    }

    /**
     * @param  list<ClientClass>  $classes
     * @return array<int, string> code → payload: what the server sends to clients of the scope
     */
    public static function payloads(Scope $scope, Server $server, array $classes = []): array
    {
        return app(OptionLayers::class)->of($scope, $server, $classes)->payloads();
    }

    /** @param  array<string, mixed>  $form
     * @return list<string> one line a fact, for a diff that people read
     */
    public static function lines(array $form): array
    {
        if (($form['family'] ?? 4) === 6) {
            return ScopeFormV6::lines($form);
        }
        $lines = [
            "subnet {$form['subnet']}",
            'lease time '.((int) $form['lease_time'] > 0x7FFFFFFF ? 'without an end' : Ttl::of((int) $form['lease_time'])->spoken()),
        ];
        if ((int) ($form['delay_ms'] ?? 0) > 0) {
            $lines[] = "offers held back {$form['delay_ms']} ms";
        }
        if (is_array($form['probe'] ?? null)) {
            $lines[] = sprintf('probes %d times, %d ms each', $form['probe']['tries'] ?? 0, $form['probe']['wait_ms'] ?? 0);
        }
        if (is_string($form['link'] ?? null) && $form['link'] !== '') {
            $vlan = Vlan::query()->find($form['link']);
            $which = $vlan === null ? 'a VLAN that the plan does not know' : "VLAN {$vlan->line()}";
            $lines[] = "shares its link with other subnets, $which";
        }
        if (is_string($form['pair'] ?? null) && $form['pair'] !== '') {
            $lines[] = 'leased by a pair, '.(Pair::query()->whereKey($form['pair'])->value('name') ?? 'which the plan does not know');
        }
        foreach ((array) $form['ranges'] as $range) {
            $lines[] = "range $range";
        }
        if (is_array($form['names'] ?? null)) {
            array_push($lines, ...ScopeNaming::lines($form['names']));
        }
        foreach ((array) $form['exclusions'] as $range) {
            $lines[] = "excluded $range";
        }
        foreach ((array) $form['options'] as $code => $hex) {
            $lines[] = "option $code "
                .OwnOptions::now()->definition((int) $code)->name
                .': '
                .OwnOptions::now()->meaning((int) $code, (string) hex2bin((string) $hex));
        }
        foreach ((array) $form['reservations'] as $one) {
            $client = ($one['mac'] ?? '') !== '' ? $one['mac'] : '0x'.($one['client'] ?? '');
            $lines[] = trim('reservation '.($one['address'] ?? '?')." for $client ".($one['name'] ?? ''));
            array_push($lines, ...self::ownLines('reservation '.($one['address'] ?? '?'), (array) ($one['options'] ?? [])));
        }
        foreach ((array) ($form['kept'] ?? []) as $range => $rule) {
            $lines[] = "range $range ".(($rule['only'] ?? true) ? 'only for' : 'not for').' class '.($rule['class'] ?? '?');
        }
        foreach ((array) ($form['classes'] ?? []) as $class) {
            $rows = (array) ($class['conditions'] ?? []);
            $lines[] = 'class '.($class['name'] ?? '?').': '.self::conditions($rows, (bool) ($class['any'] ?? false));
            array_push($lines, ...self::ownLines('class '.($class['name'] ?? '?'), (array) ($class['options'] ?? [])));
        }

        return $lines;
    }

    /**
     * @param  array<mixed>  $options  code → hexadecimal digits, or null
     * @return list<string>
     */
    public static function ownLines(string $whose, array $options, Family $family = Family::V4): array
    {
        $lines = [];
        foreach ($options as $code => $hex) {
            $meaning = is_string($hex) ? OwnOptions::now()->meaning((int) $code, (string) hex2bin($hex), $family) : 'none, on purpose';
            $lines[] = "$whose, option $code ".OwnOptions::now()->definition((int) $code, $family)->name.": $meaning";
        }

        return $lines;
    }

    /** @param  array<mixed>  $rows */
    private static function conditions(array $rows, bool $any): string
    {
        $words = array_map(
            static fn (mixed $r): string => implode(
                ' ',
                is_array($r) ? array_filter([$r['field'] ?? '', $r['is'] ?? '', $r['value'] ?? ''], is_string(...)) : ['?'],
            ),
            $rows,
        );

        return implode($any ? ' or ' : ' and ', $words);
    }

    /**
     * What a server says of a scope, with all parts there.
     *
     * @param  array<mixed>  $form
     * @return array<string, mixed>
     */
    public static function whole(array $form): array
    {
        if (($form['family'] ?? 4) === 6) {
            return ScopeFormV6::whole($form);
        }

        return [
            'id' => (string) ($form['id'] ?? ''), 'name' => (string) ($form['name'] ?? ''),
            'subnet' => (string) ($form['subnet'] ?? ''), 'ranges' => (array) ($form['ranges'] ?? []),
            'exclusions' => (array) ($form['exclusions'] ?? []),
            'lease_time' => (int) ($form['lease_time'] ?? 0), 'delay_ms' => (int) ($form['delay_ms'] ?? 0),
            'options' => (array) ($form['options'] ?? []),
            'reservations' => array_values(array_filter((array) ($form['reservations'] ?? []), is_array(...))),
            'classes' => array_values(array_filter((array) ($form['classes'] ?? []), is_array(...))),
            'kept' => array_filter((array) ($form['kept'] ?? []), is_array(...)),
        ] + (is_string($form['link'] ?? null) ? ['link' => $form['link']] : [])
            + (is_string($form['pair'] ?? null) ? ['pair' => $form['pair']] : [])
            + (is_array($form['names'] ?? null) ? ['names' => $form['names']] : [])
            + (is_array($form['probe'] ?? null) ? ['probe' => $form['probe']] : []);
    }
}
