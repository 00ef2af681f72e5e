<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Acts\Name\ChangeZone;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use App\Queries\Choices;
use App\Queries\Delegation\Delegated;
use App\Queries\Delegation\Inside;
use App\Queries\Delegation\State;
use App\Queries\Delegation\Tree;
use App\Queries\NameRights;
use App\Queries\NameTimeline;
use App\Queries\OldAnswers;
use App\Queries\ZoneFindings;
use App\Queries\ZoneList;
use App\Queries\ZonePage;
use App\Shipping\Drifts as ServerDrifts;
use HarborPost\Core\Dns\Name;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

final class NameController extends Controller
{
    public function index(Request $request): View
    {
        $filter = $request->string('filter')->toString();
        $found = new ZoneList($this->reach(), $filter);
        $list = $found->page($request->string('sort')->toString(), $request->integer('page', 1));
        $zones = $list->rows->modelKeys();

        return view('name.index', [
            'list' => $list, 'filter' => $filter, 'words' => ZoneList::WORDS, 'misread' => $found->misread,
            'drifts' => ServerDrifts::of('zone', $zones),
            'waiting' => DB::table('record_changes')->whereIn('zone_id', $zones)->whereNull('serial')
                ->groupBy('zone_id')->selectRaw('zone_id, COUNT(*) as n')->pluck('n', 'zone_id'),
            'choices' => new Choices($this->reach()), 'make' => $request->string('make')->toString(),
            'may' => ChangeZone::permits($this->person()), 'touched' => Drafts::touched($this->person()),
        ]);
    }

    public function zone(Request $request, string $zone): View
    {
        $row = $this->reach()->zones()->with(['view', 'placements.server'])->findOrFail($zone);
        $filter = $request->string('filter')->toString();
        $edit = $request->string('edit')->toString();

        return view('name.zone', [
            'zone' => $row,
            'origin' => $row->origin(),
            'filter' => $filter,
            'edit' => $edit,
            'list' => ZonePage::records(
                $row, $filter, $request->string('after')->toString(), $this->reach(), $request->string('sort')->toString(),
                $request->integer('page', 1),
            ),
            'whole' => NameRights::may($this->person(), $row, null),
            'reads' => $this->reach()->isWhole() || NameRights::may($this->person(), $row, null),
            'some' => NameRights::some($this->person(), $row),
            'can' => fn (Record $r): bool => NameRights::may($this->person(), $row, Name::parse($r->owner), $r->type),
            'grants' => $this->reach()->isWhole()
                ? NameGrant::query()->with(['person', 'zone'])->where('zone_id', $row->id)->get()
                : collect(),
            'people' => $this->mayGrant() ? Person::query()->where('active', true)->orderBy('name')->pluck('name', 'id')->all() : [],
            'drifted' => ServerDrifts::of('zone', [$row->id])[$row->id] ?? [], 'waiting' => ZonePage::waiting($row),
            'waits' => ZonePage::countWaiting($row), 'old' => OldAnswers::of($row), 'touched' => Drafts::touched($this->person()),
            'others' => $this->reach()->zones()->with('view')->where('name', $row->name)->whereKeyNot($row->id)->get(),
        ]);
    }

    /** Which zones lie inside which, and whether the one above leads there. */
    public function tree(Request $request): View
    {
        $this->wholeOnly();
        $text = trim($request->string('under')->toString());
        $name = $text === '' ? null : Name::tryParse(rtrim($text, '.').'.');
        $misread = $text !== '' && $name === null;
        [$tree, $more] = $misread ? [[], false] : Tree::of($this->reach(), (string) $name?->lower());
        $all = array_merge(...array_map(static fn (Inside $one): array => $one->all(), $tree));

        return view('name.tree', [
            'under' => $text, 'tree' => $tree, 'more' => $more, 'misread' => $misread ? "\"$text\" is no name" : null,
            'wrong' => array_values(array_filter(
                $all,
                static fn (Delegated $one): bool => in_array($one->state, [State::Missing, State::Differs], true),
            )),
        ]);
    }

    /** The last acts on records of the zone, each with its undoing. */
    public function lately(Request $request, string $zone): View
    {
        $row = $this->reach()->zones()->findOrFail($zone);

        return view(
            // Without script it is a page of its own.
            $request->hasHeader('HX-Request') ? 'name.lately' : 'name.lately-page',
            ['zone' => $row, 'lately' => ZonePage::lately($row, $this->person()->operatesAll() ? null : $this->person()->id)],
        );
    }

    /** What the rules find in the zone as it is planned. */
    public function checks(string $zone): View
    {
        $row = $this->reach()->zones()->with('view')->findOrFail($zone);
        // A right on one name in a zone is no right to read the rest of it.
        abort_unless($this->reach()->isWhole() || NameRights::may($this->person(), $row, null), 403);
        $start = microtime(true);
        $findings = ZoneFindings::of($row);

        return view(
            'name.checks',
            [
                'zone' => $row, 'findings' => $findings, 'seconds' => microtime(true) - $start,
                'may' => NameRights::some($this->person(), $row),
            ],
        );
    }

    /** Everything that happened to one name, and what will. */
    public function timeline(Request $request, string $zone): View
    {
        $row = $this->reach()->zones()->with(['view', 'placements.server'])->findOrFail($zone);
        $name = Name::tryParse(rtrim($request->string('name')->toString(), '.').'.') ?? abort(404);
        abort_unless($this->reach()->isWhole() || NameRights::may($this->person(), $row, $name), 403);

        return view('name.timeline', ['zone' => $row, 'name' => $name, 'events' => NameTimeline::of($row, $name)]);
    }

    private function mayGrant(): bool
    {
        return ($this->person()->does(Role::Steward) || $this->person()->does(Role::Planner)) && ! $this->person()->isBound();
    }
}
