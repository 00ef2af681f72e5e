<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Name\KeepSweep;
use App\Acts\Name\StartSweep;
use App\Jobs\RunSweep;
use App\Models\Power;
use App\Models\RunState;
use App\Models\Sweep;
use HarborPost\Core\Net\Address;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Forward and reverse side by side, over everything. */
final class SweepController extends Controller
{
    private const ROWS = 200;

    public function __construct(private readonly Acts $acts)
    {
    }

    public function index(): View|RedirectResponse
    {
        $this->wholeOnly();
        $last = Sweep::query()->orderByDesc('started_at')->first();

        return $last === null
            ? view('name.sweep', ['sweep' => null, 'may' => $this->works(Power::NameService)])
            : redirect(at('name.sweep.one', $last->id));
    }

    public function start(): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::NameService), 403);
        $act = StartSweep::fromInput([]);
        $outcome = $this->acts->commit($this->person(), [$act]);
        if ($outcome->blocked()) {
            return back()->with('bad', $outcome->block()->message ?? $outcome->trouble)->with('bad-link', $outcome->block()?->link);
        }
        RunSweep::dispatch($act->id);

        return redirect($act->landing());
    }

    public function cancel(string $sweep): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::NameService), 403);
        $outcome = $this->acts->commit($this->person(), [new KeepSweep($sweep, RunState::Cancelled)]);

        return redirect(at('name.sweep.one', $sweep))->with(
            $outcome->blocked() ? 'bad' : 'done',
            $outcome->blocked() ? $outcome->block()->message ?? $outcome->trouble : 'Cancelled. What it had found stays.',
        );
    }

    public function show(Request $request, string $sweep): View
    {
        $this->wholeOnly();
        $row = Sweep::query()->findOrFail($sweep);
        $code = $request->string('code')->toString() ?: (array_key_first($row->counts ?? []) ?? 'missing');
        $rows = DB::table('sweep_findings')->where('sweep_id', $row->id)->where('code', $code)->where('mended', false)
            ->when($request->filled('after'), fn ($q) => $q->where('id', '>', $request->integer('after')))
            ->orderBy('id')->limit(self::ROWS + 1)->get()
            ->map(
                fn (object $f): array => [
                    'id' => $f->id, 'name' => rtrim((string) $f->name, '.'), 'says' => rtrim((string) $f->says, '.'),
                    'address' => (string) ($address = Address::fromBytes((string) $f->address)),
                    'net' => (string) $address->in($address->family->value === 4 ? 24 : 64),
                ],
            );

        return view('name.sweep', [
            'sweep' => $row, 'code' => $code, 'rows' => $rows->take(self::ROWS),
            'next' => $rows->count() > self::ROWS ? $rows->get(self::ROWS - 1)['id'] ?? null : null,
            'may' => $this->works(Power::NameService),
            'left' => DB::table('sweep_findings')->where('sweep_id', $row->id)->where('mended', false)->groupBy('code')
                ->selectRaw('code, COUNT(*) as n')->pluck('n', 'code'),
        ]);
    }
}
