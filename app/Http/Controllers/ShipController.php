<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Ship\KeepShipment;
use App\Acts\Ship\StartShipment;
use App\Jobs\ShipServer;
use App\Links\ControlChannel;
use App\Links\Difference;
use App\Links\Links;
use App\Links\Unanswered;
use App\Live\ServerTrial;
use App\Models\Power;
use App\Models\Role;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Models\Speaks;
use App\Models\TransferKey;
use App\Models\Zone;
use App\Queries\HandedOutZones;
use App\Queries\LostLeases;
use App\Queries\ServerList;
use App\Queries\ShipTimes;
use App\Shipping\Convoy;
use App\Shipping\Drifts;
use App\Shipping\LeaseReturn;
use App\Shipping\Shipping;
use App\Shipping\Standing;
use App\Shipping\Together;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

final class ShipController extends Controller
{
    public function __construct(private readonly Acts $acts)
    {
    }

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $filter = $request->string('filter')->toString();
        $found = new ServerList($filter);
        $list = $found->page($request->string('sort')->toString(), $request->integer('page', 1));
        $servers = array_values(array_map(strval(...), $list->rows->modelKeys()));
        $lately = Shipment::query()->whereIn('server_id', $servers);

        return view('ship.index', [
            'list' => $list, 'filter' => $filter, 'words' => ServerList::WORDS, 'misread' => $found->misread,
            'states' => Drifts::states(), 'times' => ShipTimes::now(), 'standing' => Standing::of($servers),
            'running' => (clone $lately)->whereIn('state', ShipmentState::RUNS)->get()->keyBy('server_id'),
            'last' => Shipment::query()->whereIn('id', $lately->selectRaw('MAX(id)')->groupBy('server_id'))->get()->keyBy('server_id'),
            'may' => $this->works(Power::Ship), 'waits' => DB::table('record_changes')->whereNull('serial')->count(),
            'keys' => self::keys(),
        ]);
    }

    public function server(Request $request, string $server): View|Response
    {
        $this->wholeOnly();
        $row = Server::query()->with('site')->findOrFail($server);
        $runs = Shipment::query()->where('server_id', $row->id)->whereIn('state', ShipmentState::RUNS)->first();
        $state = Drifts::states()[$row->id] ?? null;
        // What did not answer when it was looked at last is asked behind the page, which stands at once.
        $now = $request->boolean('now');
        $behind = $state?->problem !== null && $row->isReached() && ! $now;
        // Asked how far a shipment is: the server is busy with it and not read meanwhile. When it is over, all of the page has changed; it
        // comes in place, since a page that loads anew is asked for again before it is there, and loses what was opened on it.
        $polls = $request->hasHeader('HX-Request') && ! $now;
        $deep = $request->boolean('deep');
        $data = [
            'server' => $row,
            'deep' => $deep,
            'differences' => [],
            'problem' => null,
            'status' => null,
            'last' => Shipment::query()->where('server_id', $row->id)->orderByDesc('id')->limit(5)->get(),
            'asked' => $row->isReached() && ! ($polls && $runs !== null),
            'only' => array_values(array_filter((array) $request->input('only', []), is_string(...))),
        ];
        try {
            $data['status'] = $row->control === null || $row->speaks !== Speaks::Control || $behind || ! $data['asked']
                ? null
                : (new ControlChannel($row, Links::patience(! $now), tries: 1))->ask('status');
            if ($data['asked'] && ! $behind) {
                $data['differences'] = Links::to($row, ! $now)->compare($deep);
            }
        } catch (Unanswered $e) {
            // One that is slow is waited for behind the page.
            $behind = $e->late && ! $now;
            $data['problem'] = $behind ? null : $e->getMessage();
        }

        $times = ShipTimes::now();
        $work = Shipping::work($data['differences'], $data['only'] === [] ? null : $data['only']);

        $page = view('ship.server', $data + [
            'work' => collect($work), 'shown' => Difference::digest($work), 'state' => $state, 'behind' => $behind,
            'may' => $this->works(Power::Ship),
            'runs' => $runs, 'frozen' => $times->frozen($row), 'shut' => $times->isShut($row),
            'next' => ($next = $times->next($row)) === null ? null : gmdate('D j M H:i', $next->from->getTimestamp()).' UTC',
            'keys' => self::keys(),
            'trial' => $row->speaks === Speaks::Standard && $request->boolean('try') ? ServerTrial::of($row) : null,
            'catalogs' => $row->speaks === Speaks::Here ? HandedOutZones::catalogs($row) : [],
            'lost' => $row->kind === ServerKind::Dhcp ? LostLeases::of($row)->count() : 0,
        ]);

        return $polls && $runs === null
            ? response($page, 200, ['HX-Retarget' => '#server-page', 'HX-Reselect' => '#server-page', 'HX-Reswap' => 'outerHTML'])
            : $page;
    }

    /** @return array<string, string> id → name */
    private static function keys(): array
    {
        $keys = TransferKey::query()->orderBy('name')->get();

        return $keys->mapWithKeys(static fn (TransferKey $k): array => [$k->id => $k->title()])->all();
    }

    /** A rebuilt server gets the leases back that it gave before. */
    public function giveBack(Request $request, string $server, LeaseReturn $return): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship), 403);
        $row = Server::query()->findOrFail($server);
        $page = redirect(at('ship.server', $row->id));
        try {
            ['back' => $back, 'kept' => $kept] = $return->to($row, $this->person(), $request->string('reason')->toString());
        } catch (Unanswered $e) {
            return $page->with('bad', $e->getMessage().' What it took before that shows when its leases are read.');
        }
        $words = $back === 1 ? '1 lease is there again.' : "$back leases are there again.";

        return $page->with($back > 0 ? 'done' : 'bad', $words.($kept === 0 ? ''
            : ($kept === 1 ? ' 1 address was' : " $kept addresses were").' given to others meanwhile.'));
    }

    public function ship(Request $request, string $server): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship), 403);
        $row = Server::query()->findOrFail($server);
        $only = array_values(array_filter((array) $request->input('only', []), is_string(...)));
        $shown = $request->input('shown');
        $start = StartShipment::fromInput([
            'server' => $row->id, 'only' => $only, 'deep' => $request->boolean('deep'), 'removals' => $request->boolean('removals'),
            'shown' => is_string($shown) ? $shown : '',
        ]);
        $outcome = $this->acts->commit($this->person(), [$start], reason: $request->string('reason')->toString());
        if ($outcome->blocked()) {
            return redirect(at('ship.server', $row->id))->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        ShipServer::of($start->id, $row->id);

        return redirect(at('ship.server', $row->id));
    }

    /**
     * Everything that waits or has drifted, on all servers: a shipment each, in the order in which they depend on each other; none of them
     * takes anything away that the plan does not know.
     */
    public function all(Convoy $convoy): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship), 403);
        $times = ShipTimes::now();
        $shut = [];
        $servers = Server::reached()->where('held', false)->orderBy('name')
            ->get()->filter(static function (Server $server) use ($times, &$shut): bool {
                $out = $times->isShut($server);
                $out ? $shut[] = "$server->name is shipped to in its windows, and none is open" : null;

                return ! $out;
            });
        ['started' => $started, 'refused' => $refused] = $convoy->start($this->person(), $servers);
        $started = ShipServer::ofAll($started);
        array_push($refused, ...$shut);
        $words = $started === []
            ? 'No shipment was started.'
            : 'Shipments to '.implode(', ', $started).' are under way, a line each below.';

        return redirect(at('ship'))->with('done', $words.($refused === [] ? '' : ' '.implode('. ', $refused).'.'));
    }

    /** A few zones and scopes to all servers that hold them. */
    public function together(Request $request): View
    {
        $this->wholeOnly();
        $objects = self::objects($request);
        $scopes = Scope::query()->whereKey($objects)->orderBy('name')->get();
        $zones = Zone::query()->with('view')->whereKey($objects)->orderBy('name')->get();

        return view('ship.together', [
            'objects' => $objects, 'together' => Together::of($objects, ! $request->boolean('now')), 'scopes' => $scopes, 'zones' => $zones,
            'may' => $this->works(Power::Ship),
        ]);
    }

    public function shipTogether(Request $request, Convoy $convoy): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship), 403);
        $objects = self::objects($request);
        $stops = Together::of($objects)->ready();
        ['started' => $started, 'refused' => $refused] = $convoy->start(
            $this->person(),
            collect($stops)->pluck('server'),
            array_column(array_map(static fn (array $s): array => [$s['server']->id, $s['objects']], $stops), 1, 0),
            shown: array_filter((array) $request->input('saw', []), is_string(...)),
        );
        ShipServer::ofAll($started);

        return redirect(at('ship.together').'?'.http_build_query(['only' => $objects]))->with(
            $refused === [] ? [] : ['bad' => implode('. ', $refused).'.'],
        );
    }

    /** @return list<string> */
    private static function objects(Request $request): array
    {
        return array_slice(array_values(array_filter((array) $request->input('only', []), is_string(...))), 0, Together::MOST);
    }

    public function cancel(string $shipment): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship), 403);
        $row = Shipment::query()->findOrFail($shipment);
        $outcome = $this->acts->commit(
            $this->person(),
            [new KeepShipment($row->id, ShipmentState::Cancelled, message: 'Cancelled; what was shipped until then stays.')],
        );

        return redirect(at('ship.server', $row->server_id))->with(
            $outcome->blocked() ? ['bad' => $outcome->block()->message ?? $outcome->trouble] : [],
        );
    }

    /** Tells a stand-in how to behave, to see what Harbor Post does then. */
    public function mode(Request $request, string $server): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Ship) || $this->person()->does(Role::Steward), 403);
        $row = Server::query()->findOrFail($server);
        try {
            $mode = (new ControlChannel($row, (float) config('harbor.patience')))->ask(
                'mode',
                ['mode' => $request->string('mode')->toString()],
            )['mode']
                ?? '?';
            session()->flash('done', "$row->name is now ".(is_string($mode) ? $mode : '?').'.');
        } catch (Unanswered $e) {
            session()->flash('bad', $e->getMessage());
        }

        return redirect(at('ship.server', $row->id));
    }
}
