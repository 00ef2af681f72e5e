{{-- The form of the row that is edited where it stands. --}}
@php
  $acts = [
      'sites' => ['change-site', 'site'],
      'tenants' => ['change-tenant', 'tenant'],
      'spaces' => ['change-space', 'space'],
      'domains' => ['change-domain', 'domain'],
      'devices' => ['change-device', 'device'],
      'vlans' => ['change-vlan', 'vlan'],
  ];
  [$act, $key] = $acts[$list];
@endphp
<x-act id="changeit" :action="$act" :seen="[$edited::noun() . ':' . $edited->id => $edited->version]" :stay="$in->out()" data-inrow
  :data-next="$in->next()">
  <input type="hidden" name="{{ $key }}" value="{{ $edited->id }}">
</x-act>
<div id="follows-changeit" class="of-row"></div>
