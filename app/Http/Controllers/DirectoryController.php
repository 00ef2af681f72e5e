<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Acts\Engine\Acts;
use App\Acts\Scan\KeepSwitchVlans;
use App\Links\NetworkLink;
use App\Links\Unanswered;
use App\Models\Device;
use App\Models\Layer2Domain;
use App\Models\OwnField;
use App\Models\Person;
use App\Models\Role;
use App\Models\Space;
use App\Models\SwitchVlan;
use App\Models\Tenant;
use App\Queries\Choices;
use App\Queries\Inherited;
use App\Queries\Intents;
use App\Queries\Owner;
use App\Queries\SiteUse;
use App\Queries\SwitchIntent;
use App\Queries\VlanSheet;
use Illuminate\Contracts\View\View;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

final class DirectoryController extends Controller
{
    private const ROWS = 300;

    public function show(Request $request, string $list): View
    {
        $reach = $this->reach();
        abort_if(! $reach->isWhole() && in_array($list, ['tenants', 'people', 'devices', 'spaces', 'domains'], true), 403);
        $vlans = $list !== 'vlans' ? new Collection : $reach->vlans()->with('domain.site')
            ->when($request->filled('number'), fn ($q) => $q->where('number', $request->integer('number')))
            ->orderBy('number')->orderBy('domain_id')->limit(self::ROWS)->get();
        // All of them: what lies in a site counts for it, however long the list.
        $sites = $list !== 'sites' ? new Collection : $reach->sites()->with('parent')->orderBy('name')->get();
        $rows = match ($list) {
            'sites' => $sites,
            'tenants' => Tenant::query()->orderBy('name')->limit(self::ROWS)->get(),
            'devices' => Device::query()->orderBy('name')->limit(self::ROWS)->get(),
            'spaces' => Space::query()->orderBy('name')->limit(self::ROWS)->get(),
            'domains' => Layer2Domain::query()->with('site')->orderBy('name')->limit(self::ROWS)->get(),
            'people' => Person::query()->orderBy('sign_in')->limit(self::ROWS)->get(),
            default => $vlans,
        };
        $sheet = $list === 'vlans' ? VlanSheet::of($vlans, $reach) : [];
        $counts = match ($list) {
            'tenants' => $reach->prefixes()->whereNotNull('effective_tenant_id')->groupBy('effective_tenant_id')
                ->selectRaw('effective_tenant_id as k, COUNT(*) as n')->toBase()->pluck('n', 'k'),
            'vlans' => $reach->prefixes()->whereIn('vlan_id', $rows->modelKeys())->groupBy('vlan_id')
                ->selectRaw('vlan_id as k, COUNT(*) as n')->toBase()->pluck('n', 'k'),
            'spaces' => DB::table('prefixes')->groupBy('space_id')->selectRaw('space_id as k, COUNT(*) as n')->pluck('n', 'k'),
            'domains' => DB::table('vlans')->groupBy('domain_id')->selectRaw('domain_id as k, COUNT(*) as n')->pluck('n', 'k'),
            'devices' => DB::table('addresses')->whereIn('device_id', $rows->modelKeys())->groupBy('device_id')
                ->selectRaw('device_id as k, COUNT(*) as n')->pluck('n', 'k'),
            default => collect(),
        };

        return view(
            'directory.show',
            [
                'list' => $list,
                'rows' => $request->boolean('wrong') ? $rows->whereIn('id', VlanSheet::wrong($sheet)) : $rows,
                'sheet' => $sheet,
                'wrong' => count(VlanSheet::wrong($sheet)),
                'duplicates' => $list === 'vlans' ? VlanSheet::duplicates($reach) : [],
                'network' => $list === 'vlans' ? NetworkLink::first()?->server->id : null,
                'read' => $list === 'vlans' ? SwitchVlan::query()->max('read_at') : null,
                'counts' => $counts,
                'owner' => new Owner,
                'siteUse' => $list === 'sites' ? SiteUse::of($sites->toBase(), $reach) : null,
                'edited' => $request->string('edit')->toString() === '' ? null : $rows->find($request->string('edit')->toString()),
                'choices' => new Choices($reach),
                'tenants' => $reach->isWhole() ? Tenant::query()->pluck('name', 'id') : collect(),
            ],
        );
    }

    /** A site: what it hands down and where that comes from, and its prefixes. */
    public function site(string $site): View
    {
        $reach = $this->reach();
        $row = $reach->sites()->with('parent')->findOrFail($site);

        return view('directory.site', [
            'owner' => (new Owner)->words($row), 'choices' => new Choices($reach),
            'site' => $row, 'layers' => app(Inherited::class)->ofSite($row->id), 'may' => $this->mayPlan(),
            'inside' => $reach->sites()->where('parent_id', $row->id)->orderBy('name')->get(),
            'prefixes' => $reach->prefixes()->where('site_id', $row->id)->with('vlan')->orderBy('family')
                ->orderBy('first')->orderBy('length')->limit(self::ROWS)->get(),
            'touched' => Drafts::touched($this->person()),
        ]);
    }

    /** The outermost layer of the settings, and the fields that the team added to prefixes. */
    public function settings(): View
    {
        $this->wholeOnly();

        return view(
            'directory.settings',
            [
                'layers' => app(Inherited::class)->ofSite(''),
                'may' => $this->mayPlan(),
                'fields' => OwnField::query()->orderBy('name')->get(),
            ],
        );
    }

    /** One VLAN: its sheet, its subnets, and what can be done with it. */
    public function vlan(string $vlan): View
    {
        $reach = $this->reach();
        $row = $reach->vlans()->with('domain.site')->findOrFail($vlan);
        $free = $this->mayPlan()
            ? $reach->prefixes()->where('kind', 'subnet')->whereNull('vlan_id')
                ->when($row->domain->site_id, fn ($q, $s) => $q->where('site_id', $s))->orderBy('family')
                ->orderBy('first')->limit(self::ROWS)->get()
            : collect();

        $intent = SwitchIntent::of(new \Illuminate\Database\Eloquent\Collection([$row]))[$row->id];
        $denies = SwitchVlan::query()->where('domain_id', $row->domain_id)->where('number', $row->number)->first()?->denies;

        return view('directory.vlan', [
            'rules' => $reach->isWhole() ? Intents::naming([$row->id]) : collect(),
            'needs' => array_map(static fn (array $n): array => $n + [
                'filtered' => $denies === null ? null : $intent->hides($denies, $n['address']),
            ], $reach->isWhole() ? $intent->needs() : []),
            'vlan' => $row, 'owner' => (new Owner)->words($row),
            'sheet' => VlanSheet::of(new \Illuminate\Database\Eloquent\Collection([$row]), $reach)[$row->id],
            'prefixes' => $reach->prefixes()->where('vlan_id', $row->id)->with(['site', 'vlan'])->orderBy('family')
                ->orderBy('first')->limit(self::ROWS)->get(),
            'free' => $free, 'may' => $this->mayPlan(), 'touched' => Drafts::touched($this->person()), 'choices' => new Choices($reach),
            'others' => $reach->vlans()->with('domain')->where('number', $row->number)->whereKeyNot($row->id)->limit(50)->get(),
        ]);
    }

    /** Asks the switches now. */
    public function readSwitches(Acts $acts): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->mayPlan() || $this->person()->does(Role::Operator), 403);
        $link = NetworkLink::first();
        if ($link === null) {
            return back()->with('bad', 'No server that reads the network is written down. A steward writes one down under Ship.');
        }
        try {
            $outcome = $acts->commit($this->person(), [new KeepSwitchVlans($link->vlans(), $link->ports())]);
        } catch (Unanswered $e) {
            return back()->with('bad', $e->getMessage());
        }

        return back()->with(
            'done',
            (is_int($outcome->made('vlans')) ? $outcome->made('vlans') : 0)
                .' VLANs read from the switches.'
                .implode(' ', array_map(fn ($n): string => " $n->message.", $outcome->notes())),
        );
    }

    private function mayPlan(): bool
    {
        return $this->person()->does(Role::Planner) && $this->reach()->isWhole();
    }
}
