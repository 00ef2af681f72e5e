<?php

declare(strict_types=1);

namespace App\Queries;

use App\Database\Words;
use App\Models\Device;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Reservation;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\Understood;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * One field for everything: says how it was read and follows the chain prefix → subnet → address → names → reservation → lease
 * → device.
 */
final class Find
{
    private const MOST = 50;

    /** Fewer letters begin too many words. */
    private const LETTERS = 2;

    /** More owners or sites than this are a list to choose from, and what is theirs is not read. */
    private const FEW = 5;

    /** @var list<string> how the text was read */
    public array $understood = [];

    /** @var array<string, Collection<int, mixed>> */
    public array $found = [];

    public ?Net $net = null;

    /** @var list<array{words: string, link: ?string}> what one address is, in sentences */
    public array $tells = [];

    private function __construct(private readonly Reach $reach)
    {
    }

    public static function text(string $text, Reach $reach): self
    {
        $find = new self($reach);
        $text = trim($text);
        if ($text === '') {
            return $find;
        }
        $mac = MacAddress::tryParse($text);
        if ($mac !== null) {
            $find->understood[] = "MAC address $mac";
            $find->byMac($mac);

            return $find;
        }
        $begun = self::begun($text);
        if ($begun !== null) {
            $find->understood[] = "the beginning of an address, so all of $begun";
            $find->byPrefix(Understood::from((string) $begun));

            return $find;
        }
        try {
            $understood = preg_match('/^[0-9a-f:.\/\s-]+$/i', $text) === 1
                && preg_match('/[.:]/', $text) === 1 ? Understood::from($text) : null;
        } catch (NotUnderstood $e) {
            $find->understood[] = $e->getMessage();
            $understood = null;
        }
        if ($understood !== null) {
            $find->byPrefix($understood);

            return $find;
        }
        if (preg_match('/\A\d{1,4}\z/', $text) === 1 && (int) $text >= 1 && (int) $text <= 4094) {
            $find->understood[] = "VLAN number $text";
            $find->put('VLANs', $reach->vlans()->with('domain.site')->where('number', (int) $text)->limit(self::MOST)->get());
            $find->put(
                'Prefixes',
                $reach->prefixes()->with(['space', 'site', 'vlan'])
                    ->whereIn('vlan_id', $reach->vlans()->where('number', (int) $text)->select('vlans.id'))
                    ->orderBy('first')->limit(self::MOST)->get(),
            );
        }
        $find->byName($text);

        return $find;
    }

    /** `10.38.8` or `10.38.`: the octets that are there are the prefix; a length may follow. */
    private static function begun(string $text): ?Net
    {
        if (preg_match('~\A(\d{1,3}(?:\.\d{1,3}){0,2})\.?(?:/(\d{1,2}))?\z~', $text, $m) !== 1 || ! str_contains($text, '.')) {
            return null;
        }
        $octets = explode('.', $m[1]);

        return Net::tryParse(implode('.', array_pad($octets, 4, '0')).'/'.($m[2] ?? 8 * count($octets)));
    }

    private function byPrefix(Understood $understood): void
    {
        $net = $understood->prefix;
        if ($net === null) {
            $this->understood[] = "range of {$understood->range->size()} addresses, no prefix; it takes "
                .implode(', ', array_slice(array_map(strval(...), $understood->range->prefixes()), 0, 6));
            $net = $understood->range->prefixes()[0];
        }
        $this->net = $net;
        $single = $net->length === $net->family()->bits();
        $this->understood[] = $single
            ? "address $net->first"
            : "prefix $net".($understood->hostBits ? ", the network of $understood->address" : '');
        $prefixes = collect();
        foreach (Space::query()->get() as $space) {
            foreach (Ancestors::of($space->id, $net) as $above) {
                if ($this->reach->isWhole() || $this->reach->prefixes()->whereKey($above->id)->exists()) {
                    $above->setRelation('space', $space);
                    $prefixes->push($above);
                }
            }
        }
        if (! $single) {
            $prefixes = $prefixes->concat(
                $this->reach->prefixes()->with(['space', 'site', 'vlan'])
                    ->whereIn('space_id', Space::query()->pluck('id'))->where('family', $net->family()->value)
                    ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])
                    ->where('length', '>', $net->length)->orderBy('first')->orderBy('length')->limit(20)->get(),
            );
        }
        $this->put(
            'Prefixes',
            $prefixes
                ->sort(fn (Prefix $a, Prefix $b): int => strcmp($a->space->name, $b->space->name) ?: $a->prefix()->compare($b->prefix()))
                ->values(),
        );
        $address = $understood->hostBits ? $understood->address : ($single ? $net->first : null);
        if ($address !== null) {
            $this->byAddress($address);
            $this->tells = AddressTold::of($this->reach, $address);
        }
    }

    private function byAddress(Address $address): void
    {
        $hosts = $this->reach->hosts()->with(['prefix.space', 'device'])
            ->whereIn('space_id', Space::query()->pluck('id'))->where('family', $address->family->value)
            ->where('address', $address->bytes)->limit(self::MOST)->get();
        $this->put('Addresses', $hosts);
        $ids = $hosts->modelKeys();
        $reverse = ReverseName::of($address);
        $this->put(
            'Names',
            $this->reach->records()->with('zone.view')->whereIn('address_id', $ids)->limit(self::MOST)->get()
                ->concat($this->reach->records()->with('zone.view')->where('owner', (string) $reverse)->limit(self::MOST)->get())
                ->unique('id')->values(),
        );
        $scopes = $this->reach->isWhole() ? null : $this->reach->scopes()->select('scopes.id');
        $this->put(
            'Reservations',
            Reservation::query()->with('scope')->where('address', $address->bytes)
                ->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))->limit(self::MOST)->get(),
        );
        $this->put(
            'Leases',
            Lease::query()->with('server')->where('address', $address->bytes)
                ->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))->limit(self::MOST)->get(),
        );
        $this->put('Devices', $hosts->map(fn (Host $h): ?Device => $h->device)->filter()->values());
        $this->put('Earlier leases', $this->reach->isWhole() ? self::earlier('address', $address->bytes) : collect());
    }

    /**
     * @param  string  $what  bytes, or the start of a name as LIKE has it
     * @return Collection<int, Lease> who had an address, or which ones a client had, before what servers tell now, each in an index's order
     */
    private static function earlier(string $column, string $what): Collection
    {
        $bindings = DB::table('lease_bindings');
        $rows = ($column === 'host_name'
            ? $bindings->where($column, 'like', $what)->orderBy($column)->orderBy('id')
            : $bindings->where($column, $what)->orderByDesc('id')
        )->limit(self::MOST)->get()
            ->map(static fn (\stdClass $row): Lease => (new Lease)->newFromBuilder([
                'server_id' => $row->server_id, 'address' => $row->address, 'mac' => $row->mac, 'host_name' => $row->host_name,
                'state' => 'until', 'starts_at' => $row->starts_at, 'ends_at' => $row->until_at, 'gone_at' => null, 'scope_id' => null,
            ]));

        return (new Lease)->newCollection($rows->all())->load('server');
    }

    private function byMac(MacAddress $mac): void
    {
        $hosts = $this->reach->hosts()->with(['prefix.space', 'device'])->where('mac', $mac->bytes)->limit(self::MOST)->get();
        $this->put('Addresses', $hosts);
        $this->put(
            'Names',
            $this->reach->records()->with('zone.view')->whereIn('address_id', $hosts->modelKeys())->limit(self::MOST)->get(),
        );
        $scopes = $this->reach->isWhole() ? null : $this->reach->scopes()->select('scopes.id');
        $this->put(
            'Reservations',
            Reservation::query()->with('scope')->where('mac', $mac->bytes)
                ->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))->limit(self::MOST)->get(),
        );
        $this->put(
            'Leases',
            Lease::query()->with('server')->where('mac', $mac->bytes)
                ->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))->limit(self::MOST)->get(),
        );
        $this->put('Devices', $hosts->map(fn (Host $h): ?Device => $h->device)->filter()->values());
        $this->put('Earlier leases', $this->reach->isWhole() ? self::earlier('mac', $mac->bytes) : collect());
    }

    /** From its start, which an index serves; never in the middle. */
    private function byName(string $text): void
    {
        $like = addcslashes(strtolower(rtrim($text, '.')), '%_\\').'%';
        $this->understood[] = "start of a name, \"$text\"";
        $this->put(
            'Prefixes',
            ($this->found['Prefixes'] ?? collect())->concat(
                $this->reach->prefixes()->with(['space', 'site', 'vlan'])
                    ->where('name', 'like', addcslashes($text, '%_\\').'%')->orderBy('name')->limit(self::MOST)->get(),
            ),
        );
        $hosts = $this->reach->hosts()->with(['prefix.space', 'device'])->where('name', 'like', $like)->orderBy('name')
            ->limit(self::MOST)->get();
        // Zones are few: each label of theirs is looked at, those that begin so first.
        $this->put('Zones', $this->reach->zones()->with('view')
            ->where(fn ($q) => $q->where('zones.name', 'like', $like)->orWhere('zones.name', 'like', "%.$like"))
            ->orderByRaw('zones.name LIKE ? DESC', [$like])->orderBy('zones.name')->limit(self::MOST)->get());
        $this->put('Addresses', $hosts);
        $this->put(
            'Names',
            $this->reach->records()->with('zone.view')->where('owner', 'like', $like)->orderBy('owner')->limit(self::MOST)->get(),
        );
        $this->put(
            'Scopes',
            $this->reach->scopes()->with('prefix')->where('scopes.name', 'like', addcslashes($text, '%_\\').'%')->limit(self::MOST)->get(),
        );
        $this->put(
            'Devices',
            $this->reach->isWhole() ? Device::query()->where('name', 'like', $like)->limit(self::MOST)->get() : collect(),
        );
        $scopes = $this->reach->isWhole() ? null : $this->reach->scopes()->select('scopes.id');
        $this->put(
            'Leases',
            Lease::query()->with('server')->where('host_name', 'like', $like)->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))
                ->orderBy('host_name')->limit(self::MOST)->get(),
        );
        $known = $this->reach->isWhole() && mb_strlen($text) >= self::LETTERS;
        $this->put('Earlier leases', $known ? self::earlier('host_name', $like) : collect());
        $this->byDirectory($text);
        $this->byWords($text);
        $name = Name::tryParse(rtrim($text, '.').'.');
        if ($name !== null && count($name->labels()) > 1 && $this->found['Names']->isEmpty()) {
            $zone = Zones::closest($name, null);
            if ($zone !== null && ($this->reach->isWhole() || $this->reach->zones()->whereKey($zone->id)->exists())) {
                $this->understood[] = "it would be in the zone {$zone->title()}, which has no such name";
            }
        }
    }

    /** Words inside names, descriptions and owners, as far as what begins so leaves room. */
    private function byWords(string $text): void
    {
        $words = Words::split($text);
        if ($words === [] || max(array_map(mb_strlen(...), $words)) < self::LETTERS) {
            return;
        }
        $this->understood[] = 'words inside names and descriptions';
        $scopes = $this->reach->isWhole() ? null : $this->reach->scopes()->select('scopes.id');
        $kinds = [
            'address' => ['Addresses', $this->reach->hosts()->with(['prefix.space', 'device'])],
            'prefix' => ['Prefixes', $this->reach->prefixes()->with(['space', 'site', 'vlan'])],
            'record' => ['Names', $this->reach->records()->with('zone.view')],
            'reservation' => [
                'Reservations', Reservation::query()->with('scope')->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes)),
            ],
        ];
        $many = false;
        foreach ($kinds as $noun => [$title, $rows]) {
            $begun = $this->found[$title] ?? collect();
            if ($begun->count() >= self::MOST) {
                continue;
            }
            $key = $rows->getModel()->getQualifiedKeyName();
            $ids = Words::rowsWith($noun, $words, self::MOST, $this->reach->isWhole() ? null : (clone $rows)->select($key));
            $many = $many || $ids === null;
            $this->put($title, $begun->concat($rows->whereIn($key, $ids ?? [])->get())->unique('id')->take(self::MOST)->values());
        }
        if ($many) {
            $this->understood[] = 'of those inside names there are too many to look through: type more of it';
        }
    }

    /** Lists that are short are searched in the middle of names too. */
    private function byDirectory(string $text): void
    {
        if (! $this->reach->isWhole()) {
            return;
        }
        $like = '%'.addcslashes($text, '%_\\').'%';
        $this->put('Sites', Site::query()->with('parent')->where('name', 'like', $like)->orderBy('name')->limit(self::MOST)->get());
        $this->put('Tenants', Tenant::query()->where('name', 'like', $like)->orderBy('name')->limit(self::MOST)->get());
        $this->put('Servers', Server::query()->with('site')->where('name', 'like', $like)->orderBy('name')->limit(self::MOST)->get());
        $vlans = $this->reach->vlans()->with('domain.site')->where('vlans.name', 'like', $like)->orderBy('number')
            ->limit(self::MOST)->get();
        $this->put('VLANs', ($this->found['VLANs'] ?? collect())->concat($vlans)->unique('id')->values());
        $owners = $this->found['Tenants'];
        $this->belonging('tenant_id', $owners, 'owner %s, so what says that it is theirs', Prefix::class, Zone::class, Device::class);
        $this->belonging('site_id', $this->found['Sites'], 'site %s, so what says that it is there', Prefix::class, Device::class);
    }

    /**
     * What names one of a few owners or sites itself, each by an index; what inherits them stands below it.
     *
     * @param  Collection<int, covariant Tenant|Site>  $whose
     * @param  class-string<Prefix|Zone|Device>  ...$kinds
     */
    private function belonging(string $column, Collection $whose, string $words, string ...$kinds): void
    {
        if ($whose->isEmpty() || $whose->count() > self::FEW) {
            return;
        }
        $this->understood[] = sprintf($words, $whose->pluck('name')->implode(', '));
        foreach ($kinds as $kind) {
            [$title, $rows] = match ($kind) {
                Prefix::class => ['Prefixes', $this->reach->prefixes()->with(['space', 'site', 'vlan'])->orderBy('first')],
                Zone::class => ['Zones', $this->reach->zones()->with('view')->orderBy('name')],
                Device::class => ['Devices', Device::query()->orderBy('name')],
            };
            $found = $rows->whereIn($column, $whose->pluck('id'))->limit(self::MOST)->get();
            $this->put($title, ($this->found[$title] ?? collect())->concat($found)->unique('id')->values());
        }
    }

    /** @param  Collection<int, mixed>  $rows */
    private function put(string $kind, Collection $rows): void
    {
        $this->found[$kind] = $rows;
    }
}
