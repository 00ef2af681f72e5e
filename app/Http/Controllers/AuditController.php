<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Domain\Watch\AuditRun;
use App\Models\Audit;
use App\Models\FactKind;
use App\Models\OwnField;
use App\Models\Power;
use App\Models\Site;
use App\Queries\Choices;
use App\Queries\Facts\Catalogue;
use App\View\Mending;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** The team's rules about its data: what fails, since when, and what is left so for a reason. */
final class AuditController extends Controller
{
    private const SHOWN = 300;

    public function index(): View
    {
        $this->wholeOnly();
        $days = DB::table('audit_days')->where('day', '>', now()->subDays(30)->toDateString())->orderBy('day')->get()->groupBy('audit_id');

        return view('watch.audits', [
            'audits' => Audit::query()->with('site')->orderByDesc('failing')->orderBy('name')->get(), 'days' => $days,
            'may' => $this->works(Power::Watch),
        ]);
    }

    public function form(Request $request): View
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Watch), 403);
        $known = Audit::query()->find($request->string('audit')->toString());
        $kind = FactKind::tryFrom($request->string('kind')->toString()) ?? $known->kind ?? FactKind::Subnet;

        return view('watch.audit-form', [
            'audit' => $known, 'kind' => $kind,
            'known' => Catalogue::of($kind), 'site' => $known?->site_id === null ? null : Site::query()->find($known->site_id),
            'kinds' => collect(FactKind::cases())->filter->isJudged()->mapWithKeys(static fn (FactKind $k): array => [$k->value => $k
                ->value])->all(),
        ]);
    }

    public function show(string $audit): View
    {
        $this->wholeOnly();
        $row = Audit::query()->with('site')->findOrFail($audit);

        $mending = Mending::of($row, OwnField::query()->orderBy('name')->get()->toBase());

        return view('watch.audit', [
            'mending' => $mending !== null && $mending->act::permits($this->person()) ? $mending : null,
            'choices' => new Choices($this->reach()),
            'open' => DB::table('audit_findings')->where('audit_id', $row->id)->whereNull('waived_until')->count(),
            'audit' => $row, 'may' => $this->works(Power::Watch), 'shown' => self::SHOWN,
            'findings' => DB::table('audit_findings')->where('audit_id', $row->id)->orderByRaw('waived_until IS NOT NULL')->orderBy('since')
                ->orderBy('title')->limit(self::SHOWN)->get(),
            'days' => DB::table('audit_days')->where('audit_id', $row->id)->orderByDesc('day')->limit(30)->get()->reverse(),
        ]);
    }

    /** Runs one rule now. */
    public function run(string $audit): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::Watch), 403);
        $failing = AuditRun::one(Audit::query()->findOrFail($audit));

        return back()->with('done', $failing === 0 ? 'Nothing fails.' : ($failing === 1 ? '1 fails.' : number_format($failing).' fail.'));
    }
}
