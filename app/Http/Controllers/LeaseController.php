<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Links\StandinDhcpLink;
use App\Live\Exchange;
use App\Live\ExchangeClient;
use App\Models\OptionValue;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\Choices;
use App\Queries\Inherited;
use App\Queries\InUse;
use App\Queries\PrefixPage;
use App\Shipping\Chain;
use App\Shipping\Drifts;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Contracts\View\View;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\Request;

final class LeaseController extends Controller
{
    private const ROWS = 100;

    public function index(Request $request): View
    {
        $filter = $request->string('filter')->toString();
        $scopes = $this->reach()->scopes()
            ->with(['prefix.site', 'prefix.vlan', 'placements.server', 'ranges', 'exclusions', 'reservations', 'optionValues'])
            ->when($filter !== '', fn (Builder $q) => $q->where('scopes.name', 'like', addcslashes($filter, '%_\\').'%'))
            ->orderBy('scopes.name')->orderBy('scopes.id')->limit(self::ROWS + 1)->get();
        $more = $scopes->count() > self::ROWS;
        $leases = InUse::activeLeases()->whereIn('scope_id', $scopes->modelKeys())->groupBy('scope_id')
            ->selectRaw('scope_id, COUNT(DISTINCT address) as n')->toBase()->pluck('n', 'scope_id');
        $make = $request->string('make')->toString();
        $drifts = Drifts::of('scope', $scopes->modelKeys());
        $chains = $scopes
            ->mapWithKeys(fn (Scope $s): array => [$s->id => Chain::ofScope($s->placements, self::digests($s), $drifts[$s->id] ?? [])])
            ->all();

        return view('lease.index', [
            'scopes' => $scopes, 'more' => $more, 'leases' => $leases, 'filter' => $filter, 'choices' => new Choices($this->reach()),
            'make' => $make === '' ? null : $this->reach()->prefixes()->find($make),
            'subnets' => $this->free(), 'chains' => $chains, 'touched' => Drafts::touched($this->person()),
        ]);
    }

    public function scope(string $scope): View
    {
        $row = $this->reach()->scopes()
            ->with(['prefix.site', 'prefix.vlan', 'ranges', 'exclusions', 'reservations', 'placements.server'])
            ->findOrFail($scope);
        [$runs] = (new PrefixPage($this->reach()))->runs($row->prefix, $row);
        $leases = InUse::activeLeases()->with('server')->where('scope_id', $row->id)->orderBy('address')->limit(self::ROWS + 1)->get();
        $digests = self::digests($row);

        return view('lease.scope', [
            'scope' => $row, 'prefix' => $row->prefix, 'net' => $row->prefix->prefix(), 'runs' => $runs,
            'leases' => $leases->take(self::ROWS), 'moreLeases' => $leases->count() > self::ROWS,
            'options' => OptionValue::query()->where('layer', 'scope')->where('layer_id', $row->id)->orderBy('code')->get(),
            'chain' => Chain::ofScope($row->placements, $digests, Drifts::of('scope', [$row->id])[$row->id] ?? []),
            'digests' => $digests,
            'inherited' => app(Inherited::class)->optionsWithOrigin($row->prefix), 'choices' => new Choices($this->reach()),
            'servers' => Server::query()->pluck('name', 'id'), 'touched' => Drafts::touched($this->person()),
            'registered' => OptionTable::all(),
        ]);
    }

    /** @return array<string, string> server → digest of the scope as it is meant to be there */
    private static function digests(Scope $scope): array
    {
        return $scope->placements
            ->mapWithKeys(fn (\App\Models\ScopeServer $p): array => [$p->server_id => StandinDhcpLink::digest($scope, $p->server)])
            ->all();
    }

    public function exchange(Request $request): View
    {
        return $this->exchangePage($request, null, null);
    }

    /** Sends real packets: an operator's right, asked for before anything is looked up. */
    public function run(Request $request): View
    {
        $this->wholeOnly();
        abort_unless($this->person()->operatesAll(), 403);
        $scope = Scope::query()->with('prefix')->findOrFail($request->string('scope')->toString());
        $server = Server::query()->where('kind', 'dhcp')->findOrFail($request->string('server')->toString());
        try {
            $mac = MacAddress::parse($request->string('mac')->toString());
            ExchangeClient::check($mac);
        } catch (NotUnderstood|\DomainException $e) {
            return $this->exchangePage($request, null, $e->getMessage());
        }
        $asked = array_values(
            array_filter(
                array_map(intval(...), preg_split('/[\s,]+/', $request->string('asked')->toString(), -1, PREG_SPLIT_NO_EMPTY) ?: []),
                fn (int $c): bool => $c > 0 && $c < 255,
            ),
        );

        return $this->exchangePage(
            $request,
            Exchange::run($scope, $server, $mac, substr($request->string('name')->toString(), 0, 63), $asked),
            null,
        );
    }

    private function exchangePage(Request $request, ?Exchange $exchange, ?string $problem): View
    {
        $this->wholeOnly();

        return view('lease.exchange', [
            'scopes' => Scope::query()->with('prefix')->where('stage', 'live')->orderBy('name')->limit(500)->get(),
            'servers' => Server::query()->where('kind', 'dhcp')->orderBy('name')->get(),
            'exchange' => $exchange,
            'may' => $this->person()->operatesAll(),
            'problem' => $problem ?? $exchange?->problem,
            'input' => $request->all() + [
                'mac' => ExchangeClient::fresh(), 'name' => 'kiosk-07', 'asked' => '1, 3, 6, 15, 51, 119, 121',
                'scope' => $request->string('scope')->toString(), 'server' => '',
            ],
        ]);
    }

    /** @return array<string, string> IPv4 subnets without a scope, for the form */
    private function free(): array
    {
        return $this->reach()->prefixes()->where('kind', 'subnet')->where('family', 4)->where('length', '<', 31)
            ->whereNotIn('id', Scope::query()->select('prefix_id'))->orderBy('first')->limit(300)->get()
            ->mapWithKeys(fn (Prefix $p): array => [$p->id => trim("{$p->prefix()} $p->name")])->all();
    }
}
