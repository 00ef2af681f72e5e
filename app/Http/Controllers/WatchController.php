<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Person;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** What was written, by whom and when, with before and after. */
final class WatchController extends Controller
{
    private const ROWS = 100;

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $rows = DB::table('history')->when($request->filled('object'), fn ($q) => $q->where('object_type', $request->string('kind')->toString())->where('object_id', $request->string('object')->toString()))
            ->when($request->filled('act'), fn ($q) => $q->where('act_id', $request->string('act')->toString()))
            ->when($request->filled('before'), fn ($q) => $q->where('id', '<', $request->integer('before')))->orderByDesc('id')->limit(self::ROWS + 1)->get();
        $next = $rows->count() > self::ROWS ? $rows[self::ROWS - 1]->id : null;

        return view('watch.index', ['rows' => $rows->take(self::ROWS), 'next' => $next, 'people' => Person::query()->whereIn('id', $rows->pluck('person_id')->filter()->unique())->pluck('name', 'id')]);
    }
}
