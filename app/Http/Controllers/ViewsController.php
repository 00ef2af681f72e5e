<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Live\ClientAnswer;
use App\Models\Power;
use App\Models\View as DnsView;
use App\Models\Zone;
use App\Queries\ViewDifference;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** Split answers: which client falls into which view, what it is told, and how a zone differs from view to view. */
final class ViewsController extends Controller
{
    public function __invoke(Request $request): View
    {
        $this->wholeOnly();
        $views = DnsView::query()->orderBy('position')->get();
        $split = Zone::query()->groupBy('name')->havingRaw('COUNT(*) > 1')->orderBy('name')->limit(200)->pluck('name')
            ->map(fn (string $n): string => rtrim($n, '.'))->all();
        $name = strtolower(rtrim($request->string('zone', $split[0] ?? '')->toString(), '.')).'.';
        $zones = Zone::query()->with('view')->where('name', $name)->get()->sortBy(fn (Zone $z): int => $z->view->position)->values();
        $left = $zones->firstWhere('view_id', $request->string('left')->toString()) ?? $zones[0] ?? null;
        $right = $zones->firstWhere('view_id', $request->string('right')->toString())
            ?? $zones->first(fn (Zone $z): bool => $z->id !== $left?->id);

        return view('name.views', [
            'views' => $views,
            'counts' => Zone::query()->groupBy('view_id')->selectRaw('view_id, COUNT(*) as n')->pluck('n', 'view_id'),
            'split' => $split,
            'zones' => $zones,
            'left' => $left,
            'right' => $right,
            'all' => $request->boolean('all'),
            'difference' => $left !== null && $right !== null ? ViewDifference::of($left, $right, $request->boolean('all')) : null,
            'may' => $this->works(Power::NameService),
            'told' => ClientAnswer::of($request->string('client')->toString(), $request->string('name')->toString()),
        ]);
    }
}
