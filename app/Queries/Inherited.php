<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\Setting;
use App\Models\Site;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;

/**
 * Settings that flow down: organisation → sites from the outermost in → prefixes from the top in. The layer nearest to the subnet
 * wins; what it hides is kept for showing. Sites and settings are read once for each object of this class.
 */
final class Inherited
{
    /** key → what people call it, and the DHCPv4 and DHCPv6 options that it becomes where a scope has none of its own */
    public const KEYS = [
        'resolvers' => ['Resolvers', OptionTable::NAME_SERVERS, Code::NAME_SERVERS],
        'domain' => ['Domain', OptionTable::DOMAIN, null],
        'search' => ['Search suffixes', OptionTable::SEARCH, Code::SEARCH],
        'gateway' => ['Gateway habit', null, null],
    ];

    /** @var array<string, array{?string, string}>|null site → parent, name */
    private ?array $sites = null;

    /** @var array<string, list<Prefix>> prefix → those above it, where they were read ahead */
    private array $ahead = [];

    /** @var array<string, array<string, list<string>>>|null "layer id" → key → value */
    private ?array $settings = null;

    /**
     * Every key with its value and where it comes from.
     *
     * @return array<string, array{value: list<string>, origin: ?array{label: string, link: ?string, layer: string, id: string},
     *     hides: list<array{label: string, value: list<string>}>}>
     */
    public function of(Prefix $prefix): array
    {
        return $this->resolve($this->layersOf($prefix));
    }

    /**
     * @return array<string, array{value: list<string>, origin: ?array{label: string, link: ?string, layer: string, id: string},
     *     hides: list<array{label: string, value: list<string>}>}>
     */
    public function ofSite(string $site): array
    {
        return $this->resolve([['organisation', '', 'Organisation', null], ...$this->siteLayers($site)]);
    }

    /**
     * @return array<string, array{value: list<string>, origin: ?array{label: string, link: ?string, layer: string, id: string},
     *     hides: list<array{label: string, value: list<string>}>}>
     */
    public function ofOrganisation(): array
    {
        return $this->resolve([['organisation', '', 'Organisation', null]]);
    }

    /**
     * The layers that a prefix stands under, from the outermost in, each with what is set there.
     *
     * @return list<array{layer: string, id: string, label: string, set: array<string, list<string>>}>
     */
    public function chain(Prefix $prefix): array
    {
        return array_map(
            fn (array $l): array => ['layer' => $l[0], 'id' => $l[1], 'label' => $l[2], 'set' => $this->settings()["$l[0] $l[1]"] ?? []],
            $this->layersOf($prefix),
        );
    }

    /**
     * Reads what stands above many prefixes before each of them is asked for. What is written after that is not seen here.
     *
     * @param  iterable<Prefix>  $rows
     */
    public function ahead(iterable $rows): void
    {
        $this->ahead = Ancestors::ofMany($rows) + $this->ahead;
    }

    /** @return array<int, list<string>> option code → values, for what a scope on the prefix has no value of its own */
    public function options(Prefix $prefix): array
    {
        return array_map(static fn (array $o): array => $o['values'], $this->optionsWithOrigin($prefix));
    }

    /** @return array<int, array{values: list<string>, label: string, link: ?string}> option code → values and the layer they come from */
    public function optionsWithOrigin(Prefix $prefix): array
    {
        $options = [];
        foreach ($this->of($prefix) as $key => $found) {
            $code = self::KEYS[$key][1];
            // An IPv4 option carries IPv4 addresses only.
            $values = $key === 'resolvers'
                ? array_values(array_filter($found['value'], static fn (string $a): bool => Address::tryParse($a)?->family->value === 4))
                : $found['value'];
            if ($code !== null && $values !== [] && $found['origin'] !== null) {
                $options[$code] = ['values' => $values, 'label' => $found['origin']['label'], 'link' => $found['origin']['link']];
            }
        }

        return $options;
    }

    /** The gateway that the habit of the place gives a subnet; null when the habit is none. */
    public function gatewayOf(Prefix $prefix): ?Address
    {
        return self::gatewayBy($this->of($prefix)['gateway']['value'][0] ?? 'first', $prefix->prefix());
    }

    public static function gatewayBy(string $habit, Net $net): ?Address
    {
        return match ($habit) {
            'last' => $net->usable()->last,
            'none' => null,
            default => $net->usable()->first,
        };
    }

    /**
     * What {@see self::of()} tells, for many in one pass.
     *
     * @param  iterable<Prefix>  $rows  in reading order, a supernet before what fills it, with all that lies between them and $top
     * @param  ?Prefix  $top  above the rows or the first of them; null: nothing stands above the first
     * @return \Generator<Prefix, array<string, array{value: list<string>, origin: ?array{label: string, link: ?string, layer: string,
     *     id: string}, hides: list<array{label: string, value: list<string>}>}>>
     */
    public function each(iterable $rows, ?Prefix $top): \Generator
    {
        foreach ($this->walk($rows, $top) as $row => $layers) {
            yield $row => $this->resolve($layers);
        }
    }

    /**
     * The tree in reading order, with what stands above each row: one pass, whatever its size.
     *
     * @param  iterable<Prefix>  $rows
     * @return \Generator<Prefix, list<array{string, string, string, ?string}>> a row and its layers, as {@see self::layersOf()}
     */
    private function walk(iterable $rows, ?Prefix $top): \Generator
    {
        $above = $top === null ? [] : Ancestors::of($top->space_id, $top->prefix())
            ->filter(static fn (Prefix $p): bool => $p->groups)->values()->all();
        foreach ($rows as $row) {
            // What holds the next one stays; the row itself may be among what stands above the top.
            while ($above !== [] && (($last = $above[count($above) - 1])->id === $row->id || $last->space_id !== $row->space_id
                || ! $last->prefix()->contains($row->prefix()))) {
                array_pop($above);
            }
            yield $row => $this->layers([...$above, $row]);
            if ($row->groups) {
                $above[] = $row;
            }
        }
    }

    /**
     * The subnets that a value of one layer reaches, and those below it that keep a value of their own or of a nearer layer.
     *
     * @return array{reached: list<Prefix>, keep: list<array{Prefix, string}>}
     */
    public function reach(string $layer, string $id, string $key): array
    {
        $reached = $keep = [];
        $query = Prefix::query()->orderBy('space_id')->orderBy('family')->orderBy('first')->orderBy('length')->orderByDesc('groups');
        if ($layer === 'prefix') {
            $top = Prefix::query()->find($id);
            if ($top === null) {
                return ['reached' => [], 'keep' => []];
            }
            $query->where('space_id', $top->space_id)->where('family', $top->family)
                ->whereBetween('first', [$top->first->bytes, $top->prefix()->last()->bytes])
                ->where('length', '>=', $top->length);
        }
        foreach ($this->walk($query->lazy(2000), $top ?? null) as $row => $layers) {
            if ($row->isSubnet()) {
                $at = array_search([$layer, $id], array_map(static fn (array $l): array => [$l[0], $l[1]], $layers), true);
                if ($at !== false) {
                    $own = null;
                    foreach (array_slice($layers, $at + 1) as $nearer) {
                        $own = isset($this->settings()["{$nearer[0]} {$nearer[1]}"][$key]) ? $nearer[2] : $own;
                    }
                    $own === null ? $reached[] = $row : $keep[] = [$row, $own];
                }
            }
        }

        return ['reached' => $reached, 'keep' => $keep];
    }

    /** @return list<array{string, string, string, ?string}> layer, id, label, link; from the outermost in */
    private function layersOf(Prefix $prefix): array
    {
        $byPrefix = array_filter(array_keys($this->settings()), static fn (string $k): bool => str_starts_with($k, 'prefix '));
        if ($prefix->site_id !== null && $byPrefix === []) {
            return $this->layers([$prefix]);
        }
        $chain = collect($this->ahead[$prefix->id] ?? Ancestors::of($prefix->space_id, $prefix->prefix()))
            ->reject(fn (Prefix $p): bool => $p->id === $prefix->id || ! $p->groups)->values()->all();

        return $this->layers([...array_values($chain), $prefix]);
    }

    /**
     * @param  list<Prefix>  $chain  from the top in, the prefix itself last
     * @return list<array{string, string, string, ?string}>
     */
    private function layers(array $chain): array
    {
        $site = null;
        foreach ($chain as $row) {
            $site = $row->site_id ?? $site;
        }
        $layers = [['organisation', '', 'Organisation', null], ...($site === null ? [] : $this->siteLayers($site))];
        foreach ($chain as $row) {
            $layers[] = ['prefix', $row->id, $row->name ?: (string) $row->prefix(), at('plan.prefix', $row->id)];
        }

        return $layers;
    }

    /** @return list<array{string, string, string, ?string}> */
    private function siteLayers(string $site): array
    {
        $this->sites ??= Site::query()->toBase()->get(['id', 'parent_id', 'name'])
            ->mapWithKeys(fn (object $s): array => [$s->id => [$s->parent_id, $s->name]])->all();
        $layers = [];
        for ($at = $site; $at !== null && isset($this->sites[$at]) && count($layers) < 32; $at = $this->sites[$at][0]) {
            array_unshift($layers, ['site', $at, $this->sites[$at][1], at('directory.site', $at)]);
        }

        return $layers;
    }

    /**
     * @param  list<array{string, string, string, ?string}>  $layers
     * @return array<string, array{value: list<string>, origin: ?array{label: string, link: ?string, layer: string, id: string},
     *     hides: list<array{label: string, value: list<string>}>}>
     */
    private function resolve(array $layers): array
    {
        $found = array_map(static fn (): array => ['value' => [], 'origin' => null, 'hides' => []], self::KEYS);
        foreach ($layers as [$layer, $id, $label, $link]) {
            foreach ($this->settings()["$layer $id"] ?? [] as $key => $value) {
                if ($found[$key]['origin'] !== null) {
                    array_unshift($found[$key]['hides'], ['label' => $found[$key]['origin']['label'], 'value' => $found[$key]['value']]);
                }
                $found[$key]['value'] = $value;
                $found[$key]['origin'] = ['label' => $label, 'link' => $link, 'layer' => $layer, 'id' => $id];
            }
        }

        return $found;
    }

    /** @return array<string, array<string, list<string>>> */
    private function settings(): array
    {
        if ($this->settings === null) {
            $this->settings = [];
            foreach (Setting::query()->get() as $setting) {
                if (isset(self::KEYS[$setting->key])) {
                    $this->settings["$setting->layer $setting->layer_id"][$setting->key] = $setting->value;
                }
            }
        }

        return $this->settings;
    }
}
