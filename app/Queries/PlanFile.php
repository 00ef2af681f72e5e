<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Host;
use App\Models\Prefix;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\Vlan;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;

/**
 * The CSV form of an address plan, both ways. The first line names the columns, in any order: prefix, kind, stage, name, site,
 * vlan, gateway, description, role, tenant, tags, origin for prefixes; address, name, mac, role, owner, interface for hosts. A row with an address is a host.
 */
final class PlanFile
{
    public const COLUMNS = ['prefix', 'kind', 'stage', 'name', 'site', 'vlan', 'gateway', 'description', 'address', 'mac', 'role', 'tenant', 'tags', 'origin', 'origin_on', 'origin_handle', 'owner', 'interface'];

    /** @var array<string, string> lower-case name → id */
    private array $sites;

    /** @var array<string, string> lower-case name → id */
    private array $tenants;

    /** @var array<string, array<int, string>> site → number → id */
    private array $vlans = [];

    public function __construct()
    {
        $this->sites = Site::query()->pluck('id', 'name')->mapWithKeys(fn (string $id, string $name): array => [mb_strtolower($name) => $id])->all();
        $this->tenants = Tenant::query()->pluck('id', 'name')->mapWithKeys(fn (string $id, string $name): array => [mb_strtolower($name) => $id])->all();
        foreach (Vlan::query()->with('domain')->lazy(1000) as $vlan) {
            $this->vlans[$vlan->domain->site_id ?? ''][$vlan->number] = $vlan->id;
        }
    }

    /**
     * One row: what it is, where it stands in the tree, or why it is refused.
     *
     * @param  array<string, string>  $row  column → text
     * @return array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, place: ?string}
     */
    public function read(int $line, array $row): array
    {
        $text = ($row['address'] ?? '') !== '' ? $row['address'] : ($row['prefix'] ?? '');
        try {
            return ($row['address'] ?? '') !== '' ? $this->host($line, $row) : $this->prefix($line, $row);
        } catch (NotUnderstood $e) {
            return ['line' => $line, 'verdict' => 'refused', 'what' => $text, 'reason' => $e->getMessage().($e->suggestion === null ? '' : "; write $e->suggestion"), 'payload' => [], 'place' => null];
        } catch (\DomainException $e) {
            return ['line' => $line, 'verdict' => 'refused', 'what' => $text, 'reason' => $e->getMessage(), 'payload' => [], 'place' => null];
        }
    }

    /** @return \Generator<int, list<string>> the rows of a space, the header first */
    public static function write(Space $space): \Generator
    {
        yield self::COLUMNS;
        $tenants = Tenant::query()->pluck('name', 'id');
        $prefixes = Prefix::query()->with(['site', 'vlan'])->where('space_id', $space->id)->orderBy('family')->orderBy('first')->orderBy('length')->orderByDesc('groups');
        foreach ($prefixes->lazy(1000) as $p) {
            yield [(string) $p->prefix(), $p->kind, $p->stage, $p->name, $p->site->name ?? '', (string) ($p->vlan->number ?? ''), (string) $p->gateway, $p->description, '', '', $p->role, (string) ($tenants[$p->tenant_id ?? ''] ?? ''), implode(', ', $p->tags ?? []), $p->origin, (string) $p->origin_on?->format('Y-m-d'), $p->origin_handle, '', ''];
        }
        $hosts = Host::query()->where('space_id', $space->id)->orderBy('family')->orderBy('address');
        foreach ($hosts->lazy(2000) as $h) {
            yield ['', '', '', $h->name, '', '', '', $h->description, (string) $h->address, (string) $h->mac, $h->role, '', '', '', '', '', $h->owner, $h->interface];
        }
    }

    /** A cell that a spreadsheet would run as a formula is written as text. */
    public static function safe(string $cell): string
    {
        return $cell !== '' && in_array($cell[0], ['=', '+', '@', "\t", "\r"], true) ? "'".$cell : $cell;
    }

    /**
     * @param  array<string, string>  $row
     * @return array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, place: string}
     */
    private function prefix(int $line, array $row): array
    {
        $net = Net::parse($row['prefix'] ?? '');
        $kind = strtolower($row['kind'] ?? '') ?: 'subnet';
        $stage = strtolower($row['stage'] ?? '') ?: 'planned';
        if (! in_array($kind, \App\Actions\Plan\CarvePrefix::KINDS, true)) {
            throw new \DomainException("kind \"$kind\": supernet, subnet or pool was expected");
        }
        if (! in_array($stage, \App\Actions\Plan\CarvePrefix::STAGES, true)) {
            throw new \DomainException("stage \"$stage\": planned, live, retiring or withheld was expected");
        }
        $site = $this->site($row['site'] ?? '');
        if (($row['gateway'] ?? '') !== '' && ! $net->usable()->contains(Address::parse($row['gateway']))) {
            throw new \DomainException("gateway {$row['gateway']} is not a usable address of $net");
        }
        $input = ['prefix' => (string) $net, 'kind' => $kind, 'stage' => $stage, 'name' => $row['name'] ?? '', 'site' => $site, 'vlan' => $this->vlan($row['vlan'] ?? '', $site, $row['site'] ?? ''), 'gateway' => $row['gateway'] ?? '', 'description' => $row['description'] ?? '', 'role' => $row['role'] ?? '', 'tenant' => $this->tenant($row['tenant'] ?? ''), 'tags' => $row['tags'] ?? '', 'origin' => $row['origin'] ?? '', 'originOn' => $row['origin_on'] ?? '', 'originHandle' => $row['origin_handle'] ?? ''];
        if ($input['originOn'] !== '' && (preg_match('/\A(\d{4})-(\d\d)-(\d\d)\z/', $input['originOn'], $d) !== 1 || ! checkdate((int) $d[2], (int) $d[3], (int) $d[1]))) {
            throw new \DomainException("origin_on \"{$input['originOn']}\": a date as 2026-03-31 was expected");
        }

        return ['line' => $line, 'verdict' => 'read', 'what' => trim("$net $kind {$input['name']}"), 'reason' => '', 'payload' => ['is' => 'prefix', 'input' => $input], 'place' => self::place($net, $kind === 'supernet' ? 0 : 1)];
    }

    /**
     * @param  array<string, string>  $row
     * @return array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, place: string}
     */
    private function host(int $line, array $row): array
    {
        $address = Address::parse($row['address']);
        $mac = ($row['mac'] ?? '') === '' ? '' : (string) MacAddress::parse($row['mac']);
        $name = rtrim(strtolower($row['name'] ?? ''), '.');
        $role = strtolower($row['role'] ?? '') ?: 'host';
        if (! in_array($role, \App\Actions\Plan\PlaceHost::ROLES, true)) {
            throw new \DomainException("role \"$role\": host, gateway, virtual or service was expected");
        }
        if ($name !== '' && \HarborPost\Core\Dns\Name::tryParse($name.'.') === null) {
            throw new \DomainException("name \"$name\" is no domain name");
        }

        return ['line' => $line, 'verdict' => 'read', 'what' => trim("$address $name"), 'reason' => '', 'payload' => ['is' => 'host', 'input' => ['address' => (string) $address, 'name' => $name, 'mac' => $mac, 'description' => $row['description'] ?? '', 'role' => $role, 'owner' => $row['owner'] ?? '', 'interface' => $row['interface'] ?? '']], 'place' => self::place($address->in($address->family->bits()), 2)];
    }

    /** Bytes whose order is a walk of the tree: family, first, length, supernet before subnet before host. */
    public static function place(Net $net, int $rank): string
    {
        return chr($net->family()->value).str_pad($net->first->bytes, 16, "\0").chr($net->length).chr($rank);
    }

    private function site(string $name): string
    {
        return $name === '' ? '' : ($this->sites[mb_strtolower(trim($name))] ?? throw new \DomainException("site \"$name\" is not in the directory; add it first"));
    }

    private function tenant(string $name): string
    {
        return $name === '' ? '' : ($this->tenants[mb_strtolower(trim($name))] ?? throw new \DomainException("tenant \"$name\" is not in the directory; add it first"));
    }

    private function vlan(string $number, string $site, string $siteName): string
    {
        if ($number === '') {
            return '';
        }
        if (! ctype_digit($number) || (int) $number < 1 || (int) $number > 4094) {
            throw new \DomainException("VLAN \"$number\": a number from 1 to 4094 was expected");
        }

        return $this->vlans[$site][(int) $number] ?? throw new \DomainException("VLAN $number is in no layer-2 domain of ".($siteName === '' ? 'no site' : $siteName).'; add it first');
    }
}
