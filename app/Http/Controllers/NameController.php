<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\View as DnsView;
use App\Queries\Choices;
use App\Queries\Drafts;
use App\Queries\ZonePage;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

final class NameController extends Controller
{
    private const ROWS = 200;

    public function index(Request $request): View
    {
        $filter = strtolower($request->string('filter')->toString());
        $zones = $this->reach()->zones()->with(['view', 'placements.server'])->when($filter !== '', fn ($q) => $q->where('zones.name', 'like', addcslashes($filter, '%_\\').'%'))
            ->when($request->has('from'), fn ($q) => $q->where('zones.name', '>=', $request->string('from')->toString()))
            ->orderByRaw("zones.name LIKE '%.arpa.'")->orderBy('zones.name')->orderBy('view_id')->limit(self::ROWS + 1)->get();
        $next = $zones->count() > self::ROWS ? $zones->pop()?->name : null;
        $waiting = DB::table('record_changes')->whereIn('zone_id', $zones->modelKeys())->whereNull('serial')->groupBy('zone_id')->selectRaw('zone_id, COUNT(*) as n')->pluck('n', 'zone_id');

        return view('name.index', ['zones' => $zones, 'next' => $next, 'waiting' => $waiting, 'filter' => $filter, 'choices' => new Choices($this->reach()), 'make' => $request->string('make')->toString(), 'touched' => Drafts::touched($this->person())]);
    }

    public function zone(Request $request, string $zone): View
    {
        $row = $this->reach()->zones()->with(['view', 'placements.server'])->findOrFail($zone);
        $filter = $request->string('filter')->toString();
        $edit = $request->string('edit')->toString();

        return view('name.zone', [
            'zone' => $row, 'origin' => $row->origin(), 'filter' => $filter, 'edit' => $edit, 'list' => ZonePage::records($row, $filter, $request->string('after')->toString()),
            'waiting' => ZonePage::waiting($row), 'waits' => ZonePage::countWaiting($row), 'touched' => Drafts::touched($this->person()),
            'others' => $this->reach()->zones()->with('view')->where('name', $row->name)->whereKeyNot($row->id)->get(),
        ]);
    }

    /** Asks a server by a real packet and shows what came back. */
    public function lookup(Request $request): View
    {
        $this->wholeOnly();
        $servers = Server::query()->whereIn('kind', ['dns', 'resolver'])->orderBy('name')->get();
        $data = ['servers' => $servers, 'views' => DnsView::query()->orderBy('position')->get(), 'answer' => null, 'problem' => null, 'asked' => null];
        $text = trim($request->string('q')->toString());
        $server = $servers->firstWhere('id', $request->string('server')->toString()) ?? $servers->first();
        if ($text === '' || $server === null) {
            return view('name.lookup', $data + ['server' => $server]);
        }
        try {
            $address = Address::tryParse($text);
            $name = $address === null ? Name::parse(rtrim($text, '.').'.') : ReverseName::of($address);
            $type = RecordType::parse($request->string('type')->toString() ?: ($address === null ? 'A' : 'PTR'));
            $view = $data['views']->firstWhere('id', $request->string('view')->toString());
            $client = $view === null || ($view->clients[0] ?? null) === null ? null : Prefix::parse($view->clients[0])->usable()->first;
            $data['asked'] = "$name $type";
            $data['answer'] = (new DnsClient($server->name, $server->endpoint, (float) config('harbor.patience')))->ask($name, $type, $client, $request->boolean('rd', $server->kind === 'resolver'), $request->boolean('tcp'));
        } catch (Malformed $e) {
            $data['problem'] = $e->getMessage();
        } catch (Unanswered $e) {
            $data['problem'] = $e->getMessage();
        }

        return view('name.lookup', $data + ['server' => $server]);
    }
}
