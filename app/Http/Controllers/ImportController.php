<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Actions\Acts;
use App\Actions\Imports\MarkImport;
use App\Actions\Imports\StartImport;
use App\Jobs\ReadImport;
use App\Jobs\TakeOverImport;
use App\Links\StandinDnsLink;
use App\Models\Import;
use App\Models\Role;
use App\Models\Space;
use App\Queries\Choices;
use App\Queries\NameRights;
use App\Queries\PlanFile;
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

        return view('import', ['kind' => $request->string('kind', 'plan')->toString(), 'target' => $request->string('target')->toString(), 'choices' => new Choices($this->reach()), 'recent' => Import::query()->orderByDesc('id')->limit(15)->get(), 'import' => null]);
    }

    public function store(Request $request): RedirectResponse
    {
        $this->writersOnly();
        $request->validate(['kind' => 'required|in:plan,zone', 'target' => 'required|string', 'file' => 'required|file|max:131072', 'more' => 'array|max:50', 'more.*' => 'file|max:131072']);
        $file = $request->file('file');
        $directory = storage_path('app/imports');
        is_dir($directory) || mkdir($directory, 0700, true);
        $act = StartImport::fromInput(['kind' => $request->string('kind')->toString(), 'target' => $request->string('target')->toString(), 'fileName' => basename((string) $file->getClientOriginalName()), 'path' => $directory.'/'.bin2hex(random_bytes(12))]);
        $file->move($directory, basename($act->path));
        foreach (array_filter((array) $request->file('more', []), fn (mixed $f): bool => $f instanceof UploadedFile) as $more) {
            $more->move("$act->path.d", hash('sha256', basename(str_replace('\\', '/', (string) $more->getClientOriginalName()))));
        }
        $outcome = $this->acts->commit($this->person(), [$act]);
        if ($outcome->blocked()) {
            return back()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        ReadImport::dispatch($act->id);

        return redirect("/import/$act->id");
    }

    public function show(Request $request, string $import): View
    {
        $this->writersOnly();
        $row = Import::query()->findOrFail($import);
        $verdict = $request->string('verdict')->toString() ?: (($row->counts['refused'] ?? 0) > 0 ? 'refused' : 'add');
        $rows = DB::table('import_rows')->where('import_id', $row->id)->where('verdict', $verdict)->when($request->filled('after'), fn ($q) => $q->where('id', '>', $request->integer('after')))->orderBy('id')->limit(self::ROWS + 1)->get(['id', 'line', 'what', 'reason']);

        return view('import-show', ['import' => $row, 'verdict' => $verdict, 'rows' => $rows->take(self::ROWS), 'next' => $rows->count() > self::ROWS ? $rows[self::ROWS - 1]->id : null, 'target' => $row->kind === 'plan' ? "/plan/$row->target_id" : "/name/zone/$row->target_id"]);
    }

    public function takeOver(Request $request, string $import): RedirectResponse
    {
        $this->writersOnly();
        $outcome = $this->acts->commit($this->person(), [new MarkImport($import, 'taking')]);
        if ($outcome->blocked()) {
            return back()->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        TakeOverImport::dispatch($import, $this->person()->id, $request->boolean('removals'));

        return redirect("/import/$import");
    }

    public function cancel(string $import): RedirectResponse
    {
        $this->writersOnly();
        $this->acts->commit($this->person(), [new MarkImport($import, 'cancelled')]);

        return redirect("/import/$import");
    }

    public function exportPlan(string $space): StreamedResponse
    {
        $this->wholeOnly();
        $space = Space::query()->findOrFail($space);

        return response()->streamDownload(function () use ($space): void {
            $out = fopen('php://output', 'w');
            foreach (PlanFile::write($space) as $row) {
                $out === false || fputcsv($out, array_map(PlanFile::safe(...), $row), escape: '');
            }
        }, preg_replace('/[^A-Za-z0-9-]+/', '-', $space->name).'-plan.csv', ['Content-Type' => 'text/csv; charset=utf-8']);
    }

    public function exportZone(string $zone): StreamedResponse
    {
        $zone = $this->reach()->zones()->findOrFail($zone);
        // A right on one name in a zone is no right to read the rest of it.
        abort_unless($this->reach()->isWhole() || NameRights::may($this->person(), $zone, null), 403);

        return response()->streamDownload(function () use ($zone): void {
            $in = fn (string $line): string => (string) preg_replace('/^(\S+ \d+) /', '$1 IN ', $line);
            echo $in(StandinDnsLink::soaLine($zone, Serial::of($zone->serial)))."\n";
            foreach (StandinDnsLink::lines($zone) as $line) {
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
