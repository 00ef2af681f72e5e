<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Directory\ChangeResolving;
use App\Links\Names\Resolving;
use App\Models\Server;
use HarborPost\Core\Dns\Zone\RootHints;
use HarborPost\Core\Net\Address;

/** How a server resolves against how it is meant to: recursion, forwarders, root hints and zones that others are asked for. */
final readonly class ResolverDrift implements Takable
{
    private const HINTS_KEPT = 'a server tells addresses of hints, not their names: take a hint file in, or send a priming query';

    /** @var array<string, mixed> as it is meant, in the form in which the server tells */
    private array $meant;

    /** @var array<string, string> endpoint → address in the plan */
    private array $addresses;

    /** @param  array<mixed>  $runs  how the server says that it resolves */
    public function __construct(private Server $server, private array $runs)
    {
        $this->meant = Resolving::message($server);
        $this->addresses = array_flip(Resolving::reach());
    }

    public function lines(): array
    {
        $yes = static fn (mixed $v, string $on, string $off): string => $v === true ? $on : $off;
        $lines = [
            'recursion' => new DriftLine(
                'recursion',
                $yes($this->runs['recursion'] ?? false, 'on', 'off'),
                $yes($this->meant['recursion'], 'on', 'off'),
            ),
            'fallback' => new DriftLine(
                'when none answers',
                $yes($this->runs['fallback'] ?? false, 'asks the roots', 'gives up'),
                $yes($this->meant['fallback'], 'asks the roots', 'gives up'),
            ),
            'forwarders' => new DriftLine(
                'forwarders, in order',
                $this->said($this->texts($this->runs, 'forwarders')),
                $this->said($this->texts($this->meant, 'forwarders')),
                $this->unknown($this->texts($this->runs, 'forwarders')),
            ),
        ];
        $lines['validating'] = new DriftLine(
            'validation',
            $yes($this->runs['validating'] ?? false, 'on', 'off'),
            $yes($this->meant['validating'], 'on', 'off'),
        );
        foreach (['anchors' => 'trust anchors', 'negative' => 'believed without proof'] as $key => $word) {
            $lines[$key] = new DriftLine(
                $word,
                implode('; ', $this->plain($this->runs, $key)),
                implode('; ', $this->plain($this->meant, $key)),
            );
        }
        [$there, $here] = [$this->texts($this->runs, 'roots'), $this->texts($this->meant, 'roots')];
        foreach (array_diff($there, $here) as $hint) {
            $lines["hint:$hint"] = new DriftLine('root hint', $hint, '', self::HINTS_KEPT);
        }
        foreach (array_diff($here, $there) as $hint) {
            $lines["hint:$hint"] = new DriftLine('root hint', '', $hint);
        }
        [$there, $here] = [$this->zones($this->runs), $this->zones($this->meant)];
        foreach (array_keys($there + $here) as $zone) {
            $word = fn (?array $z): string => $z === null ? '' : "$z[kind] ".$this->said($z['servers']);
            $lines["zone:$zone"] = new DriftLine(
                'zone '.rtrim($zone, '.'),
                $word($there[$zone] ?? null),
                $word($here[$zone] ?? null),
                $this->unknown($there[$zone]['servers'] ?? []),
            );
        }

        return array_filter($lines, static fn (DriftLine $l): bool => $l->there !== $l->here);
    }

    public function acts(array $keys): array
    {
        $keys = array_keys(
            array_filter(
                $this->lines(),
                static fn (DriftLine $l, string $k): bool => in_array($k, $keys, true) && $l->takes(),
                ARRAY_FILTER_USE_BOTH,
            ),
        );
        if ($keys === []) {
            return [];
        }
        $plain = static fn (string $key): bool => in_array($key, $keys, true);
        [$hints, $empty] = $this->hintsTaken($keys);

        return [new ChangeResolving(
            [$this->server->id],
            recursion: $plain('recursion') ? (($this->runs['recursion'] ?? false) === true ? 'on' : 'off') : null,
            forwarders: $plain('forwarders') ? (implode(' ', $this->planned($this->texts($this->runs, 'forwarders'))) ?: 'none') : null,
            fallback: $plain('fallback') ? (($this->runs['fallback'] ?? false) === true ? 'roots' : 'stop') : null,
            hints: $hints,
            emptyHints: $empty,
            hintsFrom: $this->server->resolving['hints_from'] ?? 'a file',
            zones: $this->zonesTaken($keys),
            validating: $plain('validating') ? (($this->runs['validating'] ?? false) === true ? 'on' : 'off') : null,
            anchors: $plain('anchors') ? (implode("\n", $this->plain($this->runs, 'anchors')) ?: 'none') : null,
            negative: $plain('negative') ? (implode(' ', $this->plain($this->runs, 'negative')) ?: 'none') : null,
        )];
    }

    public function undone(): array
    {
        return ['resolving'];
    }

    /**
     * @param  array<string>  $keys
     * @return array{?string, bool} the hints that are left, as a file, or that none is
     */
    private function hintsTaken(array $keys): array
    {
        $gone = array_map(
            static fn (string $k): string => substr($k, 5),
            array_filter($keys, static fn (string $k): bool => str_starts_with($k, 'hint:')),
        );
        if ($gone === []) {
            return [null, false];
        }
        $left = [];
        foreach ($this->server->resolving['hints'] ?? [] as $hint) {
            $addresses = array_values(array_diff($hint['addresses'], $gone));
            if ($addresses !== []) {
                $left[] = ['name' => $hint['name'], 'addresses' => $addresses];
            }
        }

        return $left === [] ? [null, true] : [RootHints::ofRows($left)->text(), false];
    }

    /** @param  array<string>  $keys */
    private function zonesTaken(array $keys): ?string
    {
        $zones = $this->zones($this->meant);
        $there = $this->zones($this->runs);
        $taken = array_filter($keys, static fn (string $k): bool => str_starts_with($k, 'zone:'));
        foreach ($taken as $key) {
            $zone = substr($key, 5);
            $zones[$zone] = $there[$zone] ?? null;
        }
        $lines = [];
        foreach (array_filter($zones) as $name => $zone) {
            $lines[] = "$name $zone[kind] ".implode(' ', $this->planned($zone['servers']));
        }

        return $taken === [] ? null : (implode("\n", $lines) ?: 'none');
    }

    /**
     * @param  array<mixed>  $of
     * @return array<string, array{kind: string, servers: list<string>}> by zone
     */
    private function zones(array $of): array
    {
        $zones = [];
        foreach (is_array($of['zones'] ?? null) ? $of['zones'] : [] as $zone) {
            if (is_array($zone) && is_string($zone['zone'] ?? null)) {
                $zones[$zone['zone']] = [
                    'kind' => is_string($zone['kind'] ?? null) ? $zone['kind'] : '',
                    'servers' => $this->texts($zone, 'servers'),
                ];
            }
        }
        ksort($zones);

        return $zones;
    }

    /**
     * @param  array<mixed>  $of
     * @return list<string>
     */
    private function texts(array $of, string $key): array
    {
        return is_array($of[$key] ?? null) ? array_values(array_filter($of[$key], is_string(...))) : [];
    }

    /**
     * @param  array<mixed>  $of
     * @return list<string> as they are written here, without the TTL that anchors travel with
     */
    private function plain(array $of, string $key): array
    {
        return array_map(static fn (string $t): string => preg_replace('/\. 0 /', '. ', $t, 1) ?? $t, $this->texts($of, $key));
    }

    /**
     * @param  list<string>  $endpoints
     * @return list<string> addresses in the plan
     */
    private function planned(array $endpoints): array
    {
        return array_map(fn (string $e): string => $this->addresses[$e] ?? $e, $endpoints);
    }

    /** @param  list<string>  $endpoints */
    private function said(array $endpoints): string
    {
        return implode(', ', $this->planned($endpoints));
    }

    /** @param  list<string>  $endpoints */
    private function unknown(array $endpoints): string
    {
        $unknown = array_filter($this->planned($endpoints), static fn (string $a): bool => Address::tryParse($a) === null);

        return $unknown === [] ? '' : implode(', ', $unknown).' is no server of the directory';
    }
}
