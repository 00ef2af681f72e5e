<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\NetworkLink;
use App\Models\Layer2Domain;
use App\Models\PortProfile;
use App\Models\ProfilePort;
use App\Models\Role;
use App\Models\SwitchPort;
use App\Queries\PortChecks;
use HarborPost\Core\Planning\PortList;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** How ports of switches in one layer-2 domain are meant to be set, and which are not yet. */
final class PortController extends Controller
{
    public function index(Request $request): View
    {
        $this->wholeOnly();
        $domains = Layer2Domain::query()->orderBy('name')->get();
        $domain = $domains->firstWhere('id', $request->string('domain')->toString())
            ?? $domains->firstWhere('id', PortProfile::query()->value('domain_id')) ?? $domains->first();
        $profiles = PortProfile::query()->with(['native', 'voice', 'ports'])->where('domain_id', $domain?->id)->orderBy('name')->get();

        return view('directory.ports', [
            'domains' => $domains->pluck('name', 'id')->all(), 'domain' => $domain, 'profiles' => $profiles,
            'checks' => PortChecks::of($profiles),
            'where' => $profiles->mapWithKeys(static fn (PortProfile $p): array => [$p->id => $p->ports->groupBy('device')->map(
                static fn ($of): string => PortList::shorten(
                    array_values($of->map(static fn (ProfilePort $port): string => $port->port)->all()),
                ),
            )->all()])->all(),
            'chosen' => $profiles->firstWhere('id', $request->string('profile')->toString()),
            'read' => SwitchPort::query()->where('domain_id', $domain?->id)->max('read_at'),
            'devices' => SwitchPort::query()->where('domain_id', $domain?->id)->distinct()->orderBy('device')->limit(200)
                ->pluck('device')->all(),
            'free' => SwitchPort::query()->where('domain_id', $domain?->id)->whereNotExists(
                static fn ($q) => $q->from('profile_ports')->whereColumn('profile_ports.domain_id', 'switch_ports.domain_id')
                    ->whereColumn('profile_ports.device', 'switch_ports.device')->whereColumn('profile_ports.port', 'switch_ports.port'),
            )->count(),
            'network' => NetworkLink::first()?->server->id, 'may' => $this->person()->does(Role::Planner),
        ]);
    }
}
