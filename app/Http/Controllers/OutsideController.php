<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\KeepEdit;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Ship\NoteOutside;
use App\Jobs\RunOutside;
use App\Links\Unanswered;
use App\Live\OutsideCompare;
use App\Models\Outside;
use App\Models\OutsideRun;
use App\Models\Role;
use App\Models\RunState;
use App\Queries\Choices;
use App\Queries\OutsideHeld;
use HarborPost\Core\Planning\Sides\Pairing;
use HarborPost\Core\Planning\Sides\State;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Systems outside that hold pools: each compared with the plan, and brought in step in the direction that people choose. */
final class OutsideController extends Controller
{
    private const SHOWN = 200;

    /** Lines of one choice. */
    private const MOST = 500;

    public function __construct(private readonly Acts $acts, private readonly OutsideCompare $compare)
    {
    }

    public function index(): View
    {
        $this->wholeOnly();

        return view('ship.outsides', [
            'outsides' => Outside::query()->with(['space', 'under'])->orderBy('name')->get(),
            'states' => DB::table('outside_states')->get()->keyBy('outside_id'), 'may' => $this->person()->does(Role::Steward),
            'choices' => new Choices($this->reach()),
        ]);
    }

    public function show(Request $request, string $outside): View
    {
        $this->wholeOnly();
        $row = Outside::query()->with(['space', 'under'])->findOrFail($outside);
        $tested = $request->boolean('test') ? OutsideCompare::client($row)->test() : null;
        $problem = null;
        $lines = [];
        try {
            $lines = $this->compare->lines($row);
        } catch (Unanswered $e) {
            $problem = $e->getMessage();
            $tested ??= OutsideCompare::client($row)->test();
        }
        $state = State::tryFrom($request->string('state')->toString());
        $counts = array_count_values(array_map(static fn (Pairing $p): string => $p->state->value, $lines));
        // What stands alike is the least of interest, and shown only when it is asked for.
        $shown = array_values(array_filter($lines, static fn (Pairing $p): bool => $state === null
            ? $p->state !== State::Same
            : $p->state === $state));
        $page = max(1, $request->integer('page', 1));

        return view('ship.outside', [
            'outside' => $row, 'tested' => $tested, 'problem' => $problem, 'counts' => $counts, 'total' => count($lines), 'state' => $state,
            'lines' => array_slice($shown, ($page - 1) * self::SHOWN, self::SHOWN), 'count' => count($shown), 'page' => $page,
            'pages' => (int) ceil(count($shown) / self::SHOWN), 'servers' => OutsideHeld::servers(),
            'runs' => OutsideRun::query()->where('outside_id', $row->id)->orderByDesc('started_at')->limit(5)->get(),
            'may' => $this->person()->does(Role::Planner), 'steward' => $this->person()->does(Role::Steward),
            'choices' => new Choices($this->reach()),
        ]);
    }

    /** The chosen lines, as they are when they are read again: into the plan, into the draft, or there. */
    public function bring(Request $request, string $outside): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->person()->does(Role::Planner), 403);
        $row = Outside::query()->with('under')->findOrFail($outside);
        $chosen = array_values(array_unique(array_filter((array) $request->input('take', []), is_string(...))));
        if ($chosen === [] || count($chosen) > self::MOST) {
            return back()->with('bad', $chosen === [] ? 'Nothing was chosen.' : 'At most '.self::MOST.' lines at once.');
        }
        try {
            $lines = array_filter($this->compare->lines($row), static fn (Pairing $p): bool => in_array($p->key(), $chosen, true));
        } catch (Unanswered $e) {
            return back()->with('bad', $e->getMessage());
        }

        return match ($request->string('then')->toString()) {
            'there' => $this->there($row, $lines, 'put'),
            'remove' => $request->boolean('sure')
                ? $this->there($row, $lines, 'cut')
                : back()->with('bad', "Say first that it goes at $row->name for good: tick the box beside the button."),
            'draft' => $this->draft($row, $lines),
            default => $this->here($request, $row, $lines),
        };
    }

    public function stop(string $outside, string $run): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->person()->does(Role::Planner), 403);
        $row = OutsideRun::query()->where('outside_id', $outside)->findOrFail($run);
        $this->acts->commit($this->person(), [new NoteOutside($outside, run: [
            'id' => $row->id, 'state' => RunState::Stopped, 'chosen' => $row->chosen, 'steps' => $row->steps,
        ])]);

        return redirect(at('ship.outside.one', $outside))->with('done', 'Stopped; what was brought until then stays.');
    }

    /**
     * @param  array<Pairing>  $lines
     * @return list<Act>
     */
    private static function takes(Outside $outside, array $lines): array
    {
        return array_merge(...array_values(array_map(static fn (Pairing $l): array => OutsideCompare::takes($outside, $l), $lines)),
            ...[[]]);
    }

    /** @param  array<Pairing>  $lines */
    private function here(Request $request, Outside $outside, array $lines): RedirectResponse
    {
        $acts = self::takes($outside, $lines);
        if ($acts === []) {
            return back()->with('bad', 'Nothing of what was chosen can be taken in: see why beside each line.');
        }
        $reason = trim($request->string('reason')->toString());
        $outcome = $this->acts->commit($this->person(), $acts, reason: $reason === '' ? "as $outside->name has it" : $reason);

        $stay = array_filter($lines, static fn (Pairing $l): bool => $l->state === State::Differs && OutsideCompare::stays($l) !== []);

        return $outcome->committed
            ? redirect(at('ship.outside.one', $outside->id))->with('done', count($lines).' taken into the plan.'
                .($stay === [] ? '' : ' '.count($stay).' of them still differ in what follows from scopes and settings here.'))
            : back()->with('bad', 'Nothing was taken in: '.$outcome->why());
    }

    /** @param  array<Pairing>  $lines */
    private function draft(Outside $outside, array $lines): RedirectResponse
    {
        $kept = 0;
        $why = null;
        foreach (self::takes($outside, $lines) as $act) {
            // Each stands on those before it: what holds others comes first.
            $draft = Drafts::open($this->person());
            $outcome = $this->acts->rehearse($this->person(), [...Drafts::acts($draft), $act], [...Drafts::expects($draft), []]);
            if ($outcome->blocked()) {
                $why ??= $outcome->why();

                continue;
            }
            [$expects, $touches] = Drafts::traces($outcome);
            $keep = new KeepEdit($act::key(), $act->toInput(), $expects, $touches, $act->title());
            $kept += $this->acts->commit($this->person(), [$keep])->blocked() ? 0 : 1;
        }

        return $kept === 0
            ? back()->with('bad', 'Nothing came into the draft: '.($why ?? 'nothing of what was chosen can be taken in.'))
            : redirect(at('ship.draft.mine'))->with('done', "$kept edits are in the draft.".($why === null ? '' : " Some are not: $why"));
    }

    /** @param  array<Pairing>  $lines */
    private function there(Outside $outside, array $lines, string $what): RedirectResponse
    {
        $lines = array_filter($lines, static fn (Pairing $l): bool => $what === 'put'
            ? OutsideCompare::tells($l) !== null
            : $l->state === State::MissingHere);
        if ($lines === []) {
            return back()->with('bad', $what === 'put'
                ? 'Nothing of what was chosen can be told there: only what we hold, and differs or is missing there.'
                : 'Only what the other system holds alone is removed there.');
        }
        $id = (string) Str::ulid();
        $begun = $this->acts->commit($this->person(), [new NoteOutside($outside->id, run: [
            'id' => $id, 'state' => RunState::Running, 'steps' => [],
            'chosen' => array_values(array_map(static fn (Pairing $l): string => "$what {$l->key()}", $lines)),
        ])]);
        if ($begun->blocked()) {
            return back()->with('bad', $begun->why());
        }
        RunOutside::dispatch($id);

        return redirect(at('ship.outside.one', $outside->id))->with('done',
            count($lines).' lines are on their way; how each went stands below.');
    }
}
