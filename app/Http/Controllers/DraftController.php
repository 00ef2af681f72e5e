<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Conflict;
use App\Acts\Drafts\DecideDraft;
use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\DraftWork;
use App\Acts\Drafts\EditInputs;
use App\Acts\Drafts\EndDraft;
use App\Acts\Drafts\NoteEmergency;
use App\Acts\Drafts\RemarkDraft;
use App\Acts\Drafts\ReopenDraft;
use App\Acts\Drafts\SubmitDraft;
use App\Acts\Drafts\TimeDraft;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\Agreement;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Http\Sure;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\DraftState;
use App\Models\DraftVerdict;
use App\Models\Role;
use App\Queries\Called;
use App\Queries\ShipTimes;
use App\Queries\Waiting;
use App\Shipping\Destinations;
use App\View\DraftSheet;
use App\View\DraftWords;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;

/**
 * Drafts: those that one works on, and those that wait for others.
 *
 * @phpstan-import-type Stop from Destinations
 */
final class DraftController extends Controller
{
    private const LISTED = 50;

    public function __construct(private readonly Acts $acts, private readonly DraftWork $work)
    {
    }

    /** The draft that edits go to, as it will be. */
    public function mine(): View
    {
        $draft = Drafts::open($this->person());

        return $draft === null ? view('ship.no-draft', ['others' => $this->worked()->count()]) : $this->sheet($draft);
    }

    /** What waits, for whom, and what was decided lately. */
    public function index(): View
    {
        $person = $this->person();
        $with = ['person', 'decisions.person', 'edits', 'hands.person'];
        $waiting = Waiting::drafts($person)->with($with)->limit(self::LISTED)->get();

        return view('ship.drafts', [
            'waiting' => $waiting, 'current' => Drafts::open($person)?->id,
            'own' => $this->worked()->with($with)->orderBy('started_at')->limit(self::LISTED)->get(),
            'others' => Drafts::readable($person)->with($with)->where('state', DraftState::Submitted)
                ->whereNotIn('drafts.id', Drafts::inHandsOf($person)->select('drafts.id'))
                ->whereKeyNot($waiting->modelKeys())->orderBy('submitted_at')->limit(self::LISTED)->get(),
            'decided' => Drafts::readable($person)->with($with)->whereIn('state', [DraftState::Committed, DraftState::Dropped])
                ->orderByDesc('ended_at')->limit(20)->get(),
            'approver' => DecideDraft::permits($person),
        ]);
    }

    public function show(string $draft): View
    {
        $person = $this->person();
        $row = $this->readable($draft);
        if ($row->state === DraftState::Open) {
            return $this->sheet($row);
        }
        $waits = $row->state === DraftState::Submitted;
        $outcome = $waits ? $this->rehearsed($row) : null;
        $stops = $this->stops($outcome);

        return view('ship.change', [
            'draft' => $row, 'outcome' => $outcome, 'stops' => $stops ?? [],
            'windows' => DraftWords::windows($stops ?? [], ShipTimes::now()),
            'zones' => \DateTimeZone::listIdentifiers(),
            'sheet' => $this->drawn($row, $outcome, $waits ? $this->work->conflicts($row, $outcome) : [], $stops),
            'mine' => $row->person_id === $person->id, 'agreed' => Agreement::agreed($row), 'standing' => $row->standing(),
            'digest' => $row->digest(), 'decides' => DecideDraft::permits($person) && ! $row->isBy($person->id),
            'steward' => $person->does(Role::Steward), 'waits' => $waits,
            'counts' => Agreement::counts($row, $outcome->needs ?? []),
        ]);
    }

    public function submit(Request $request, string $draft): RedirectResponse
    {
        $person = $this->person();
        $row = Draft::query()->with('edits')->where('person_id', $person->id)->where('state', DraftState::Open)->findOrFail($draft);
        $outcome = $this->rehearsed($row);
        if ($outcome->blocked()) {
            return redirect(at('ship.draft', $row->id))->with(
                'bad',
                'The draft does not hold: '.($outcome->block()->message ?? $outcome->trouble).'. Mend it first.',
            );
        }
        $act = new SubmitDraft($row->id, $request->string('title')->toString(), $request->string('why')->toString());

        return $this->done($act, at('ship.draft', $row->id), 'The draft waits for others. It is not changed until you take it back.');
    }

    public function reopen(string $draft): RedirectResponse
    {
        return $this->done(
            new ReopenDraft($draft),
            at('ship.draft', $draft),
            'The draft is yours to change again; what others said of it does not count any more.',
        );
    }

    public function decide(Request $request, string $draft): RedirectResponse
    {
        $agrees = $request->string('verdict')->toString() === DraftVerdict::Agreed->value;
        $act = new DecideDraft($draft, $agrees, $request->string('reason')->toString(), $request->string('digest')->toString());
        abort_unless(DecideDraft::permits($this->person()), 403);

        return $this->done(
            $act,
            at('ship.draft', $draft),
            $agrees ? 'You agreed. Its author commits it.' : 'You refused it; its author sees why.',
            // Taken back at this moment, it is nobody else's to read.
            Drafts::readable($this->person())->whereKey($draft)->exists() ? null : at('ship.drafts'),
        );
    }

    public function remark(Request $request, string $draft): RedirectResponse
    {
        $edit = $request->string('edit')->toString();

        return $this->done(
            new RemarkDraft($draft, $request->string('text')->toString(), $edit === '' ? null : $edit),
            at('ship.draft', $draft),
            'Said.',
        );
    }

    /** The inputs of an edit, to be amended. */
    public function edit(string $draft, string $edit): View
    {
        [$row, $one, $class] = $this->changeable($draft, $edit);

        return view('ship.amend', [
            'draft' => $row, 'edit' => $one, 'inputs' => (new EditInputs($this->reach()))->rows($class, $one), 'notes' => [],
        ]);
    }

    /** An edit is moved, taken out, amended, or decided where others wrote meanwhile. */
    public function arrange(Request $request, string $draft, string $edit): RedirectResponse|View
    {
        $what = $request->string('what')->toString();
        if ($what === 'amend') {
            return $this->amend($request, $draft, $edit);
        }
        $row = Drafts::inHandsOf($this->person())->with(['edits', 'person', 'hands'])->findOrFail($draft);
        $one = $row->edits->find($edit) ?? abort(404);
        $object = $request->string('object')->toString();
        $outcome = match ($what) {
            'earlier' => $this->work->move($this->person(), $row, $one->id, -1),
            'later' => $this->work->move($this->person(), $row, $one->id, 1),
            'out' => $this->work->takeOut($this->person(), $row, $one->id),
            'mine' => $this->work->keepMine($this->person(), $row, $one->id, [$object => $request->integer('version')]),
            'theirs' => $this->work->takeTheirs($this->person(), $row, $one->id, $object),
            default => abort(404),
        };

        return $this->told($outcome, at('ship.draft', $row->id), match ($what) {
            'out' => "\"$one->title\" is taken out.", 'mine' => 'This draft writes on top of what was shown.',
            'theirs' => 'What is there stays as it is.', default => ''
        });
    }

    private function amend(Request $request, string $draft, string $edit): RedirectResponse|View
    {
        [$row, $one, $class] = $this->changeable($draft, $edit);
        $inputs = new EditInputs($this->reach());
        $notes = [];
        try {
            $act = $class::fromInput($inputs->read($class, $one, $request->all()));
            $outcome = $this->work->amended($row, $one->id, $act);
            $at = (int) $row->edits->search(static fn (DraftEdit $e): bool => $e->id === $one->id);
            $notes = array_filter($outcome->ledgers[$at]->notes ?? [], static fn ($n): bool => $n->blocks());
            $stop = $this->work->stops($this->person(), $row, $one->id, $act);
            $notes = $stop === null ? $notes : [$stop, ...$notes];
            if ($notes === []) {
                return $this->told($this->work->amend($this->person(), $row, $one->id, $act), at('ship.draft', $row->id),
                    'The edit is amended.');
            }
        } catch (BadInput $e) {
            $notes = $e->notes;
        }
        $request->flash();

        return view('ship.amend', ['draft' => $row, 'edit' => $one, 'inputs' => $inputs->rows($class, $one), 'notes' => $notes]);
    }

    /** One's own draft becomes true, as one: as it was shown, and with the agreement that rules ask for. */
    public function commit(Request $request, string $draft): RedirectResponse
    {
        $person = $this->person();
        $row = Draft::query()->with('edits')->where('person_id', $person->id)
            ->whereIn('state', [DraftState::Open, DraftState::Submitted])->find($draft);
        $page = at('ship.draft', $draft);
        if ($row === null || $row->edits->isEmpty()) {
            return redirect($page);
        }
        $reason = $request->string('reason')->toString();
        $emergency = $request->boolean('emergency');
        $shown = $request->input('shown');
        if ($emergency && ! Sure::knows($person, $request->string('password')->toString())) {
            return redirect($page)->withInput()->with('bad', 'The password is not right: in an emergency it is asked for once more.');
        }
        try {
            $acts = [
                ...Drafts::acts($row), new EndDraft($row->id, $row->digest()),
                ...($emergency ? [new NoteEmergency($row->id, $reason)] : []),
            ];
            $outcome = $this->acts->commit(
                $person,
                $acts,
                Drafts::expects($row),
                $reason === '' ? null : $reason,
                asShown: true,
                shown: is_string($shown) && ! $emergency ? $shown : null,
                emergency: $emergency,
            );
        } catch (BadInput $e) {
            return redirect($page)->with('bad', $e->getMessage());
        }
        $count = $row->edits->count();

        return $this->told(
            $outcome,
            at('ship'),
            "The draft is committed: $count ".($count === 1 ? 'edit' : 'edits as one transaction')
                .'. Ship it to the servers to bring it into effect.',
            $page,
        );
    }

    /** A submitted draft gets a time at which it becomes true by itself, or loses it. */
    public function time(Request $request, string $draft): RedirectResponse
    {
        $row = Draft::query()->with('edits')->where('person_id', $this->person()->id)->where('state', DraftState::Submitted)
            ->findOrFail($draft);
        $at = $request->string('at')->toString();
        $act = new TimeDraft(
            $row->id,
            $at,
            $request->string('zone', 'UTC')->toString(),
            $request->string('shown')->toString(),
            $request->string('reason')->toString(),
        );
        if ($at !== '') {
            $outcome = $this->rehearsed($row);
            $warned = array_filter($outcome->notes(), static fn ($n): bool => $n->warns()) !== [];
            $wrong = match (true) {
                $outcome->blocked() => 'The draft does not hold: '.($outcome->block()->message ?? $outcome->trouble),
                ! hash_equals($outcome->digest(), $act->shown) => 'What would be written is no longer what was shown; look again',
                $warned && trim($act->reason) === '' => 'There are warnings: say why you want it all the same',
                default => null,
            };
            if ($wrong !== null) {
                return redirect(at('ship.draft', $row->id))->withInput()->with('bad', $wrong);
            }
        }

        return $this->done($act, at('ship.draft', $row->id), $at === '' ? 'It has no time any more.'
            : 'It is committed by itself at that time, '
            .'as it is shown here, if it is agreed to by then.');
    }

    /** An open draft on its page of work. */
    private function sheet(Draft $draft): View
    {
        $draft->loadMissing(['edits.person', 'person', 'hands.person', 'remarks.person', 'decisions.person']);
        $person = $this->person();
        $outcome = $draft->edits->isEmpty() ? null : $this->rehearsed($draft);

        $stops = $this->stops($outcome);

        return view('ship.draft', [
            'draft' => $draft, 'outcome' => $outcome, 'stops' => $stops ?? [],
            'windows' => DraftWords::windows($stops ?? [], ShipTimes::now()),
            'sheet' => $this->drawn($draft, $outcome, $outcome === null ? [] : $this->work->conflicts($draft, $outcome), $stops),
            'mine' => $draft->person_id === $person->id, 'current' => Drafts::open($person)?->id === $draft->id,
        ]);
    }

    /**
     * @param  array<string, list<Conflict>>  $conflicts  by edit
     * @param  list<Stop>|null  $stops
     */
    private function drawn(Draft $draft, ?Outcome $outcome, array $conflicts, ?array $stops): DraftSheet
    {
        return new DraftSheet($draft, $outcome, new Called(...DraftSheet::toCall($outcome, $conflicts)), $conflicts, $stops);
    }

    /** @return list<Stop>|null null for who is not told of servers */
    private function stops(?Outcome $outcome): ?array
    {
        // Servers belong to no tenant alone.
        return $this->person()->isBound() ? null : ($outcome === null ? [] : Destinations::of($outcome));
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Draft> those that one works on and that did not end */
    private function worked(): \Illuminate\Database\Eloquent\Builder
    {
        return Drafts::inHandsOf($this->person())->whereIn('state', [DraftState::Open, DraftState::Submitted]);
    }

    private function readable(string $draft): Draft
    {
        return Drafts::readable($this->person())->with(['edits.person', 'person', 'decisions.person', 'remarks.person', 'hands.person'])
            ->findOrFail($draft);
    }

    /** @return array{Draft, DraftEdit, class-string<Act>} an edit of an open draft that one works on */
    private function changeable(string $draft, string $edit): array
    {
        $row = Drafts::inHandsOf($this->person())->with(['edits', 'person', 'hands'])->where('state', DraftState::Open)->findOrFail($draft);
        $one = $row->edits->find($edit) ?? abort(404);

        return [$row, $one, Registry::find($one->action) ?? abort(404)];
    }

    /** As the commit would do it, so that what was shown can be compared with what is written. */
    private function rehearsed(Draft $draft): Outcome
    {
        try {
            return $this->acts->rehearse($draft->person, [...Drafts::acts($draft), new EndDraft($draft->id)], Drafts::expects($draft));
        } catch (BadInput $e) {
            return Outcome::unread($draft->person, $e);
        }
    }

    private function done(Act $act, string $page, string $words, ?string $back = null): RedirectResponse
    {
        return $this->told($this->acts->commit($this->person(), [$act]), $page, $words, $back);
    }

    private function told(Outcome $outcome, string $page, string $words, ?string $back = null): RedirectResponse
    {
        return $outcome->blocked()
            ? redirect($back ?? $page)->withInput()->with('bad', $outcome->why())
            : redirect($page)->with($words === '' ? [] : ['done' => $words]);
    }
}
