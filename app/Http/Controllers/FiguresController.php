<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Role;
use App\Models\Server;
use App\Models\Threshold;
use App\Queries\Figures;
use App\Queries\Health;
use App\Queries\Machines;
use App\View\Download;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\Response;

/** What servers measure: all in one view, and one with its charts. */
final class FiguresController extends Controller
{
    private const CHARTS = 40;

    public function index(): View
    {
        $this->wholeOnly();
        // Whoever keeps it running sees how it is; who operates servers, too.
        $sees = $this->person()->operatesAll() || $this->person()->does(Role::Steward);

        return view('watch.servers', [
            'coverage' => Figures::coverage(), 'overview' => Figures::overview(), 'may' => $this->person()->operatesAll(),
            'thresholds' => Threshold::query()->orderBy('family')->get(),
            'families' => DB::table('series')->distinct()->orderBy('family')->limit(300)->pluck('family')->all(),
            'itself' => $sees ? Health::checks() : [],
            'machines' => $sees ? Machines::all() : [],
        ]);
    }

    public function show(Request $request, string $server): View
    {
        $this->wholeOnly();
        $row = Server::query()->findOrFail($server);
        $span = $request->string('span', 'day')->toString();
        $span = isset(Figures::SPANS[$span]) ? $span : 'day';
        $charts = [];
        foreach (Figures::families($row->id)->take(self::CHARTS) as $family) {
            $course = Figures::course($row->id, (string) $family->family, $span);
            $charts[] = [
                'family' => $family, 'course' => $course,
                'thresholds' => Threshold::query()->where('family', $family->family)->pluck('value')->map(floatval(...))->all(),
            ];
        }

        return view('watch.figures', [
            'server' => $row, 'span' => $span, 'charts' => $charts, 'may' => $this->person()->operatesAll(),
            'events' => $charts === [] ? [] : Figures::events($row->id, $charts[0]['course']['from'], $charts[0]['course']['to']),
            'covered' => collect(Figures::coverage())->first(static fn (array $c): bool => $c['server']->id === $row->id),
        ]);
    }

    public function table(Request $request, string $server): Response
    {
        $this->wholeOnly();
        $row = Server::query()->findOrFail($server);
        $span = $request->string('span', 'day')->toString();
        $family = $request->string('family')->toString();
        $course = Figures::course($row->id, $family, $span);

        return Download::csv("$row->name-$family", (static function () use ($course): \Generator {
            yield ['time', 'labels', 'lowest', 'mean', 'highest'];
            foreach ($course['lines'] as $line) {
                foreach ($line['points'] as $p) {
                    yield [gmdate('Y-m-d\TH:i:s\Z', $p['at']), $line['labels'], (string) $p['low'], (string) $p['mean'],
                        (string) $p['high']];
                }
            }
        })());
    }
}
