<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Imports\MapColumns;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\StartImport;
use App\Imports\ImportFile;
use App\Imports\PlanFile;
use App\Imports\PlanTable;
use App\Jobs\ReadImport;
use App\Jobs\TakeOverImport;
use App\Links\Names\ZoneLines;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Role;
use App\Models\RowVerdict;
use App\Models\Space;
use App\Queries\Choices;
use App\Queries\NameRights;
use App\View\Download;
use HarborPost\Core\Dns\Serial;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class ImportController extends Controller
{
    private const ROWS = 200;

    public function __construct(private readonly Acts $acts)
    {
    }

    public function index(Request $request): View
    {
        $this->writersOnly();

        return view(
            'import',
            [
                'kind' => $request->string('kind', 'plan')->toString(), 'target' => $request->string('target')->toString(),
                'choices' => new Choices($this->reach()), 'recent' => Import::query()->orderByDesc('id')->limit(15)->get(),
                'import' => null, 'planner' => $this->person()->does(Role::Planner),
            ],
        );
    }

    public function store(Request $request): RedirectResponse
    {
        $this->writersOnly();
        $request->validate([
            'kind' => 'required|in:plan,zone', 'target' => 'required|string', 'file' => 'required|file|max:131072',
            'more' => 'array|max:50', 'more.*' => 'file|max:131072',
        ]);
        $file = $request->file('file');
        $act = StartImport::fromInput([
            'kind' => $request->string('kind')->toString(), 'target' => $request->string('target')->toString(),
            'fileName' => basename((string) $file->getClientOriginalName()), 'path' => ImportFile::fresh(),
        ]);
        $file->move(dirname($act->path), basename($act->path));
        foreach (array_filter((array) $request->file('more', []), fn (mixed $f): bool => $f instanceof UploadedFile) as $more) {
            $more->move("$act->path.d", hash('sha256', basename(str_replace('\\', '/', (string) $more->getClientOriginalName()))));
        }
        ImportFile::keep($act->id, $act->path);
        $outcome = $this->acts->commit($this->person(), [$act]);
        ImportFile::forget($act->path);
        if ($outcome->blocked()) {
            ImportFile::drop($act->id);

            return back()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        ReadImport::dispatch($act->id);

        return redirect(at('import.one', $act->id));
    }

    public function show(Request $request, string $import): View
    {
        $this->writersOnly();
        $row = Import::query()->findOrFail($import);
        $verdict = RowVerdict::tryFrom($request->string('verdict')->toString())
            ?? ($row->count(RowVerdict::Refused) > 0 ? RowVerdict::Refused : RowVerdict::Add);
        $rows = DB::table('import_rows')->where('import_id', $row->id)->where('verdict', $verdict)
            ->when($request->filled('after'), fn ($q) => $q->where('id', '>', $request->integer('after')))
            ->orderBy('id')->limit(self::ROWS + 1)->get(['id', 'line', 'what', 'reason']);

        $headings = $row->state === ImportState::Headings && ImportFile::isThere($row)
            ? PlanTable::open(ImportFile::path($row), [])->headings : [];

        return view('import-show', [
            'headings' => $headings, 'maps' => $headings === [] ? [] : $this->maps($headings), 'import' => $row, 'verdict' => $verdict,
            'rows' => $rows->take(self::ROWS), 'next' => $rows->count() > self::ROWS ? $rows->get(self::ROWS - 1)?->id : null,
            'target' => $row->kind === 'plan' ? at('plan.space', $row->target_id) : at('name.zone', $row->target_id),
        ]);
    }

    public function takeOver(Request $request, string $import): RedirectResponse
    {
        $this->writersOnly();
        $outcome = $this->acts->commit($this->person(), [new MarkImport($import, ImportState::Taking)]);
        if ($outcome->blocked()) {
            return back()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        TakeOverImport::dispatch($import, $this->person()->id, $request->boolean('removals'));

        return redirect(at('import.one', $import));
    }

    /** What the headings mean, and under which name to remember it. */
    public function map(Request $request, string $import): RedirectResponse
    {
        $this->writersOnly();
        $mapping = [];
        foreach ((array) $request->input('column', []) as $heading => $column) {
            if (is_string($column) || $column === null) {
                $mapping[mb_strtolower((string) $heading)] = (string) $column;
            }
        }
        $outcome = $this->acts->commit($this->person(), [new MapColumns($import, $mapping, $request->string('name')->toString())]);
        if ($outcome->blocked()) {
            return back()->withInput()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        ReadImport::dispatch($import);

        return redirect(at('import.one', $import));
    }

    /** Refused rows as a file of their own, each with its reason, to mend and send again. */
    public function refused(string $import): StreamedResponse
    {
        $this->writersOnly();
        $row = Import::query()->findOrFail($import);
        $reasons = DB::table('import_rows')->where('import_id', $row->id)->where('verdict', RowVerdict::Refused)->orderBy('line')
            ->limit(100_000)->pluck('reason', 'line')->all();
        abort_unless(ImportFile::isThere($row), 404);
        $path = ImportFile::path($row);

        return response()->streamDownload(function () use ($row, $path, $reasons): void {
            $out = fopen('php://output', 'w');
            if ($out === false) {
                return;
            }
            if ($row->kind === 'plan') {
                foreach (PlanTable::open($path, $row->mapping ?? [])->only($reasons) as $cells) {
                    fputcsv($out, $cells, escape: '');
                }

                return;
            }
            $file = fopen($path, 'r');
            for ($line = 1; $file !== false && ($text = fgets($file)) !== false; $line++) {
                if (isset($reasons[$line])) {
                    fwrite($out, "; line $line: $reasons[$line]\n".rtrim($text, "\r\n")."\n");
                }
            }
        }, 'refused-'.preg_replace('/[^A-Za-z0-9.-]+/', '-', $row->file_name), [
            'Content-Type' => $row->kind === 'plan' ? 'text/csv; charset=utf-8' : 'text/plain; charset=utf-8',
        ]);
    }

    /**
     * The remembered meaning of headings that fits these best.
     *
     * @param  list<string>  $headings
     * @return array<string, string>
     */
    private function maps(array $headings): array
    {
        $names = array_map(mb_strtolower(...), $headings);
        $best = [];
        foreach (DB::table('column_maps')->orderBy('name')->pluck('mapping') as $json) {
            $mapping = (array) json_decode((string) $json, true);
            if (count(array_intersect(array_keys($mapping), $names)) > count(array_intersect(array_keys($best), $names))) {
                $best = $mapping;
            }
        }

        return $best;
    }

    public function cancel(string $import): RedirectResponse
    {
        $this->writersOnly();
        $outcome = $this->acts->commit($this->person(), [new MarkImport($import, ImportState::Cancelled)]);

        $bad = $outcome->blocked() ? ['bad' => $outcome->block()->message ?? $outcome->trouble] : [];

        return redirect(at('import.one', $import))->with($bad);
    }

    public function exportPlan(string $space): StreamedResponse
    {
        $this->wholeOnly();
        $space = Space::query()->findOrFail($space);

        return Download::csv($space->name.'-plan', PlanFile::write($space));
    }

    public function exportZone(string $zone): StreamedResponse
    {
        $zone = $this->reach()->zones()->findOrFail($zone);
        // A right on one name in a zone is no right to read the rest of it.
        abort_unless($this->reach()->isWhole() || NameRights::may($this->person(), $zone, null), 403);

        return response()->streamDownload(function () use ($zone): void {
            $in = fn (string $line): string => (string) preg_replace('/^(\S+ \d+) /', '$1 IN ', $line);
            echo $in(ZoneLines::soa($zone, Serial::of($zone->serial)))."\n";
            foreach (ZoneLines::of($zone) as $line) {
                echo $in($line)."\n";
            }
        }, preg_replace('~[^A-Za-z0-9.-]+~', '-', $zone->title()).'.zone', ['Content-Type' => 'text/plain; charset=utf-8']);
    }

    private function writersOnly(): void
    {
        $this->wholeOnly();
        abort_unless($this->person()->does(Role::Planner) || $this->person()->does(Role::Operator), 403);
    }
}
