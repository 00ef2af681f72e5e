<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Domain\Lease\Delegations;
use App\Domain\Lease\Options;
use App\Domain\Lease\ScopeRanges;
use App\Links\ScopeForm;
use App\Live\LeaseNamesTold;
use App\Models\Ability;
use App\Models\Pair;
use App\Models\Power;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Server;
use App\Models\SwitchVlan;
use App\Models\TransferKey;
use App\Queries\ChangeReach;
use App\Queries\Choices;
use App\Queries\Granted;
use App\Queries\Inherited;
use App\Queries\InUse;
use App\Queries\NamingZones;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use App\Queries\PrefixPage;
use App\Queries\RouterSays;
use App\Queries\ScopeList;
use App\Queries\SharedLinks;
use App\Queries\VlanSheet;
use App\Shipping\Chain;
use App\Shipping\Drifts;
use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dhcp\Option\Definition;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

final class LeaseController extends Controller
{
    /** Leases that the page of a scope shows; all of them stand in a list of their own. */
    private const SHOWN = 20;

    /** Hours without a server that leases should outlive: a night. */
    private const OUTAGE = 12;

    public function index(Request $request): View
    {
        $filter = $request->string('filter')->toString();
        $scopeList = new ScopeList($this->reach(), $filter);
        $list = $scopeList->page($request->string('sort')->toString(), $request->integer('page', 1));
        $scopes = $list->rows;
        $leases = InUse::activeLeases()->whereIn('scope_id', $scopes->modelKeys())->where('length', 0)->groupBy('scope_id')
            ->selectRaw('scope_id, COUNT(DISTINCT address) as n')->toBase()->pluck('n', 'scope_id');
        $asked = $request->string('make')->toString();
        $make = $asked === '' ? null : $this->reach()->prefixes()->find($asked);
        $drifts = Drifts::of('scope', $scopes->modelKeys());
        app(Inherited::class)->ahead($scopes->pluck('prefix'));
        $chains = $scopes
            ->mapWithKeys(fn (Scope $s): array => [$s->id => Chain::ofScope($s->placements, self::digests($s), $drifts[$s->id] ?? [])])
            ->all();

        return view('lease.index', [
            'list' => $list, 'leases' => $leases, 'filter' => $filter, 'choices' => new Choices($this->reach()),
            'make' => $make, 'rule' => $make === null ? '' : ScopeList::ruleFor($make), 'registered' => self::settable(),
            'chains' => $chains, 'touched' => Drafts::touched($this->person()),
            'misread' => $scopeList->misread, 'words' => ScopeList::WORDS, 'pairs' => $this->pairs(),
        ]);
    }

    /** What its servers wrote into the name service: asked by packets. */
    public function names(string $scope): View
    {
        $this->wholeOnly();
        abort_unless($this->person()->operates(), 403);
        $row = $this->reach()->scopes()->with(['placements.server', 'prefix'])->findOrFail($scope);

        return view('lease.names', ['scope' => $row] + LeaseNamesTold::of($row));
    }

    /** Subnets that no scope leases: many scopes are made at once. */
    public function without(Request $request): View
    {
        $this->wholeOnly();
        $filter = $request->string('filter')->toString();

        return view('lease.without', [
            'list' => ScopeList::without(
                $this->reach(),
                $filter,
                $request->string('sort')->toString(),
                $request->integer('page', 1),
            ),
            'filter' => $filter, 'choices' => new Choices($this->reach()), 'pairs' => $this->pairs(),
            'words' => array_diff_key(ScopeList::WORDS, ['server:' => 1, 'pair:' => 1]), 'may' => $this->works(Power::Leases),
        ]);
    }

    /** @return array<string, string> */
    private function pairs(): array
    {
        return $this->reach()->isWhole() ? Pair::query()->orderBy('name')->pluck('name', 'id')->all() : [];
    }

    public function scope(string $scope): View
    {
        $row = $this->reach()->scopes()->with([
            'prefix.site', 'prefix.vlan', 'ranges', 'exclusions', 'delegations', 'reservations.optionValues', 'placements.server',
            'optionValues',
            'pair.first', 'pair.second', 'nameZone.placements.server', 'nameZone.view', 'nameKey',
        ])->findOrFail($scope);
        [$runs] = (new PrefixPage($this->reach()))->runs($row->prefix, $row);
        $leases = InUse::activeLeases()->with('server')->where('scope_id', $row->id)->orderBy('address')->limit(self::SHOWN)->get();
        $digests = self::digests($row);
        $drifted = Drifts::of('scope', [$row->id])[$row->id] ?? [];
        $layers = app(OptionLayers::class);

        return view($row->family() === Family::V6 ? 'lease.scope-v6' : 'lease.scope', [
            'reserve' => Granted::worksIn($this->person(), Ability::Leases, $row->prefix),
            'beside' => $this->reach()->scopes()->with('prefix')->whereKey(app(SharedLinks::class)->beside($row))->get(),
            'scope' => $row, 'prefix' => $row->prefix, 'net' => $row->prefix->prefix(), 'runs' => $runs,
            'leases' => $leases, 'leased' => InUse::activeLeases()->where('scope_id', $row->id)->count(),
            'book' => OwnOptions::now(),
            'stack' => $layers->of($row, $row->placements->first()?->server), 'classes' => $layers->classes(),
            'chain' => Chain::ofScope($row->placements, $digests, $drifted), 'drifted' => $drifted,
            'reach' => $row->lease_time === Scope::INFINITE ? null : ChangeReach::of($row),
            'advice' => ChangeReach::advice($row, self::OUTAGE * 3600), 'outage' => self::OUTAGE,
            'digests' => $digests, 'choices' => new Choices($this->reach()),
            'servers' => Server::query()->pluck('name', 'id'), 'touched' => Drafts::touched($this->person()),
            'registered' => self::settable($row->family()), 'pairs' => $this->pairs(),
            ...$row->family() === Family::V6 ? $this->ofV6($row) : $this->way($row),
            'namers' => array_column(array_map(static fn (LeaseNames $n): array => [$n->value, $n->title()], LeaseNames::cases()), 1, 0),
            'pointers' => $row->nameZone === null
                || app(NamingZones::class)->reverse($row, $row->nameZone, $row->nameKey)->isNotEmpty(),
            'keys' => $this->reach()->isWhole() ? TransferKey::query()->orderBy('name')->pluck('name', 'id')->all() : [],
        ]);
    }

    /** @return array{vlanSheet: ?array<string, mixed>, relays: list<string>} the places where the VLAN of a scope has to be right */
    private function way(Scope $scope): array
    {
        $vlan = $scope->prefix->vlan;
        if ($vlan === null) {
            return ['vlanSheet' => null, 'relays' => []];
        }
        $vlans = $this->reach()->vlans()->with('domain')->whereKey($vlan->id)->get();
        $switch = SwitchVlan::query()->where('domain_id', $vlan->domain_id)->where('number', $vlan->number)->first();

        return ['vlanSheet' => VlanSheet::of($vlans, $this->reach())[$vlan->id] ?? null, 'relays' => $switch->relays ?? []];
    }

    /** @return array<string, mixed> what the page of an IPv6 scope shows besides */
    private function ofV6(Scope $scope): array
    {
        $router = RouterSays::of($scope);
        $out = $pools = [];
        foreach ($scope->ranges as $range) {
            $out[$range->id] = self::within($scope, $range->first, $range->last)->where('length', 0)->count();
        }
        foreach ($scope->delegations as $one) {
            $pool = $one->delegation()->pool;
            $out[$one->id] = self::within($scope, $pool->first, $pool->last())->where('length', '>', 0)->count();
            $pools[$one->id] = $this->reach()->prefixes()->where('space_id', $scope->prefix->space_id)->where('family', 6)
                ->where('kind', PrefixKind::Pool)
                ->where('first', '<=', $pool->first->bytes)->orderByDesc('first')->limit(8)->get()
                ->first(static fn (Prefix $p): bool => $p->prefix()->contains($pool))?->id;
        }

        return [
            'router' => $router->lines, 'routerProblem' => $router->problem, 'out' => $out, 'pools' => array_filter($pools),
            'texts' => ScopeRanges::texts($scope), 'poolTexts' => Delegations::texts($scope),
        ];
    }

    /** @return \Illuminate\Database\Eloquent\Builder<\App\Models\Lease> */
    private static function within(Scope $scope, Address $first, Address $last): \Illuminate\Database\Eloquent\Builder
    {
        return InUse::activeLeases()->where('scope_id', $scope->id)->whereBetween('address', [$first->bytes, $last->bytes]);
    }

    /** @return array<int, string> options that people set: code → code and name */
    public static function settable(Family $family = Family::V4): array
    {
        return collect(OwnOptions::now()->all($family))->reject(fn (Definition $d): bool => Options::isNotByHand($d->code, $family))
            ->sortBy('code')->mapWithKeys(fn (Definition $d): array => [$d->code => "$d->code $d->name"])->all();
    }

    /** @return array<string, string> server → digest of the scope as it is meant to be there */
    private static function digests(Scope $scope): array
    {
        return $scope->placements
            ->mapWithKeys(fn (\App\Models\ScopeServer $p): array => [$p->server_id => ScopeForm::digest($scope, $p->server)])
            ->all();
    }
}
