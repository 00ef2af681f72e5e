<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\BadInput;
use App\Http\AllThatMatch;
use App\Models\Ability;
use App\Models\Power;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\InUse;
use App\Queries\LeaseList;
use App\Queries\LeasePage;
use App\Queries\Matching;
use App\Shipping\LeaseEnd;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Leases: all of them, one of them, and what an operator does with them. */
final class LeasesController extends Controller
{
    public function index(Request $request): View
    {
        $reach = $this->reach();
        $id = $request->string('scope')->toString();
        $scope = $id === '' ? null : $reach->scopes()->findOrFail($id);
        $filter = $request->string('filter')->toString();
        $list = new LeaseList($reach, $filter, $scope?->id);
        $page = $list->page($request->string('sort')->toString(), $request->integer('page', 1));
        $person = $this->person();

        return view('lease.leases', [
            'list' => $page, 'filter' => $filter, 'misread' => $list->misread, 'scope' => $scope, 'words' => LeaseList::WORDS,
            'scopes' => Scope::query()->whereIn('id', $page->rows->pluck('scope_id')->filter()->unique())->pluck('name', 'id'),
            'reservable' => Granted::works($person, Ability::Leases), 'may' => $person->operatesAll(),
            'read' => $reach->isWhole() ? DB::table('server_states')->whereNotNull('leases_read_at')->min('leases_read_at') : null,
        ]);
    }

    public function show(string $lease): View
    {
        $row = (new LeaseList($this->reach(), 'state:any'))->query()->with('server')->findOrFail($lease);

        return view('lease.lease', [
            'page' => LeasePage::of($this->reach(), $row), 'lease' => $row, 'may' => $this->works(Power::Leases),
            'reservable' => Granted::works($this->person(), Ability::Leases), 'whole' => $this->reach()->isWhole(),
            'active' => InUse::activeLeases()->whereKey($row->id)->exists(),
        ]);
    }

    /** Asks the servers to end leases: their clients are not told, so it is confirmed beforehand. */
    public function end(Request $request, LeaseEnd $end): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Leases), 403);
        try {
            $picked = AllThatMatch::in($request, ['leases' => (array) $request->input('leases')], $this->reach())['leases'];
        } catch (BadInput $bad) {
            return back()->withInput()->with('bad', $bad->getMessage());
        }
        $ids = array_values(array_filter((array) $picked, is_numeric(...)));
        if (! $request->boolean('sure')) {
            return back()->withInput()->with('bad', 'Say first that you know what it does to the clients: tick the box beside the button.');
        }
        $leases = InUse::activeLeases()->whereKey($ids)->limit(Matching::AT_ONCE)->get();
        if ($leases->isEmpty()) {
            return back()->with('bad', 'None of the picked leases runs any more.');
        }
        $log = $end->of($leases, $this->person(), $request->string('reason')->toString());
        $words = $log['ended'] === 1 ? '1 lease ended on its server.' : "$log[ended] leases ended on their servers.";
        if ($log['left'] !== []) {
            $words .= ' Not ended: '.implode('; ', array_slice($log['left'], 0, 6)).'.';
        }

        return back()->with($log['ended'] > 0 ? 'done' : 'bad', $words);
    }
}
