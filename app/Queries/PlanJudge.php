<?php

declare(strict_types=1);

namespace App\Queries;

use App\Actions\Acts;
use App\Actions\Imports\JudgeRows;
use App\Models\Host;
use App\Models\Import;
use App\Models\Prefix;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Support\Facades\DB;

/** Judges staged rows of an address plan in the order of the tree, so that what stands above a row is known when it comes. */
final class PlanJudge
{
    private const CHUNK = 500;

    /** @var list<array{Net, bool, int}> staged prefixes around the present row: prefix, does it group, line */
    private array $stack = [];

    private ?Prefix $subnet = null;

    /** @var array<string, ?string> parent domain → zone id */
    private array $zones = [];

    public function __construct(private readonly Acts $acts)
    {
    }

    public function judge(Import $import): void
    {
        $after = '';
        $afterId = 0;
        do {
            $rows = DB::table('import_rows')->where('import_id', $import->id)->whereNotNull('place')
                ->where(fn ($q) => $q->where('place', '>', $after)->orWhere(fn ($q) => $q->where('place', $after)->where('id', '>', $afterId)))
                ->orderBy('place')->orderBy('id')->limit(self::CHUNK)->get(['id', 'line', 'place', 'payload']);
            $verdicts = $this->chunk($import, $rows->all());
            $verdicts === [] || $this->acts->commit(null, [new JudgeRows($verdicts)]);
            $last = $rows->last();
            $after = (string) ($last->place ?? '');
            $afterId = (int) ($last->id ?? 0);
        } while ($rows->count() === self::CHUNK);
    }

    /**
     * @param  array<int, \stdClass>  $rows
     * @return array<int, array{string, string, array<string, mixed>|null}>
     */
    private function chunk(Import $import, array $rows): array
    {
        $parsed = array_map(fn (object $r): array => [$r, json_decode($r->payload, true)], $rows);
        $addresses = array_map(fn (array $p): string => Address::parse($p[1]['input']['address'])->bytes, array_values(array_filter($parsed, fn (array $p): bool => $p[1]['is'] === 'host')));
        $hosts = Host::query()->where('space_id', $import->target_id)->whereIn('address', $addresses)->get()->keyBy(fn (Host $h): string => (string) $h->address);
        $verdicts = [];
        $seen = [];
        foreach ($parsed as [$row, $payload]) {
            $twin = $seen[bin2hex($row->place)] ?? null;
            $seen[bin2hex($row->place)] = $row->line;
            $verdicts[(int) $row->id] = $twin !== null
                ? ['refused', "stands already on line $twin", null]
                : ($payload['is'] === 'prefix' ? $this->prefix($import, (int) $row->line, $payload['input']) : $this->host($import, $payload, $hosts->all()));
        }

        return $verdicts;
    }

    /**
     * @param  array<string, string>  $input
     * @return array{string, string, array<string, mixed>|null}
     */
    private function prefix(Import $import, int $line, array $input): array
    {
        $net = Net::parse($input['prefix']);
        $groups = $input['kind'] === 'supernet';
        $this->unwind($net);
        $above = $this->stack[count($this->stack) - 1] ?? null;
        if ($above !== null && ! $above[1]) {
            return ['refused', "lies inside $above[0] of line $above[2], which holds no prefixes", null];
        }
        $chain = Ancestors::of($import->target_id, $net);
        $same = $chain->first(fn (Prefix $p): bool => $p->length === $net->length && $p->groups === $groups);
        if ($same !== null) {
            return $this->known($same, $input);
        }
        $link = $chain->first(fn (Prefix $p): bool => ! $p->groups && ($p->length < $net->length || ! $groups));
        if ($link !== null) {
            return ['refused', "lies inside the $link->kind {$link->line()}, which holds no prefixes", null];
        }
        $inside = $groups ? null : Prefix::query()->where('space_id', $import->target_id)->where('family', $net->family()->value)->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>', $net->length)->first();
        if ($inside !== null) {
            return ['refused', "would cover {$inside->line()}; make it a supernet", null];
        }
        $this->stack[] = [$net, $groups, $line];

        return ['add', '', null];
    }

    /**
     * @param  array<string, string>  $input
     * @return array{string, string, array<string, mixed>|null}
     */
    private function known(Prefix $same, array $input): array
    {
        if ($same->kind !== $input['kind']) {
            return ['refused', "is a $same->kind already", null];
        }
        $is = ['stage' => $same->stage, 'name' => $same->name, 'site' => (string) $same->site_id, 'vlan' => (string) $same->vlan_id, 'gateway' => (string) $same->gateway, 'description' => $same->description, 'role' => $same->role, 'tenant' => (string) $same->tenant_id, 'tags' => implode(', ', $same->tags ?? []), 'origin' => $same->origin, 'originOn' => (string) $same->origin_on?->format('Y-m-d'), 'originHandle' => $same->origin_handle];
        $changed = [];
        foreach ($is as $key => $value) {
            if (($input[$key] ?? '') !== '' && $input[$key] !== $value) {
                $changed[$key] = $input[$key];
            }
        }

        return $changed === [] ? ['same', '', null] : ['change', 'changes '.implode(', ', array_keys($changed)), ['is' => 'prefix', 'input' => ['prefixes' => [$same->id]] + $changed]];
    }

    /**
     * @param  array<string, mixed>  $payload
     * @param  array<string, Host>  $hosts
     * @return array{string, string, array<string, mixed>|null}
     */
    private function host(Import $import, array $payload, array $hosts): array
    {
        $input = $payload['input'];
        $address = Address::parse($input['address']);
        $there = $hosts[(string) $address] ?? null;
        if ($there !== null) {
            $changed = array_filter(['name' => $input['name'] !== '' && $input['name'] !== $there->name ? $input['name'].'.' : null, 'mac' => $input['mac'] !== '' && $input['mac'] !== (string) $there->mac ? $input['mac'] : null]);

            return $changed === [] ? ['same', '', null] : ['change', 'changes '.implode(', ', array_keys($changed)), ['is' => 'host', 'input' => ['host' => $there->id] + $changed]];
        }
        $net = $address->in($address->family->bits());
        $this->unwind($net);
        $above = $this->stack[count($this->stack) - 1] ?? null;
        if ($above !== null && ! $above[1]) {
            $inside = $above[0];
        } else {
            if ($this->subnet === null || ! $this->subnet->prefix()->contains($address)) {
                $this->subnet = Ancestors::subnet($import->target_id, $address);
            }
            $inside = $this->subnet?->prefix();
        }
        if ($inside === null) {
            return ['refused', 'no subnet holds it, neither in the plan nor in the file; add the subnet first', null];
        }
        if (! $inside->usable()->contains($address)) {
            return ['refused', "is the network or broadcast address of $inside", null];
        }
        $staged = $above !== null && ! $above[1];

        return ['add', '', ['is' => 'host', 'input' => $this->zonesOf($input['name'], $address) + $input + ['subnet' => (string) $inside, 'prefix' => $staged ? '' : (string) $this->subnet?->id]]];
    }

    /** @return array{name?: string, zone?: string, reverse?: string} */
    private function zonesOf(string $name, Address $address): array
    {
        $fqdn = $name === '' ? null : Name::tryParse($name.'.');
        $zone = $fqdn === null || $fqdn->parent() === null ? null : $this->zone($fqdn->parent());
        if ($zone === null) {
            return [];
        }
        $reverse = ReverseName::of($address)->parent();

        return array_filter(['name' => "$name.", 'zone' => $zone, 'reverse' => $reverse === null ? null : $this->zone($reverse)]);
    }

    private function zone(Name $parent): ?string
    {
        $key = (string) $parent->lower();
        if (! array_key_exists($key, $this->zones)) {
            $this->zones[$key] = Zones::closest($parent, null)?->id;
        }

        return $this->zones[$key];
    }

    private function unwind(Net $net): void
    {
        while ($this->stack !== [] && ! $this->stack[count($this->stack) - 1][0]->contains($net)) {
            array_pop($this->stack);
        }
    }
}
