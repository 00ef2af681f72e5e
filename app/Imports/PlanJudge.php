<?php

declare(strict_types=1);

namespace App\Imports;

use App\Acts\Engine\Acts;
use App\Acts\Imports\JudgeRows;
use App\Models\Device;
use App\Models\Host;
use App\Models\Import;
use App\Models\OwnField;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\RowVerdict;
use App\Models\Site;
use App\Models\Tenant;
use App\Models\Vlan;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Support\Facades\DB;

/**
 * Judges staged rows of an address plan in the order of the tree, side by side with the prefixes that are there: what stands above a row,
 * in the file or in the plan, is known when it comes, and nothing is asked for row by row.
 *
 * @phpstan-type Around object{net: Net, groups: bool, kind: PrefixKind, line: ?int, row: ?Prefix, gateway: ?string}
 */
final class PlanJudge
{
    private const CHUNK = 500;

    private const PAGE = 2000;

    /** @var list<Around> what holds the present row, the shortest first */
    private array $around = [];

    /** @var \Iterator<int, Prefix> */
    private \Iterator $plan;

    /** @var array<string, ?string> parent domain → zone id */
    private array $zones = [];

    /** @var array<int, array<string, array{id: string, domain: string, site: ?string}>> number → VLANs with it */
    private array $vlans = [];

    /** @var array<string, string> id → name of sites, tenants, devices, own fields and VLANs, for "old → new" */
    private array $names = [];

    public function __construct(private readonly Acts $acts)
    {
    }

    public function judge(Import $import): void
    {
        foreach (Vlan::query()->with('domain')->lazyById(1000) as $vlan) {
            $this->vlans[$vlan->number][$vlan->id] = ['id' => $vlan->id, 'domain' => $vlan->domain->name, 'site' => $vlan->domain->site_id];
            $this->names[$vlan->id] = "$vlan->number of {$vlan->domain->name}";
        }
        foreach ([Site::class, Tenant::class, Device::class, OwnField::class] as $class) {
            $this->names += $class::query()->pluck('name', 'id')->all();
        }
        $this->plan = self::planned($import->target_id);
        $after = '';
        $afterId = 0;
        do {
            $rows = DB::table('import_rows')->where('import_id', $import->id)->whereNotNull('place')
                ->where('place', '>=', $after)->where(fn ($q) => $q->where('place', '>', $after)->orWhere('id', '>', $afterId))
                ->orderBy('place')->orderBy('id')->limit(self::CHUNK)->get(['id', 'line', 'place', 'payload']);
            $verdicts = $this->chunk($import, $rows->all(), $after);
            if ($verdicts !== [] && $this->acts->commit(null, [new JudgeRows($verdicts, $import->id)])->blocked()) {
                return;
            }
            $last = $rows->last();
            $after = (string) ($last->place ?? '');
            $afterId = (int) ($last->id ?? 0);
        } while ($rows->count() === self::CHUNK);
    }

    /**
     * @param  array<int, \stdClass>  $rows
     * @return array<int, array{RowVerdict, string, array<string, mixed>|null}>
     */
    private function chunk(Import $import, array $rows, string $before): array
    {
        $parsed = array_map(fn (object $r): array => [$r, (array) json_decode($r->payload, true)], $rows);
        $addresses = array_map(
            fn (array $p): string => Address::parse($p[1]['input']['address'])->bytes,
            array_values(array_filter($parsed, fn (array $p): bool => $p[1]['is'] === 'host')),
        );
        $hosts = $addresses === []
            ? collect()
            : Host::query()->where('space_id', $import->target_id)->whereIn('address', $addresses)->get()
                ->keyBy(fn (Host $h): string => (string) $h->address);
        $verdicts = [];
        $place = $before;
        $line = null;
        foreach ($parsed as [$row, $payload]) {
            $twin = (string) $row->place === $place ? $line ?? 'before' : null;
            $verdicts[(int) $row->id] = match (true) {
                $twin !== null => [RowVerdict::Refused, 'stands already on '.($line === null ? 'an earlier line' : "line $line"), null],
                $payload['is'] === 'prefix' => $this->prefix((int) $row->line, (string) $row->place, $payload['input']),
                default => $this->host((string) $row->place, $payload['input'], $hosts->all()),
            };
            if ($twin === null) {
                [$place, $line] = [(string) $row->place, (int) $row->line];
            }
        }

        return $verdicts;
    }

    /**
     * @param  array<string, mixed>  $input
     * @return array{RowVerdict, string, array<string, mixed>|null}
     */
    private function prefix(int $line, string $place, array $input): array
    {
        $net = Net::parse((string) $input['prefix']);
        $this->comeTo($net, $place);
        $same = $this->same($net, $input['kind'] ?? null);
        if ($same !== null) {
            return $this->known($same, $input);
        }
        $kind = PrefixKind::tryFrom($input['kind'] ?? PrefixKind::Subnet->value);
        if ($kind === null) {
            return [RowVerdict::Refused, 'the kind is supernet, subnet or pool', null];
        }
        $groups = $kind->groups();
        foreach ($this->around as $above) {
            if (! $above->groups && ($above->net->length < $net->length || ! $groups)) {
                return [
                    RowVerdict::Refused,
                    'lies inside '
                        .($above->row === null ? "$above->net of line $above->line" : "the {$above->kind->value} {$above->row->line()}")
                        .', which holds no prefixes',
                    null,
                ];
            }
        }
        $next = $this->plan->valid() ? $this->plan->current() : null;
        if (! $groups && $next !== null && $next->family === $net->family()->value && $net->contains($next->prefix())) {
            return [RowVerdict::Refused, "would cover {$next->line()}; make it a supernet", null];
        }
        try {
            $vlan = isset($input['vlan'])
                ? ['vlan' => $this->vlan((string) $input['vlan'], isset($input['site']) ? (string) $input['site'] : null)]
                : [];
        } catch (\DomainException $e) {
            return [RowVerdict::Refused, $e->getMessage(), null];
        }
        $this->around[] = (object) [
            'net' => $net, 'groups' => $groups, 'kind' => $kind, 'line' => $line, 'row' => null,
            'gateway' => isset($input['gateway']) ? (string) $input['gateway'] : null,
        ];

        return [RowVerdict::Add, '', ['is' => 'prefix', 'input' => $vlan + $input + ['kind' => $kind->value]]];
    }

    /** The prefix that is there already: of the kind that is written, or the one that is there when none is. */
    private function same(Net $net, ?string $kind): ?Prefix
    {
        $found = null;
        foreach ($this->around as $one) {
            if ($one->row !== null && $one->net->length === $net->length
                && ($kind === null || $one->groups === ($kind === PrefixKind::Supernet->value))) {
                $found = $one->row;
            }
        }

        return $found;
    }

    /**
     * @param  array<string, mixed>  $input
     * @return array{RowVerdict, string, array<string, mixed>|null}
     */
    private function known(Prefix $same, array $input): array
    {
        if (isset($input['kind']) && $same->kind->value !== $input['kind']) {
            return [RowVerdict::Refused, "is a {$same->kind->value} already", null];
        }
        try {
            if (isset($input['vlan'])) {
                $input['vlan'] = $this->vlan((string) $input['vlan'], isset($input['site']) ? (string) $input['site'] : $same->site_id);
            }
        } catch (\DomainException $e) {
            return [RowVerdict::Refused, $e->getMessage(), null];
        }
        $is = [
            'stage' => $same->stage->value, 'name' => $same->name, 'site' => (string) $same->site_id, 'vlan' => (string) $same->vlan_id,
            'gateway' => (string) $same->gateway, 'description' => $same->description,
            'role' => $same->role, 'tenant' => (string) $same->tenant_id, 'tags' => implode(', ', $same->tags ?? []),
            'origin' => $same->origin, 'originOn' => (string) $same->origin_on?->format('Y-m-d'),
            'originHandle' => $same->origin_handle,
        ];
        $changed = $said = [];
        foreach ($is as $key => $value) {
            if (
                isset($input[$key])
                    && $input[$key] !== $value
                    && ($key !== 'tags' || self::tags((string) $input[$key]) !== self::tags($value))
            ) {
                $changed[$key] = $input[$key];
                $said[] = "$key ".$this->shown($value).' → '.$this->shown((string) $input[$key]);
            }
        }
        foreach ((array) ($input['own'] ?? []) as $field => $value) {
            if (($same->own[$field] ?? '') !== $value) {
                $changed['own'][$field] = $value;
                $said[] = ($this->names[$field] ?? 'own field')
                    .' '
                    .$this->shown($same->own[$field] ?? '')
                    .' → '
                    .$this->shown((string) $value);
            }
        }

        return $changed === []
            ? [RowVerdict::Same, '', null]
            : [RowVerdict::Change, implode('; ', $said), ['is' => 'prefix', 'input' => ['prefixes' => [$same->id]] + $changed]];
    }

    /**
     * @param  array<string, mixed>  $input
     * @param  array<string, Host>  $hosts
     * @return array{RowVerdict, string, array<string, mixed>|null}
     */
    private function host(string $place, array $input, array $hosts): array
    {
        $address = Address::parse((string) $input['address']);
        $there = $hosts[(string) $address] ?? null;
        if ($there !== null) {
            return $this->knownHost($there, $input);
        }
        $this->comeTo($address->in($address->family->bits()), $place);
        $link = null;
        foreach ($this->around as $one) {
            $link = $one->groups ? $link : $one;
        }
        if ($link === null) {
            return [RowVerdict::Refused, 'no subnet holds it, neither in the plan nor in the file; add the subnet first', null];
        }
        if ($link->kind !== PrefixKind::Subnet) {
            return [RowVerdict::Refused, "$link->net is a {$link->kind->value}; hosts live in subnets", null];
        }
        if (! $link->net->usable()->contains($address)) {
            return [RowVerdict::Refused, "is the network or broadcast address of $link->net", null];
        }
        if ($link->gateway === (string) $address && ($input['role'] ?? 'host') !== 'gateway') {
            return [RowVerdict::Refused, "is the gateway of $link->net; give the host the role gateway, or another address", null];
        }

        return [
            RowVerdict::Add,
            '',
            [
                'is' => 'host',
                'input' => $this->zonesOf((string) ($input['name'] ?? ''), $address, (string) ($input['inZone'] ?? '')) + $input + [
                    'subnet' => (string) $link->net,
                    'prefix' => (string) $link->row?->id,
                ],
            ],
        ];
    }

    /**
     * @param  array<string, mixed>  $input
     * @return array{RowVerdict, string, array<string, mixed>|null}
     */
    private function knownHost(Host $there, array $input): array
    {
        $is = [
            'name' => $there->name, 'mac' => (string) $there->mac, 'role' => $there->role, 'owner' => $there->owner,
            'interface' => $there->interface, 'description' => $there->description, 'device' => (string) $there->device_id,
        ];
        $changed = $said = [];
        foreach ($is as $key => $value) {
            // A name of one label is one in the zone of the host, as on its page; a longer one says its zone itself.
            $whole = $key === 'name' && str_contains((string) ($input[$key] ?? ''), '.');
            $short = $key === 'name' && ! $whole && str_starts_with((string) $value, ($input[$key] ?? '').'.');
            if (isset($input[$key]) && $input[$key] !== $value && ! $short) {
                $changed[$key] = $whole ? "$input[$key]." : $input[$key];
                $said[] = "$key ".$this->shown($value).' → '.$this->shown((string) $input[$key]);
            }
        }

        return $changed === []
            ? [RowVerdict::Same, '', null]
            : [RowVerdict::Change, implode('; ', $said), ['is' => 'host', 'input' => ['host' => $there->id] + $changed]];
    }

    /** @return array{name?: string, zone?: string, reverse?: string} */
    private function zonesOf(string $name, Address $address, string $zone): array
    {
        $fqdn = $name === '' || $zone === '-' ? null : Name::tryParse($name.'.');
        $parent = $fqdn?->parent();
        if ($fqdn === null || $parent === null || $parent->isRoot()) {
            return [];
        }
        $home = $zone === '' ? $this->zone($parent) : $zone;
        if ($home === null) {
            return [];
        }
        $reverse = ReverseName::of($address)->parent();

        return array_filter(['name' => "$name.", 'zone' => $home, 'reverse' => $reverse === null ? null : $this->zone($reverse)]);
    }

    private function zone(Name $parent): ?string
    {
        $key = (string) $parent->lower();
        if (! array_key_exists($key, $this->zones)) {
            $this->zones[$key] = Zones::closest($parent, null)?->id;
        }

        return $this->zones[$key];
    }

    /** The VLAN of that number at the site, or the only one there is; never a guess among several. */
    private function vlan(string $number, ?string $site): string
    {
        $all = $this->vlans[(int) $number] ?? [];
        $here = $site === null ? $all : array_filter($all, static fn (array $v): bool => $v['site'] === $site);
        if (count($here) === 1) {
            return array_values($here)[0]['id'];
        }
        if ($here === []) {
            throw new \DomainException(
                "VLAN $number is in no layer-2 domain of "
                    .($site === null ? 'any site' : $this->names[$site] ?? 'the site')
                    .'; add it first',
            );
        }
        throw new \DomainException(
            "VLAN $number stands in several layer-2 domains: "
                .implode(', ', array_slice(array_column($here, 'domain'), 0, 4))
                .'; name the site, or set the VLAN on screen',
        );
    }

    /** Brings the walk to a row: what does not hold it is left behind, and prefixes of the plan that come before it are passed. */
    private function comeTo(Net $net, string $place): void
    {
        while (
            $this->plan->valid()
                && strcmp(PlanFile::place($this->plan->current()->prefix(), $this->plan->current()->groups ? 0 : 1), $place) <= 0
        ) {
            $row = $this->plan->current();
            $this->leave($row->prefix());
            $this->around[] = (object) [
                'net' => $row->prefix(), 'groups' => $row->groups, 'kind' => $row->kind, 'line' => null, 'row' => $row,
                'gateway' => $row->gateway === null ? null : (string) $row->gateway,
            ];
            $this->plan->next();
        }
        $this->leave($net);
    }

    private function leave(Net $net): void
    {
        while ($this->around !== [] && ! $this->around[count($this->around) - 1]->net->contains($net)) {
            array_pop($this->around);
        }
    }

    /**
     * The prefixes of a space in the order of the tree, page by page along their key.
     *
     * @return \Generator<int, Prefix>
     */
    private static function planned(string $space): \Generator
    {
        foreach ([4, 6] as $family) {
            $from = '';
            $seen = [];
            do {
                $rows = Prefix::query()->where('space_id', $space)->where('family', $family)
                    ->where('first', '>=', $from)->orderBy('first')->orderBy('length')->orderByDesc('groups')
                    ->limit(self::PAGE)->get();
                foreach ($rows as $row) {
                    if (isset($seen[$row->id])) {
                        continue;
                    }
                    // A page begins where the last one ended: at most one prefix of each length stands there twice.
                    $seen = $row->first->bytes === $from ? $seen : [];
                    $from = $row->first->bytes;
                    $seen[$row->id] = true;
                    yield $row;
                }
            } while ($rows->count() === self::PAGE);
        }
    }

    private function shown(string $value): string
    {
        return $value === '' ? 'none' : mb_strimwidth($this->names[$value] ?? $value, 0, 60, '…');
    }

    /** @return list<string> */
    private static function tags(string $text): array
    {
        $tags = array_filter(array_map(static fn (string $t): string => mb_strtolower(trim($t)), explode(',', $text)));
        sort($tags);

        return array_values(array_unique($tags));
    }
}
