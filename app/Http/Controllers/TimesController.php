<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Power;
use App\Models\Server;
use App\Models\ShipsWhen;
use App\Queries\ShipTimes;
use App\View\WeekStrip;
use Illuminate\Contracts\View\View;

/** When servers are shipped to, and when nothing is. */
final class TimesController extends Controller
{
    public function index(): View
    {
        $this->wholeOnly();
        $times = ShipTimes::now();
        $servers = Server::reached()->with('site')->orderBy('name')->get();

        return view('ship.times', [
            'times' => $times, 'week' => new WeekStrip($times), 'servers' => $servers, 'may' => $this->works(Power::Ship),
            'zones' => array_combine(\DateTimeZone::listIdentifiers(), \DateTimeZone::listIdentifiers()),
            'whens' => collect(ShipsWhen::cases())->mapWithKeys(fn (ShipsWhen $w): array => [$w->value => $w->explained()])->all(),
        ]);
    }
}
