{{-- One field of what a rule asks about, with what the rule wants there. --}}
@switch($field)
  @case('stage')
    <x-field form="mend" name="stage" label="Stage" :options="\App\Models\Stage::choices()" blank="stays" :$value />
  @break

  @case('site')
    <x-field form="mend" name="site" label="Site" pick="site" blank="stays" />
  @break

  @case('vlan')
    <x-field form="mend" name="vlan" label="VLAN" pick="VLAN" blank="stays" />
  @break

  @case('device')
    <x-field form="mend" name="device" label="Device" pick="device" blank="stays" />
  @break

  @case('tenant')
    <x-field form="mend" name="tenant" label="Tenant" :options="$choices->tenants()" blank="stays" />
  @break

  @case('role')
    @if ($mending->picks === 'hosts')
      <x-field form="mend" name="role" label="Role" :options="array_combine(\App\Models\Host::ROLES, \App\Models\Host::ROLES)" blank="stays" :$value />
    @else
      <x-field form="mend" name="role" label="Role" :$value />
    @endif
  @break

  @case('gateway')
    <x-field form="mend" name="gateway" label="Gateway" mono placeholder="first or last" />
  @break

  @case('tags')
    <x-field form="mend" name="tags" label="Tags" hint="+lab adds, -lab takes away" />
  @break

  @default
    <x-field form="mend" :name="$field" :label="ucfirst($field)" :$value />
@endswitch
