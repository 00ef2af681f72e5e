<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Directory\NoteAccess;
use App\Acts\Engine\Acts;
use App\Acts\Registry;
use App\Domain\Directory\Rights;
use App\Http\Middleware\SeesAs;
use App\Models\Ability;
use App\Models\ApprovalRule;
use App\Models\Grant;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Power;
use App\Models\RightTest;
use App\Models\Role;
use App\Models\RoleLimit;
use App\Models\Team;
use App\Models\TeamMember;
use App\Models\Token;
use App\Queries\RoleLimits;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** One person: what they see, what they may, how they sign in; and the application as they see it. */
final class RightsController extends Controller
{
    private const LATELY = 12;

    public function one(Request $request, string $person): View
    {
        $this->steward();
        $row = Person::query()->whereNull('removed_at')->findOrFail($person);
        $asked = trim($request->string('at')->toString());
        $ability = Ability::tryFrom($request->string('may')->toString()) ?? Ability::Hosts;
        $at = $asked === '' ? null : RightTest::subject($asked);
        $acts = [];
        foreach (Registry::ACTS as $class) {
            $room = explode('\\', $class)[2];
            $acts[$room][$class::permits($row) ? 'may' : 'not'][] = str_replace('-', ' ', $class::key());
        }

        return view('directory.person', [
            'person' => $row, 'sees' => Rights::sees($row), 'acts' => $acts,
            'granted' => Grant::query()->with(['person', 'team'])->where(
                static fn ($q) => $q->where('person_id', $row->id)->orWhereIn(
                    'team_id',
                    TeamMember::query()->where('person_id', $row->id)->select('team_id'),
                ),
            )->orderBy('id')->get(),
            'asked' => $asked, 'ability' => $ability, 'at' => $at, 'answer' => $at === null ? null : Rights::why($row, $ability, $at),
            'grants' => NameGrant::query()->with('zone')->where('person_id', $row->id)->get(),
            'teams' => TeamMember::query()->with('team')->where('person_id', $row->id)->get()->pluck('team.name')->sort()->implode(', '),
            'tests' => RightTest::query()->with('person')->where('person_id', $row->id)->orderBy('id')->get(),
            'programTokens' => $row->program
                ? Token::query()->where('person_id', $row->id)->whereNull('revoked_at')->orderBy('made_at')->get()
                : collect(),
            'tokens' => Token::query()->where('person_id', $row->id)->whereNull('revoked_at')->count(),
            'lately' => DB::table('history')->where('object_type', Person::noun())->where('object_id', $row->id)
                ->whereIn('action', ['signed-in', 'sign-in-refused', 'second-factor-refused', 'seen-as'])->orderByDesc('id')
                ->limit(self::LATELY)->get(['at', 'action', 'after']),
        ]);
    }

    public function start(Request $request, Acts $acts, string $person): RedirectResponse
    {
        $this->steward();
        $row = Person::query()->whereNull('removed_at')->findOrFail($person);
        abort_if($row->id === $this->person()->id, 422, 'That is yourself.');
        $acts->commit($this->person(), [new NoteAccess('seen as', Person::noun(), $row->id, $row->line(), (string) $request->ip())]);
        $request->session()->put(SeesAs::KEY, $row->id);

        return redirect(at('bridge'));
    }

    public function end(Request $request): RedirectResponse
    {
        $request->session()->forget(SeesAs::KEY);

        return redirect(at('directory.list', 'people'));
    }

    private function steward(): void
    {
        abort_unless($this->person()->does(Role::Steward) && ! $this->person()->isBound(), 403);
    }

    /** What each role comes with, and what of that it does here. */
    public function roles(Request $request): View
    {
        $this->wholeOnly();
        $roles = array_values(array_filter(Role::cases(), static fn (Role $r): bool => $r->powers() !== []));
        $chosen = Role::tryFrom($request->string('role')->toString());
        $limits = RoleLimit::query()->get()->keyBy(static fn (RoleLimit $l): string => $l->role->value);

        return view('directory.roles', [
            'roles' => $roles, 'powers' => Power::cases(), 'may' => $this->person()->does(Role::Steward),
            'does' => array_combine(
                array_map(static fn (Role $r): string => $r->value, $roles), array_map(RoleLimits::of(...), $roles),
            ),
            'people' => Person::query()->where('active', true)->get(['roles'])->pluck('roles')->flatten()->countBy()->all(),
            'words' => array_combine(
                array_column($chosen?->powers() ?? [], 'value'),
                array_map(
                    static fn (Power $p): string => $p->words().(($part = $chosen?->only($p)) === null ? '' : ": $part"),
                    $chosen?->powers() ?? [],
                ),
            ),
            'chosen' => $chosen !== null && $chosen->powers() !== [] ? $chosen : null, 'limit' => $limits[$chosen->value ?? ''] ?? null,
        ]);
    }

    /** Teams, who is in them, and what asks them. */
    public function teams(Request $request): View
    {
        $this->wholeOnly();
        $teams = Team::query()->with('members.person')->orderBy('name')->get();

        return view('directory.teams', [
            'teams' => $teams, 'chosen' => $teams->find($request->string('team')->toString()),
            'rules' => ApprovalRule::query()->with('team')->whereNotNull('team_id')->get()->groupBy('team_id'),
            'people' => Person::query()->where('active', true)->orderBy('name')->get(), 'may' => $this->person()->does(Role::Steward),
        ]);
    }
}
