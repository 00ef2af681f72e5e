@php
    $me = auth()->user();
    $planner = $me->does(\App\Models\Role::Planner) && ! $me->isBound();
    $steward = $me->does(\App\Models\Role::Steward);
    $lists = $me->isBound() ? ['sites', 'vlans'] : ['sites', 'tenants', 'vlans', 'devices', 'people'];
    $labels = ['sites' => 'Sites', 'tenants' => 'Tenants', 'vlans' => 'VLANs', 'devices' => 'Devices', 'people' => 'People'];
    $form = ($list === 'people' ? $steward : ($list === 'devices' ? $planner || $me->does(\App\Models\Role::Operator) : $planner));
@endphp
<x-layout :title="$labels[$list]" verb="directory">
  <nav aria-label="Directory"><span class="oneof">@foreach($lists as $l)<a href="/directory/{{ $l }}" @if($l === $list) aria-current="page" @endif>{{ $labels[$l] }}</a>@endforeach @unless($me->isBound())<a href="/directory/settings">Settings</a>@endunless</span></nav>
  <header class="title"><h1>{{ $labels[$list] }}</h1><span class="soft">{{ $rows->count() }}</span>@if(request('number'))<span>with number {{ request('number') }} <a href="/directory/vlans">Show all</a></span>@endif</header>
  <div class="split @if($form) two @endif"><section class="panel">
  @if($rows->isEmpty())<div class="empty"><h3>None yet</h3></div>@else<div class="scroll-x" tabindex="0" role="region" aria-label="{{ $labels[$list] }}"><table data-worktable>
  @switch($list)
  @case('sites')<thead><tr><th>Site</th><th>In</th><th class="num">Prefixes</th></tr></thead><tbody>@foreach($rows as $r)<tr><td class="name"><a href="/directory/site/{{ $r->id }}">{{ $r->name }}</a></td><td>{{ $r->parent?->name }}</td><td class="num">{{ $counts[$r->id] ?? '' }}</td></tr>@endforeach</tbody>@break
  @case('vlans')<thead><tr><th class="num">Number</th><th>Name on the switch</th><th>Layer-2 domain</th><th>Site</th><th class="num">Subnets</th><th>Description</th></tr></thead><tbody>@foreach($rows as $r)<tr><td class="num">{{ $r->number }}</td><td class="name">{{ $r->name }}</td><td>{{ $r->domain->name }}</td><td>{{ $r->domain->site?->name }}</td><td class="num">{{ $counts[$r->id] ?? '' }}@unless(isset($counts[$r->id]))<span class="open">none</span>@endunless</td><td>{{ $r->description }}</td></tr>@endforeach</tbody>@break
  @case('people')<thead><tr><th>Person</th><th>Sign-in</th><th>Roles</th><th>Tenant</th><th>Sign-in is</th>@if($steward)<th></th>@endif</tr></thead><tbody>@foreach($rows as $r)<tr><td class="name">{{ $r->name }}</td><td class="mono">{{ $r->sign_in }}</td><td>{{ implode(', ', array_map(fn ($x) => str_replace('-', ' ', $x), $r->roles)) }}</td><td>{{ $tenants[$r->tenant_id] ?? '' }}</td><td>{{ $r->active ? 'open' : 'closed' }}</td>@if($steward)<td>@if($r->id !== $me->id)<form method="post" action="/act/change-person">@csrf<input type="hidden" name="then" value="commit"><input type="hidden" name="person" value="{{ $r->id }}"><input type="hidden" name="active" value="{{ $r->active ? '0' : '1' }}"><button class="btn small" aria-label="{{ $r->active ? 'Close' : 'Open' }} the sign-in of {{ $r->name }}">{{ $r->active ? 'Close' : 'Open' }}</button></form>@endif</td>@endif</tr>@endforeach</tbody>@break
  @default<thead><tr><th>Name</th><th>{{ $list === 'devices' ? 'Kind' : '' }}</th><th class="num">{{ $list === 'devices' ? 'Addresses' : 'Prefixes' }}</th></tr></thead><tbody>@foreach($rows as $r)<tr><td class="name">{{ $r->name }}</td><td>{{ $list === 'devices' ? $r->kind : '' }}</td><td class="num">{{ $counts[$r->id] ?? '' }}</td></tr>@endforeach</tbody>
  @endswitch
  </table></div>@endif</section>
  @if($form)<div class="side"><section class="panel"><header><h2>Add {{ ['sites' => 'a site', 'tenants' => 'a tenant', 'vlans' => 'a VLAN', 'devices' => 'a device', 'people' => 'a person'][$list] }}</h2></header><div class="pad">
    @switch($list)
    @case('sites')<x-act id="make" action="make-site"><x-field form="make" name="name" label="Name"/><x-field form="make" name="parent" label="In" :options="$choices->sites()" blank="none"/></x-act>@break
    @case('tenants')<x-act id="make" action="make-tenant"><x-field form="make" name="name" label="Name"/></x-act>@break
    @case('devices')<x-act id="make" action="make-device"><x-field form="make" name="name" label="Name"/><x-field form="make" name="kind" label="Kind"/><x-field form="make" name="site" label="Site" :options="$choices->sites()" blank="none"/></x-act>@break
    @case('people')<x-act id="make" action="make-person"><div class="pair"><x-field form="make" name="signIn" label="Sign-in name" mono/><x-field form="make" name="name" label="Name"/></div><x-field form="make" name="password" label="Password" type="password" autocomplete="new-password" hint="at least ten characters"/><x-field form="make" name="roles[]" label="Roles" :options="collect(\App\Models\Role::cases())->mapWithKeys(fn ($r) => [$r->value => str_replace('-', ' ', $r->value).': '.$r->explained()])->all()" multiple/><x-field form="make" name="tenant" label="Tenant, for a tenant's own admin" :options="$choices->tenants()" blank="none"/></x-act>@break
    @case('vlans')<x-act id="make" action="make-vlan" :stay="request()->getRequestUri()"><div class="pair"><x-field form="make" name="number" label="Number" inputmode="numeric"/><x-field form="make" name="name" label="Name on the switch"/></div><x-field form="make" name="domain" label="Layer-2 domain" :options="$choices->domains()"/><x-field form="make" name="description" label="Description"/></x-act>@break
    @endswitch</div></section><x-follows-slot form="make"/>
    @if($list === 'vlans')<details class="panel" @if($choices->domains() === []) open @endif><summary class="bar-line"><b>Add a layer-2 domain</b></summary><div class="pad"><x-act id="domain" action="make-domain"><x-field form="domain" name="name" label="Name"/><x-field form="domain" name="site" label="Site" :options="$choices->sites()" blank="none"/></x-act></div></details><div id="follows-domain"></div>@endif
    @if($list === 'sites' && $planner)<details class="panel"><summary class="bar-line"><b>Add a space</b></summary><div class="pad"><x-act id="space" action="make-space"><x-field form="space" name="name" label="Name"/><x-field form="space" name="routeDistinguisher" label="Route distinguisher, if any" mono hint="RFC 4364: 64512:10"/></x-act></div></details><div id="follows-space"></div>@endif
  </div>@endif</div>
</x-layout>
