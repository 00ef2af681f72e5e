<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer2Domain;
use App\Models\Role;
use App\Models\Vlan;
use App\Models\VlanIntent;
use App\Queries\Intents;
use App\Queries\ReachTable;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** What clients of the VLANs of one layer-2 domain are meant to reach: from each to each, and beyond. */
final class ReachController extends Controller
{
    /** VLANs in the table; of more, those that a rule names come first. */
    private const MOST = 30;

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $domains = Layer2Domain::query()->orderBy('name')->get();
        $asked = $request->string('domain')->toString();
        $said = VlanIntent::query()->join('vlans', 'vlans.id', '=', 'vlan_intents.vlan_id')->value('domain_id');
        $domain = $domains->firstWhere('id', $asked) ?? $domains->firstWhere('id', $said) ?? $domains->first();
        $vlans = Vlan::query()->with('domain')->where('domain_id', $domain?->id)->orderBy('number')->get();
        $rules = Intents::naming(array_values(array_map(strval(...), $vlans->modelKeys())));
        $named = $rules->pluck('vlan_id')->concat($rules->pluck('to_vlan_id'))->filter()->flip();
        $shown = $vlans->sortBy(static fn (Vlan $v): array => [$named->has($v->id) ? 0 : 1, $v->number])->take(self::MOST)
            ->sortBy('number');
        $ids = $shown->pluck('id')->flip();

        return view('directory.reach', [
            'domains' => $domains->pluck('name', 'id')->all(), 'domain' => $domain, 'vlans' => $shown->values(),
            'left' => $vlans->count() - $shown->count(), 'cells' => ReachTable::of($shown->values(), $rules), 'count' => $rules->count(),
            'zones' => array_combine(\DateTimeZone::listIdentifiers(), \DateTimeZone::listIdentifiers()),
            'beyond' => $rules->filter(
                static fn (VlanIntent $i): bool => ! $ids->has($i->to_vlan_id ?? '') || ! $ids->has($i->vlan_id),
            )->values(),
            'may' => $this->person()->does(Role::Planner),
            'from' => $vlans->find($request->string('from')->toString()), 'to' => $vlans->find($request->string('to')->toString()),
            'chosen' => $rules->first(static fn (VlanIntent $i): bool => $i->id === $request->string('rule')->toString()),
        ]);
    }
}
