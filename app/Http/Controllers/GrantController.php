<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Domain\Directory\GrantWhere;
use App\Models\Ability;
use App\Models\Grant;
use App\Models\Role;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** What is granted beyond roles, as sentences; and the form to grant something. */
final class GrantController extends Controller
{
    private const MOST = 500;

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $filter = trim($request->string('filter')->toString());
        $all = Grant::query()->with(['person', 'team'])->orderBy('id')->limit(self::MOST)->get();
        $chosen = Grant::query()->with(['person', 'team'])->find($request->string('grant')->toString());
        $at = $chosen?->at();

        return view('directory.grants', [
            'grants' => $filter === '' ? $all : $all->filter(static fn (Grant $g): bool => mb_stripos($g->sentence(), $filter) !== false),
            'count' => Grant::query()->count(), 'most' => self::MOST, 'filter' => $filter, 'chosen' => $chosen,
            'where' => match (true) {
                $chosen === null => '',
                $chosen->place->model() === null => "{$chosen->place->value} $chosen->place_id",
                default => $at === null ? '' : GrantWhere::exactly($chosen->place, $at),
            },
            'abilities' => array_map(
                static fn (Ability $a): array => ['value' => $a->value, 'words' => ucfirst($a->words()).': '.$a->explained()],
                Ability::cases(),
            ),
            'may' => $this->person()->does(Role::Steward),
        ]);
    }
}
