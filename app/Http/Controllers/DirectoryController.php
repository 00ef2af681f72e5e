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
use App\Models\Model;
use App\Models\OwnField;
use App\Models\PrefixKind;
use App\Models\Role;
use App\Models\Site;
use App\Models\Space;
use App\Models\SwitchVlan;
use App\Models\Tenant;
use App\Models\Vlan;
use App\Queries\Choices;
use App\Queries\DirectoryList;
use App\Queries\Inherited;
use App\Queries\Intents;
use App\Queries\Owner;
use App\Queries\SiteUse;
use App\Queries\SwitchIntent;
use App\Queries\VlanSheet;
use Illuminate\Contracts\View\View;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model as EloquentModel;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Collection as SupportCollection;
use Illuminate\Support\Facades\DB;

final class DirectoryController extends Controller
{
    private const ROWS = 300;

    public function show(Request $request, string $list): View
    {
        $reach = $this->reach();
        abort_if(! $reach->isWhole() && in_array($list, ['tenants', 'people', 'devices', 'spaces', 'domains'], true), 403);
        $filter = $request->string('filter')->toString();
        // All sites: what lies in one counts for it, however long the list.
        $sites = $list !== 'sites' ? new Collection : $reach->sites()->orderBy('name')->get();
        // The site above may be one that its reader does not see: it is not named.
        $sites->each(static fn (Site $s): Site => $s->setRelation('parent', $s->parent_id === null ? null : $sites->find($s->parent_id)));
        $found = DirectoryList::has($list) ? new DirectoryList($list, $reach, $filter) : null;
        $page = $found?->page($request->string('sort')->toString(), $request->integer('page', 1));
        $rows = $page->rows ?? $sites;
        $edit = $request->string('edit')->toString();

        return view('directory.show', [
            'list' => $list, 'listed' => $page, 'rows' => $rows, 'filter' => $filter,
            'words' => $found?->words() ?? [], 'misread' => $found->misread ?? [],
            'counts' => $this->counts($list, $rows),
            'owner' => new Owner,
            'siteUse' => $list === 'sites' ? SiteUse::of($sites->toBase(), $reach) : null,
            'edited' => $edit === '' ? null : ($rows->find($edit) ?? self::unlisted($list, $edit)),
            'choices' => new Choices($reach),
            'tenants' => $reach->isWhole() ? Tenant::query()->pluck('name', 'id') : collect(),
        ] + ($list !== 'vlans' ? [] : [
            'sheet' => VlanSheet::of(new Collection(array_filter($rows->all(), static fn (mixed $r): bool => $r instanceof Vlan)), $reach),
            'duplicates' => VlanSheet::duplicates($reach),
            'network' => NetworkLink::first()?->server->id, 'read' => SwitchVlan::query()->max('read_at'),
        ]));
    }

    /** What is changed beside the list need not stand on this page of it. Only whole reach gets here: sites are all listed. */
    private static function unlisted(string $list, string $id): ?Model
    {
        return match ($list) {
            'tenants' => Tenant::query()->find($id),
            'spaces' => Space::query()->find($id),
            'domains' => Layer2Domain::query()->with('site')->find($id),
            'devices' => Device::query()->find($id),
            default => null,
        };
    }

    /**
     * What hangs on each row that is shown.
     *
     * @param  Collection<int, covariant EloquentModel>  $rows
     * @return SupportCollection<array-key, mixed> id → a number
     */
    private function counts(string $list, Collection $rows): SupportCollection
    {
        [$table, $column] = match ($list) {
            'tenants' => ['prefixes', 'effective_tenant_id'],
            'spaces' => ['prefixes', 'space_id'],
            'domains' => ['vlans', 'domain_id'],
            'devices' => ['addresses', 'device_id'],
            default => [null, ''],
        };

        return $table === null ? collect() : DB::table($table)->whereIn($column, $rows->modelKeys())->groupBy($column)
            ->selectRaw("$column as k, COUNT(*) as n")->pluck('n', 'k');
    }

    /** A site: what it hands down and where that comes from, and its prefixes. */
    public function site(string $site): View
    {
        $reach = $this->reach();
        $row = $reach->sites()->findOrFail($site);

        return view('directory.site', [
            'owner' => (new Owner)->words($row), 'choices' => new Choices($reach),
            'within' => $row->parent_id === null ? null : $reach->sites()->find($row->parent_id),
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
            ? $reach->prefixes()->where('kind', PrefixKind::Subnet)->whereNull('vlan_id')
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
