<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Domain\Watch\ReportRun;
use App\Models\FactKind;
use App\Models\Person;
use App\Models\Report;
use App\Models\Role;
use App\Models\Site;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Fact;
use App\Queries\ReportTable;
use App\View\Download;
use App\View\ReportPdf;
use App\View\Workbook;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Reports: written as a sentence, looked at, sent again and again, each as far as one may see. */
final class ReportController extends Controller
{
    private const SHOWN = 300;

    public function index(): View
    {
        $reports = Report::openTo($this->person())->with(['author', 'site'])->orderBy('name')->get();
        $runs = DB::table('report_runs')->join('reports', 'reports.id', '=', 'report_runs.report_id')
            ->where('report_runs.person_id', $this->person()->id)->orderByDesc('report_runs.id')->limit(20)
            ->get(['report_runs.id', 'reports.name', 'report_id', 'done_at', 'count', 'state', 'words', 'seen_at']);

        return view('watch.reports', [
            'reports' => $reports, 'runs' => $runs, 'kinds' => self::kinds(),
            'people' => Person::query()->whereIn('id', $reports->pluck('people')->flatten()->unique())->pluck('name', 'id'),
        ]);
    }

    public function form(Request $request): View
    {
        $known = Report::openTo($this->person())->find($request->string('report')->toString());
        $kind = FactKind::tryFrom($request->string('kind')->toString()) ?? $known->kind ?? FactKind::Subnet;

        return view('watch.report-form', [
            'report' => $known, 'kind' => $kind, 'kinds' => self::kinds(),
            'known' => Catalogue::of($kind),
            'site' => $known?->site_id === null ? null : Site::query()->find($known->site_id),
            'people' => $this->person()->isBound()
                ? [$this->person()->id => $this->person()->name]
                : Person::query()->where('active', true)->orderBy('name')->pluck('name', 'id')->all(),
        ]);
    }

    public function show(string $report): View
    {
        $row = Report::openTo($this->person())->with(['author', 'site'])->findOrFail($report);
        $table = ReportTable::of($row, $this->reach());
        $runs = DB::table('report_runs')->leftJoin('people', 'people.id', '=', 'report_runs.person_id')->where('report_id', $row->id)
            ->orderByDesc('report_runs.id')->limit(12)->get(['people.name', 'done_at', 'count', 'state', 'words']);

        return view('watch.report', [
            'report' => $row, 'table' => $table, 'count' => $table->count(), 'rows' => iterator_to_array($table->rows(self::SHOWN), false),
            'groups' => $table->groups(), 'runs' => $this->mayChange($row) ? $runs : collect(), 'mine' => $this->mayChange($row),
            'shown' => self::SHOWN,
            'people' => Person::query()->whereIn('id', $row->people)->orderBy('name')->pluck('name')->all(),
        ]);
    }

    public function export(string $report, string $form): StreamedResponse|Response
    {
        $row = Report::openTo($this->person())->findOrFail($report);
        $table = ReportTable::of($row, $this->reach());
        $name = Download::name($row->name);
        if ($form === 'pdf') {
            return response(ReportPdf::of($table, $this->person()->name), 200, [
                'Content-Type' => 'application/pdf', 'Content-Disposition' => "attachment; filename=\"$name.pdf\"",
            ]);
        }
        if ($form === 'xlsx') {
            $count = $table->count();
            abort_if($count >= Workbook::MOST, 413, number_format($count).' rows are more than a sheet holds: take CSV, or ask for less.');

            return Workbook::download($row->name, self::sheet($table));
        }

        return $form === 'json'
            ? Download::json($row->name, self::cells($table))
            : Download::lines($row->name, ReportRun::lines($table));
    }

    /** @return \Generator<int, list<string>> the heads first */
    private static function sheet(ReportTable $table): \Generator
    {
        yield array_map(static fn (Fact $f): string => $f->label, array_values($table->columns));
        foreach ($table->rows() as $row) {
            yield array_values($row['cells']);
        }
    }

    /** @return \Generator<int, mixed> */
    private static function cells(ReportTable $table): \Generator
    {
        foreach ($table->rows() as $row) {
            yield $row['cells'];
        }
    }

    /** What was sent to the person, as it was then. */
    public function run(string $run): Response
    {
        $row = DB::table('report_runs')->where('id', (int) $run)->where('person_id', $this->person()->id)->first() ?? abort(404);
        DB::table('report_runs')->where('id', $row->id)->whereNull('seen_at')->update(['seen_at' => now()]);

        return response((string) gzdecode((string) $row->body), 200, [
            'Content-Type' => 'text/csv; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"report-$row->id.csv\"",
        ]);
    }

    private function mayChange(Report $report): bool
    {
        return $report->author_id === $this->person()->id || $this->person()->does(Role::Steward) && ! $this->person()->isBound();
    }

    /** @return array<string, string> */
    private static function kinds(): array
    {
        $kinds = [];
        foreach (FactKind::cases() as $kind) {
            $kinds[$kind->value] = $kind->plural();
        }

        return $kinds;
    }
}
