<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\DecideDraft;
use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\EndDraft;
use App\Acts\Drafts\NoteEmergency;
use App\Acts\Drafts\RemarkDraft;
use App\Acts\Drafts\ReopenDraft;
use App\Acts\Drafts\SubmitDraft;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\Agreement;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Models\ApprovalRule;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Role;
use App\Queries\RuleTrial;
use App\Queries\Waiting;
use HarborPost\Core\Agreement\RuleKind;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;

/** Drafts: one's own, those that wait for others, and the rules that say when they have to. */
final class DraftController extends Controller
{
    private const LISTED = 50;

    public function __construct(private readonly Acts $acts)
    {
    }

    /** The open draft, as it will be. */
    public function mine(): View
    {
        $person = $this->person();
        $draft = Drafts::open($person);

        return view('ship.draft', [
            'draft' => $draft, 'outcome' => $draft === null || $draft->edits->isEmpty() ? null : $this->rehearsed($person, $draft),
            'ended' => Draft::query()->where('person_id', $person->id)->where('state', '!=', Draft::OPEN)
                ->orderByDesc('started_at')->limit(8)->withCount('edits')->get(),
        ]);
    }

    /** What waits, for whom, and what was decided lately. */
    public function index(): View
    {
        $this->wholeOnly();
        $person = $this->person();
        $with = ['person', 'decisions.person', 'edits'];

        $waiting = Waiting::drafts($person)->with($with)->limit(self::LISTED)->get();

        return view('ship.drafts', [
            'waiting' => $waiting,
            'own' => Draft::query()->with($with)->where('person_id', $person->id)->whereIn('state', [Draft::OPEN, Draft::SUBMITTED])
                ->orderBy('started_at')->get(),
            'others' => Drafts::readable($person)->with($with)->where('state', Draft::SUBMITTED)->where('person_id', '!=', $person->id)
                ->whereKeyNot($waiting->modelKeys())->orderBy('submitted_at')->limit(self::LISTED)->get(),
            'decided' => Drafts::readable($person)->with($with)->whereIn('state', [Draft::COMMITTED, Draft::DROPPED])
                ->whereNotNull('submitted_at')->orderByDesc('ended_at')->limit(20)->get(),
            'approver' => $person->does(Role::Approver),
        ]);
    }

    public function show(string $draft): View
    {
        $person = $this->person();
        $row = Drafts::readable($person)->with(['edits', 'person', 'decisions.person', 'remarks.person'])->findOrFail($draft);
        $open = $row->state === Draft::SUBMITTED;

        return view('ship.change', [
            'draft' => $row, 'outcome' => $open ? $this->rehearsed($row->person, $row) : null, 'mine' => $row->person_id === $person->id,
            'agreed' => Agreement::agreed($row), 'standing' => $row->standing(), 'digest' => $row->digest(),
            'decides' => DecideDraft::may($person) && $row->person_id !== $person->id, 'steward' => $person->does(Role::Steward),
        ]);
    }

    public function submit(Request $request, string $draft): RedirectResponse
    {
        $person = $this->person();
        $row = Draft::query()->with('edits')->where('person_id', $person->id)->where('state', Draft::OPEN)->findOrFail($draft);
        $outcome = $this->rehearsed($person, $row);
        if ($outcome->blocked()) {
            return redirect('/ship/draft')->with(
                'bad',
                'The draft does not hold: '.($outcome->block()->message ?? $outcome->trouble).'. Mend it first.',
            );
        }
        $act = new SubmitDraft($row->id, $request->string('title')->toString(), $request->string('why')->toString());

        return $this->done(
            $act,
            "/ship/drafts/$row->id",
            'The draft waits for others. It is not changed until you take it back.',
            '/ship/draft',
        );
    }

    public function reopen(string $draft): RedirectResponse
    {
        return $this->done(
            new ReopenDraft($draft),
            '/ship/draft',
            'The draft is yours to change again; what others said of it does not count any more.',
            "/ship/drafts/$draft",
        );
    }

    public function decide(Request $request, string $draft): RedirectResponse
    {
        $agrees = $request->string('verdict')->toString() === DraftDecision::AGREED;
        $act = new DecideDraft($draft, $agrees, $request->string('reason')->toString(), $request->string('digest')->toString());
        abort_unless(DecideDraft::may($this->person()), 403);

        return $this->done(
            $act,
            "/ship/drafts/$draft",
            $agrees ? 'You agreed. Its author commits it.' : 'You refused it; its author sees why.',
        );
    }

    public function remark(Request $request, string $draft): RedirectResponse
    {
        $edit = $request->string('edit')->toString();

        return $this->done(
            new RemarkDraft($draft, $request->string('text')->toString(), $edit === '' ? null : $edit),
            "/ship/drafts/$draft",
            'Said.',
        );
    }

    /** One's own draft becomes true, as one: as it was shown, and with the agreement that rules ask for. */
    public function commit(Request $request, string $draft = ''): RedirectResponse
    {
        $person = $this->person();
        $row = Draft::query()->with('edits')->where('person_id', $person->id)
            ->when(
                $draft === '',
                fn ($q) => $q->where('state', Draft::OPEN),
                fn ($q) => $q->where('state', Draft::SUBMITTED)->whereKey($draft),
            )
            ->first();
        $page = $draft === '' ? '/ship/draft' : "/ship/drafts/$draft";
        if ($row === null || $row->edits->isEmpty()) {
            return redirect($page);
        }
        $reason = $request->string('reason')->toString();
        $emergency = $request->boolean('emergency');
        $shown = $request->input('shown');
        try {
            $outcome = $this->acts->commit(
                $person,
                [...Drafts::acts($row), new EndDraft($row->id), ...($emergency ? [new NoteEmergency($row->id, $reason)] : [])],
                Drafts::expects($row),
                $reason === '' ? null : $reason,
                asShown: true,
                shown: is_string($shown) && ! $emergency ? $shown : null,
                emergency: $emergency,
            );
        } catch (BadInput $e) {
            return redirect($page)->with('bad', $e->getMessage());
        }
        if ($outcome->blocked()) {
            $block = $outcome->block();

            return redirect($page)->with('bad', ($block->message ?? (string) $outcome->trouble).($block?->why ? '. '.$block->why : ''));
        }
        $count = $row->edits->count();
        session()->flash(
            'done',
            "The draft is committed: $count ".($count === 1 ? 'edit' : 'edits as one transaction')
                .'. Ship it to the servers to bring it into effect.',
        );

        return redirect('/ship');
    }

    public function rules(): View
    {
        $this->wholeOnly();
        $rules = ApprovalRule::query()->orderBy('id')->get();

        return view('ship.rules', [
            'rules' => $rules,
            'trials' => $rules->mapWithKeys(
                fn (ApprovalRule $r): array => [$r->id => RuleTrial::of($r->rule(), Registry::ungoverned())],
            ),
            'may' => $this->person()->does(Role::Steward), 'kinds' => collect(RuleKind::cases())
                ->mapWithKeys(fn (RuleKind $k): array => [$k->value => $k->label()])->all(), 'nouns' => Nouns::words(),
            'approvers' => Person::query()->where('active', true)->orderBy('name')->get()
                ->filter(fn (Person $p): bool => $p->does(Role::Approver) && ! $p->isBound()),
        ]);
    }

    /** As the commit would do it, so that what was shown can be compared with what is written. */
    private function rehearsed(Person $person, Draft $draft): Outcome
    {
        try {
            return $this->acts->rehearse($person, [...Drafts::acts($draft), new EndDraft($draft->id)], Drafts::expects($draft));
        } catch (BadInput $e) {
            return Outcome::unread($person, $e);
        }
    }

    private function done(Act $act, string $page, string $words, ?string $back = null): RedirectResponse
    {
        $outcome = $this->acts->commit($this->person(), [$act]);
        $block = $outcome->block();

        return $outcome->blocked()
            ? redirect($back ?? $page)->withInput()
                ->with('bad', ($block->message ?? (string) $outcome->trouble).($block?->why ? '. '.$block->why : ''))
            : redirect($page)->with('done', $words);
    }
}
