<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Pair;
use App\Models\Power;
use App\Models\Server;
use App\Models\ServerKind;
use App\Queries\Coverage;
use App\Queries\Inherited;
use App\Queries\OptionLayers;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** How scopes are served, and for how long when a server is lost. */
final class CoverageController extends Controller
{
    public function __invoke(Request $request): View
    {
        $this->wholeOnly();
        $filter = $request->string('filter')->toString();
        $coverage = new Coverage($this->reach(), $filter);
        $list = $coverage->page($request->string('sort')->toString(), $request->integer('page', 1));

        app(Inherited::class)->ahead($list->rows->pluck('prefix'));

        return view('lease.coverage', [
            'list' => $list, 'rows' => Coverage::of($list->rows),
            'differing' => Coverage::differing($list->rows, app(OptionLayers::class)), 'counts' => $coverage->counts(), 'filter' => $filter,
            'misread' => $coverage->misread, 'words' => Coverage::WORDS, 'may' => $this->works(Power::Leases),
            'servers' => Server::query()->where('kind', ServerKind::Dhcp)->orderBy('name')->get(),
            'pairs' => Pair::query()->orderBy('name')->pluck('name', 'id')->all(),
        ]);
    }
}
