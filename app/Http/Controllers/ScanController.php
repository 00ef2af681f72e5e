<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Scan\StartScan;
use App\Jobs\RunScan;
use App\Live\ScanPreflight;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Role;
use App\Models\Scan;
use App\Models\ScanSchedule;
use App\Models\SightingVerdict;
use App\Models\Space;
use App\Models\Stage;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** Scans: what is needed, what runs, what was found. */
final class ScanController extends Controller
{
    private const ROWS = 200;

    public function index(Request $request, string $space): View
    {
        $this->operatorsOnly();
        $space = Space::query()->findOrFail($space);
        [$picked, $misread] = $this->picked($request, $space);
        $leftOut = $this->lines($request->string('leftOut')->toString());
        $prefixes = Prefix::query()->where('space_id', $space->id)->where('kind', PrefixKind::Subnet)->where('stage', Stage::Live)
            ->with('site')->orderBy('family')->orderBy('first')->limit(2000)->get();

        return view('plan.scans', [
            'space' => $space,
            'picked' => $picked,
            'leftOut' => $leftOut,
            'subnets' => $prefixes,
            'preflight' => $picked->isEmpty()
                && $misread === []
                && ! $request->boolean('look') ? null : [...$misread, ...ScanPreflight::of($picked, $leftOut)],
            'scans' => Scan::query()->where('space_id', $space->id)->orderByDesc('id')->limit(15)->get(),
            'schedules' => ScanSchedule::query()->where('space_id', $space->id)->get(),
            'people' => Person::query()->pluck('name', 'id'),
        ]);
    }

    public function start(Request $request, string $space, Acts $acts): RedirectResponse
    {
        $this->operatorsOnly();
        $space = Space::query()->findOrFail($space);
        [$picked, $misread] = $this->picked($request, $space);
        $leftOut = $this->lines($request->string('leftOut')->toString());
        $act = StartScan::fromInput([
            'space' => $space->id, 'prefixes' => $picked->pluck('id')->all(), 'leftOut' => $leftOut,
            'every' => $request->string('every')->toString(), 'hour' => $request->string('hour', '3')->toString(),
        ]);
        $stops = $misread !== []
            ? $misread
            : ($act->every !== '' ? [] : array_filter(ScanPreflight::of($picked, $leftOut), fn (array $c): bool => $c['stops']));
        if ($stops !== []) {
            $first = array_values($stops)[0];

            return back()->withInput()->with('bad', "The scan cannot run: {$first['what']}: {$first['words']}. {$first['fix']}");
        }
        $outcome = $acts->commit($this->person(), [$act]);
        if ($outcome->blocked()) {
            return back()->withInput()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        $act->every === '' && RunScan::dispatch($act->id);

        return redirect($act->landing())->with('done', $act->every === '' ? 'The scan runs.' : 'The schedule is kept.');
    }

    public function show(Request $request, string $scan): View
    {
        $this->operatorsOnly();
        $row = Scan::query()->findOrFail($scan);
        $counts = DB::table('scan_results')->where('scan_id', $row->id)->groupBy('verdict')
            ->selectRaw('verdict, COUNT(*) as n')->pluck('n', 'verdict');
        $verdict = SightingVerdict::tryFrom($request->string('verdict')->toString())
            ?? collect(SightingVerdict::SHOWN)->first(static fn (SightingVerdict $v): bool => ($counts[$v->value] ?? 0) > 0)
            ?? SightingVerdict::Agrees;
        $after = Address::tryParse($request->string('after')->toString());
        $rows = DB::table('scan_results')->where('scan_id', $row->id)->where('verdict', $verdict)
            ->when($after, fn ($q) => $q->where('address', '>', $after?->bytes))->orderBy('address')
            ->limit(self::ROWS + 1)->get()
            ->map(
                fn (object $r): object => (object) [
                    'id' => $r->id, 'address' => Address::fromBytes((string) $r->address),
                    'mac' => $r->mac === null ? null : MacAddress::fromBytes((string) $r->mac), 'ptr' => $r->ptr, 'words' => $r->words,
                    'prefix_id' => $r->prefix_id, 'host_id' => $r->host_id,
                ],
            );
        $hosts = \App\Models\Host::query()->whereIn('id', $rows->pluck('host_id')->filter())->get()->keyBy('id');

        return view('plan.scan', [
            'scan' => $row, 'space' => Space::query()->findOrFail($row->space_id), 'counts' => $counts, 'verdict' => $verdict,
            'rows' => $rows->take(self::ROWS), 'next' => $rows->count() > self::ROWS ? (string) $rows->get(self::ROWS - 1)?->address : null,
            'hosts' => $hosts,
            'prefixes' => Prefix::query()->whereIn('id', $row->prefixes)->orderBy('first')->get(),
        ]);
    }

    /**
     * By id, or by prefixes as typed, one a line; a line that gives no subnet is a check that stops.
     *
     * @return array{Collection<int, Prefix>, list<array{what: string, ok: bool, words: string, fix: string, stops: bool}>}
     */
    private function picked(Request $request, Space $space): array
    {
        $ids = array_filter((array) $request->input('prefixes', []), is_string(...));
        $found = Prefix::query()->where('space_id', $space->id)->where('kind', PrefixKind::Subnet)->whereIn('id', $ids)
            ->orderBy('family')->orderBy('first')->get();
        $stops = [];
        foreach ($this->lines($request->string('also')->toString()) as $line) {
            $line = trim($line);
            try {
                $net = Net::parse($line);
            } catch (NotUnderstood $e) {
                $line === '' ?: $stops[] = [
                    'what' => "\"$line\"",
                    'ok' => false,
                    'words' => $e->getMessage(),
                    'fix' => $e->suggestion === null ? 'Write a prefix, one a line.' : "Perhaps $e->suggestion is meant.",
                    'stops' => true,
                ];

                continue;
            }
            // A supernet stands for all live subnets in it.
            $inside = Prefix::query()->where('space_id', $space->id)->where('kind', PrefixKind::Subnet)
                ->where('family', $net->family()->value)
                ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>=', $net->length);
            $live = (clone $inside)->where('stage', Stage::Live)->orderBy('first')->limit(501)->get();
            $others = $live->isEmpty() ? $inside->count() : 0;
            if ($live->isEmpty()) {
                $stops[] = [
                    'what' => (string) $net,
                    'ok' => false,
                    'words' => $others > 0 ? "none of the $others subnets in it is live" : 'no subnet of this space is in it',
                    'fix' => $others > 0 ? 'Only live subnets are scanned.' : 'Choose a subnet, or a supernet of live ones.',
                    'stops' => true,
                ];
            } elseif ($live->count() > 500) {
                $stops[] = [
                    'what' => (string) $net, 'ok' => false, 'words' => 'more than 500 live subnets are in it',
                    'fix' => 'Choose smaller prefixes, one scan each.', 'stops' => true,
                ];
            }
            $found = $found->merge($live->take(500));
        }

        return [$found->unique('id')->values(), $stops];
    }

    /** @return list<string> */
    private function lines(string $text): array
    {
        return preg_split('/[\r\n,;]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }

    private function operatorsOnly(): void
    {
        $this->wholeOnly();
        abort_unless($this->person()->does(Role::Planner) || $this->person()->does(Role::Operator), 403);
    }
}
