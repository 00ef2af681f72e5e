<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Device;
use App\Models\Person;
use App\Models\Tenant;
use App\Queries\Choices;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

final class DirectoryController extends Controller
{
    private const ROWS = 300;

    public function show(Request $request, string $list): View
    {
        $reach = $this->reach();
        abort_if(! $reach->isWhole() && in_array($list, ['tenants', 'people', 'devices'], true), 403);
        $rows = match ($list) {
            'sites' => $reach->sites()->with('parent')->orderBy('name')->limit(self::ROWS)->get(),
            'tenants' => Tenant::query()->orderBy('name')->limit(self::ROWS)->get(),
            'devices' => Device::query()->orderBy('name')->limit(self::ROWS)->get(),
            'people' => Person::query()->orderBy('sign_in')->limit(self::ROWS)->get(),
            default => $reach->vlans()->with('domain.site')->when($request->filled('number'), fn ($q) => $q->where('number', $request->integer('number')))->orderBy('number')->orderBy('domain_id')->limit(self::ROWS)->get(),
        };
        $counts = match ($list) {
            'sites' => $reach->prefixes()->whereNotNull('site_id')->groupBy('site_id')->selectRaw('site_id as k, COUNT(*) as n')->toBase()->pluck('n', 'k'),
            'tenants' => $reach->prefixes()->whereNotNull('effective_tenant_id')->groupBy('effective_tenant_id')->selectRaw('effective_tenant_id as k, COUNT(*) as n')->toBase()->pluck('n', 'k'),
            'vlans' => $reach->prefixes()->whereIn('vlan_id', $rows->modelKeys())->groupBy('vlan_id')->selectRaw('vlan_id as k, COUNT(*) as n')->toBase()->pluck('n', 'k'),
            'devices' => DB::table('addresses')->whereIn('device_id', $rows->modelKeys())->groupBy('device_id')->selectRaw('device_id as k, COUNT(*) as n')->pluck('n', 'k'),
            default => collect(),
        };

        return view('directory.show', ['list' => $list, 'rows' => $rows, 'counts' => $counts, 'choices' => new Choices($reach), 'tenants' => $reach->isWhole() ? Tenant::query()->pluck('name', 'id') : collect()]);
    }
}
