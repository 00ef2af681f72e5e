<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Registry;
use App\Models\ApprovalRule;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Role;
use App\Models\Team;
use App\Queries\RuleTrial;
use HarborPost\Core\Agreement\RuleKind;
use Illuminate\Contracts\View\View;

/** The rules that say when others have to agree. */
final class RuleController extends Controller
{
    public function index(): View
    {
        $this->wholeOnly();
        $rules = ApprovalRule::query()->with('team')->orderBy('id')->get();

        return view('ship.rules', [
            'rules' => $rules, 'teams' => Team::query()->orderBy('name')->pluck('name', 'id')->all(),
            'trials' => $rules->mapWithKeys(
                fn (ApprovalRule $r): array => [$r->id => RuleTrial::of($r->rule(), Registry::ungoverned())],
            ),
            'may' => $this->person()->does(Role::Steward), 'kinds' => collect(RuleKind::cases())
                ->mapWithKeys(fn (RuleKind $k): array => [$k->value => $k->label()])->all(), 'nouns' => Nouns::words(),
            'approvers' => Person::query()->where('active', true)->orderBy('name')->get()
                ->filter(fn (Person $p): bool => $p->does(Role::Approver) && ! $p->isBound()),
        ]);
    }
}
