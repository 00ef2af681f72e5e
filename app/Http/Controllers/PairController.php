<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\StandinPairs;
use App\Links\Unanswered;
use App\Live\PairWatch;
use App\Models\Pair;
use App\Models\PairMode;
use App\Models\Power;
use App\Models\ServerKind;
use App\Queries\Choices;
use App\Queries\PairList;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Pairs: two servers that lease the same addresses and tell each other. */
final class PairController extends Controller
{
    /** Scopes of a pair that its page lists; the others stand in the list of scopes. */
    private const SHOWN = 100;

    public function index(): View
    {
        $this->wholeOnly();
        $pairs = PairList::all();

        return view('lease.pairs', [
            'pairs' => $pairs, 'seen' => PairList::seen($pairs), 'may' => $this->works(Power::Leases),
            'servers' => (new Choices($this->reach()))->servers(ServerKind::Dhcp), 'modes' => PairMode::choices(),
        ]);
    }

    public function show(string $pair): View
    {
        $this->wholeOnly();
        $row = Pair::query()->with(['first', 'second'])->withCount('scopes')->findOrFail($pair);
        $digests = DB::table('pair_servers')->where('pair_id', $row->id)->pluck('shipped_digest', 'server_id');

        return view('lease.pair', [
            'pair' => $row, 'seen' => PairList::seen([$row])[$row->id] ?? [], 'may' => $this->works(Power::Leases),
            'modes' => PairMode::choices(),
            'waits' => array_map(
                static fn ($server): bool => ($digests[$server->id] ?? null) !== StandinPairs::digest($row, $server),
                $row->servers(),
            ),
            'scopes' => $row->scopes()->with('prefix')->orderBy('name')->limit(self::SHOWN)->get(),
        ]);
    }

    public function ask(string $pair, PairWatch $watch): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->person()->operates(), 403);
        $watch->read([Pair::query()->with(['first', 'second'])->findOrFail($pair)]);

        return redirect(at('lease.pair', $pair))->with('done', 'Both servers were asked.');
    }

    /** A person says that one of the two is off: the other one takes over. Confirmed beforehand, with a reason. */
    public function down(Request $request, string $pair, string $server, PairWatch $watch): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Leases), 403);
        $row = Pair::query()->with(['first', 'second'])->findOrFail($pair);
        $stays = collect($row->servers())->firstWhere('id', $server) ?? abort(404);
        $back = redirect(at('lease.pair', $pair));
        if (! $request->boolean('sure') || trim($request->string('reason')->toString()) === '') {
            return $back->withInput()
                ->with('bad', 'Say first that the other one is off and stays off, and why: tick the box and give a reason.');
        }
        try {
            $watch->partnerDown($row, $stays, $this->person(), $request->string('reason')->toString());
        } catch (Unanswered $e) {
            return $back->withInput()->with('bad', $e->getMessage());
        }

        return $back->with('done', "$stays->name was told that {$row->partnerOf($stays->id)->name} is off.");
    }
}
