<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Models\Ability;
use App\Models\HeldRun;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Role;
use App\Models\Scope;
use App\Models\Space;
use App\Queries\Choices;
use App\Queries\EvidencePage;
use App\Queries\Forecasts;
use App\Queries\FreeAddresses;
use App\Queries\Granted;
use App\Queries\HandedOut;
use App\Queries\Inherited;
use App\Queries\MovePlan;
use App\Queries\OpenBlocks;
use App\Queries\PrefixFacts;
use App\Queries\PrefixPage;
use App\Queries\RulerRows;
use App\Queries\ServedBy;
use App\View\Level;
use App\View\Ruler;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

final class PlanController extends Controller
{
    public function index(): RedirectResponse|View
    {
        session()->reflash();
        $space = Space::query()
            ->when(! $this->reach()->isWhole(), fn ($q) => $q->whereIn('id', $this->reach()->prefixes()->select('space_id')))
            ->orderBy('name')->first();

        return $space === null ? view('plan.empty', ['choices' => new Choices($this->reach())]) : redirect(at('plan.space', $space->id));
    }

    public function space(Request $request, string $space): RedirectResponse|View
    {
        $space = Space::query()->findOrFail($space);
        $reach = $this->reach();
        abort_if(! $reach->isWhole() && $reach->prefixes()->where('space_id', $space->id)->doesntExist(), 404);
        $tops = $this->tops($space);
        if ($reach->isWhole() && $tops !== [] && ! $request->boolean('top')) {
            session()->reflash(); // What was said of the act that led here is for the page that is shown.

            return redirect(at('plan.prefix', $tops[0]->id));
        }

        return view('plan.space', ['space' => $space, 'tops' => $tops, 'choices' => new Choices($reach), 'spaces' => $this->spaces()]);
    }

    public function prefix(Request $request, string $prefix): View
    {
        $reach = $this->reach();
        $row = $reach->prefixes()->with(['space', 'parent', 'site', 'vlan', 'tenant'])->findOrFail($prefix);
        $common = [
            'prefix' => $row, 'net' => $row->prefix(), 'facts' => PrefixFacts::of($row->prefix()), 'above' => $this->above($row),
            'choices' => new Choices($reach), 'touched' => Drafts::touched($this->person()),
            'tops' => $row->parent_id === null ? $this->tops($row->space) : [],
            'spaces' => $this->spaces(),
            'page' => new PrefixPage($reach),
            'layers' => request('panel') === 'flow' || old('_form') === 'setting' ? app(Inherited::class)->of($row) : [],
            'opened' => request()->has('panel'),
            'mayPlan' => Granted::changes($this->person(), $row), 'mayCarve' => Granted::carvesIn($this->person(), $row),
            'maySet' => $this->person()->does(Role::Planner) && $reach->isWhole(),
            'favourite' => DB::table('favourites')->where('person_id', $this->person()->id)->where('prefix_id', $row->id)->exists(),
            'favourites' => $row->parent_id === null ? $this->favourites() : [],
        ];
        (new PrefixPage($reach))->foldIn(new \Illuminate\Database\Eloquent\Collection([$row]));
        $common['level'] = Level::of($row);

        return $row->kind === PrefixKind::Subnet ? $this->subnet($request, $row, $common) : $this->supernet($request, $row, $common);
    }

    /** @param  array<string, mixed>  $common */
    private function supernet(Request $request, Prefix $row, array $common): View
    {
        $reach = $this->reach();
        $zoom = Net::tryParse($request->string('zoom')->toString());
        $zoom = $request->has('at')
            ? $this->zoomed($row->prefix(), $zoom, (float) $request->string('at')->toString(), $request->integer('by', 2))
            : $zoom;
        $zoom = $zoom !== null && $row->prefix()->contains($zoom) && ! $zoom->equals($row->prefix()) ? $zoom : null;
        $length = max($row->length + 1, min($row->family === 4 ? 24 : 64, $row->family === 4 ? 30 : 64));
        $length = $request->integer('length', $length);
        $page = new PrefixPage($reach);
        $filter = $request->string('filter')->toString();
        $sorted = $page->sorted($row, $zoom, $filter, $request->string('sort')->toString(), $request->integer('page', 1));
        $list = $sorted === null
            ? $page->children($row, $zoom, $request->string('from')->toString(), $filter)
            : ['rows' => $sorted->rows->all(), 'next' => null];

        return view('plan.supernet', $common + [
            'handed' => HandedOut::of($row, $reach),
            'zoom' => $zoom,
            'ruler' => Ruler::of(
                RulerRows::of($row, $reach, $zoom), null, $common['touched'], $page->found($row, $request->string('filter')->toString()),
            ),
            'context' => $row->parent !== null
                && $reach->prefixes()->whereKey($row->parent_id)->exists()
                ? Ruler::of(RulerRows::of($row->parent, $reach), $row->id) : null,
            'misread' => $page->misread, 'first' => Forecasts::first($row, $reach), 'today' => Forecasts::today(), 'list' => $list,
            'length' => $length, 'proposals' => $row->groups ? OpenBlocks::proposals($row, $length) : [],
            'allInside' => $zoom === null && ($sorted !== null || $list['next'] !== null) ? $page->countInside($row, $filter) : 0,
            'sorted' => $sorted, 'order' => PrefixPage::childOrder($request->string('sort')->toString()),
            'largest' => $row->groups ? OpenBlocks::largest($row) : null, 'filter' => $filter,
        ]);
    }

    /** @param  array<string, mixed>  $common */
    private function subnet(Request $request, Prefix $row, array $common): View
    {
        $page = new PrefixPage($this->reach());
        $scope = Scope::query()->with(['ranges', 'exclusions', 'placements.server'])->where('prefix_id', $row->id)->first();
        $wanted = Address::tryParse($request->string('address')->toString());
        $show = $request->string('show')->toString();
        $evidence = in_array($show, ['evidence', 'conflicts'], true);
        $hosts = $evidence
            ? null
            : $page->hosts(
                $row, $request->string('from', (string) $wanted)->toString(), $request->string('filter')->toString(),
                $request->string('sort')->toString(), $request->integer('page', 1),
            );
        $ids = $hosts?->rows->modelKeys() ?? [];
        [$runs, $truncated] = $page->runs($row, $scope);
        $records = Record::query()->whereIn('address_id', $ids)->with('zone')->get();
        // A name of a host may stand in a zone that its reader does not see: it is told, and leads nowhere.
        $seen = $this->reach()->isWhole() ? $records->pluck('zone_id')
            : $this->reach()->zones()->whereIn('zones.id', $records->pluck('zone_id'))->pluck('zones.id');

        return view('plan.subnet', $common + [
            'scope' => $scope, 'hosts' => $hosts, 'runs' => $runs, 'truncated' => $truncated,
            'filter' => $request->string('filter')->toString(), 'wanted' => $wanted,
            'free' => FreeAddresses::next($row, 3),
            'records' => $records->groupBy('address_id'), 'zonesSeen' => $seen->flip(),
            'reserved' => Reservation::query()->whereIn('address_id', $ids)->get()->keyBy('address_id'),
            'homeZone' => $this->homeZone($row), 'held' => HeldRun::query()->where('prefix_id', $row->id)->orderBy('first')->get(),
            'served' => ServedBy::of($row, $scope), 'mayPlace' => Granted::worksIn($this->person(), Ability::Hosts, $row),
            'evidence' => $evidence ? EvidencePage::of($row, $request->string('from')->toString(), $show === 'conflicts') : null,
            'conflicts' => $show === 'conflicts',
            'samples' => Forecasts::samples($row),
            'trend' => Forecasts::of($row),
            'today' => Forecasts::today(),
        ]);
    }

    /** One panel of a prefix's page, drawn when it is opened. */
    public function panel(string $prefix, string $panel): View
    {
        $reach = $this->reach();
        $row = $reach->prefixes()->with(['space', 'parent', 'site', 'vlan', 'tenant'])->findOrFail($prefix);
        $person = $this->person();
        $may = $panel === 'bulk-form' ? Granted::carvesIn($person, $row) : Granted::changes($person, $row);
        abort_if(in_array($panel, ['change-form', 'bulk-form', 'reshape'], true) && ! $may, 403);

        /** @var view-string $view */
        $view = "plan.$panel";

        return view($view, [
            'prefix' => $row, 'net' => $row->prefix(), 'choices' => new Choices($reach), 'mayPlan' => $may, 'opened' => true,
            'maySet' => $person->does(Role::Planner) && $reach->isWhole(), 'mayPlace' => Granted::worksIn($person, Ability::Hosts, $row),
            'layers' => $panel === 'flow' ? app(Inherited::class)->of($row) : [],
            'homeZone' => $panel === 'several' ? $this->homeZone($row) : null,
            'scope' => $panel === 'several' ? Scope::query()->where('prefix_id', $row->id)->first() : null,
        ]);
    }

    /**
     * The part of a prefix that is one step nearer around a place, or one step further away; the place is a share from 0 to 1 of what is
     * seen now.
     */
    private function zoomed(Net $whole, ?Net $now, float $at, int $by): Net
    {
        $now ??= $whole;
        $length = max($whole->length, min($now->family()->bits(), $now->length + max(-8, min(8, $by))));
        $offset = $now->size()->multipliedBy((int) (max(0, min(0.999999, $at)) * 1000000))->quotient(1000000);

        return ($now->first->plus($offset) ?? $now->first)->in($length);
    }

    /** Old and new of everything that a move would change. */
    public function move(Request $request, string $prefix): View
    {
        $this->wholeOnly();
        $row = $this->reach()->prefixes()->with(['space', 'parent', 'site', 'vlan'])->where('kind', PrefixKind::Subnet)
            ->findOrFail($prefix);
        $text = trim($request->string('to')->toString());
        $to = $text === '' ? null : Net::tryParse($text);
        $fits = $to !== null && $to->family() === $row->prefix()->family() && ! $to->overlaps($row->prefix());

        return view('plan.move', [
            'prefix' => $row, 'net' => $row->prefix(), 'text' => $text, 'to' => $fits ? $to : null,
            'plan' => $fits ? MovePlan::of($row, $to) : null, 'above' => $this->above($row),
            'mayPlan' => $this->person()->does(Role::Planner),
            'proposals' => $row->parent === null ? [] : OpenBlocks::proposals($row->parent, $row->length),
        ]);
    }

    /** The zone that the hosts of a subnet have their names in; of one without hosts, that of the domain it inherits. */
    private function homeZone(Prefix $row): ?string
    {
        $last = \App\Models\Host::query()->where('prefix_id', $row->id)->where('name', '!=', '')->orderByDesc('address')->value('name');
        $name = is_string($last) ? $last : (app(Inherited::class)->of($row)['domain']['value'][0] ?? '');
        $parsed = $name === '' ? null : \HarborPost\Core\Dns\Name::tryParse(rtrim($name, '.').'.');
        $zone = $parsed === null ? null : \App\Queries\Zones::closest($parsed, null)?->id;

        return $zone !== null && $this->reach()->zones()->whereKey($zone)->exists() ? $zone : null;
    }

    /** @return list<Prefix> from the top down, as far as the person may see */
    private function above(Prefix $row): array
    {
        $above = \App\Queries\Ancestors::of($row->space_id, $row->prefix())->filter(
            static fn (Prefix $p): bool => $p->id !== $row->id && $p->groups && ($p->length < $row->length || ! $row->groups),
        );
        $seen = $this->reach()->isWhole() ? null : $this->reach()->prefixes()->whereKey($above->modelKeys())->pluck('id')->all();

        return array_values($above->filter(static fn (Prefix $p): bool => $seen === null || in_array($p->id, $seen, true))->all());
    }

    /** @return list<Prefix> those without a parent, or for somebody bound to a tenant, those whose parent they do not see */
    private function tops(Space $space): array
    {
        $reach = $this->reach();
        $query = $reach->prefixes()->where('space_id', $space->id);
        $reach->isWhole()
            ? $query->whereNull('parent_id')
            : $query->whereNotExists(
                fn ($q) => $q->from('prefixes as above')->whereColumn('above.id', 'prefixes.parent_id')
                    ->where(fn ($p) => $reach->within($p, 'above')),
            );

        return array_values($query->with(['site', 'vlan'])->orderBy('family')->orderBy('first')->limit(200)->get()->all());
    }

    /** @return list<Prefix> what the person keeps at hand, as far as it is still theirs to see */
    private function favourites(): array
    {
        return array_values(
            $this->reach()->prefixes()
                ->whereIn('prefixes.id', DB::table('favourites')->where('person_id', $this->person()->id)->select('prefix_id'))
                ->orderBy('name')->orderBy('first')->limit(30)->get()->all(),
        );
    }

    /** @return array<string, string> */
    private function spaces(): array
    {
        return Space::query()
            ->when(! $this->reach()->isWhole(), fn ($q) => $q->whereIn('id', $this->reach()->prefixes()->select('space_id')))
            ->orderBy('name')->pluck('name', 'id')->all();
    }
}
