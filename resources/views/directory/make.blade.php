{{-- What makes one more of this list: $list, $choices --}}
@switch($list)
  @case('sites')
    <x-act id="make" action="make-site">
      <x-field form="make" name="name" label="Name" />
      <x-field form="make" name="parent" label="In" pick="site" blank="none" /></x-act>
  @break

  @case('tenants')
    <x-act id="make" action="make-tenant">
      <x-field form="make" name="name" label="Name" />
    </x-act>
  @break

  @case('spaces')
    <x-act id="make" action="make-space">
      <x-field form="make" name="name" label="Name" />
      <x-field form="make" name="routeDistinguisher" label="Route distinguisher, if any" mono hint="RFC 4364: 64512:10" />
      <x-field form="make" name="description" label="Description" />
    </x-act>
  @break

  @case('domains')
    <x-act id="make" action="make-domain">
      <x-field form="make" name="name" label="Name, as the switches call it" />
      <x-field form="make" name="site" label="Site" pick="site" blank="none" />
    </x-act>
  @break

  @case('devices')
    <x-act id="make" action="make-device">
      <x-field form="make" name="name" label="Name" />
      <x-field form="make" name="kind" label="Kind" />
      <x-field form="make" name="site" label="Site" pick="site" blank="none" />
    </x-act>
  @break

  @case('people')
    <x-act id="make" action="make-person">
      <div class="pair">
        <x-field form="make" name="signIn" label="Sign-in name" mono />
        <x-field form="make" name="name" label="Name" />
      </div>
      <x-field form="make" name="program" label="Is" :options="['' => 'somebody who signs in', '1' => 'a program: tokens, and no sign-in']" />
      <x-field form="make" name="password" label="Password" type="password" autocomplete="new-password"
        hint="at least 12 characters; a program has none" />
      <x-field form="make" name="roles[]" label="Roles" :options="collect(\App\Models\Role::cases())
          ->mapWithKeys(fn($r) => [$r->value => str_replace('-', ' ', $r->value) . ': ' . $r->explained()])
          ->all()" multiple />
      <x-field form="make" name="tenant" label="Tenant, for a tenant's own admin" :options="$choices->tenants()" blank="none" />
    </x-act>
  @break

  @case('vlans')
    <x-act id="make" action="make-vlan" :stay="request()->getRequestUri()">
      <div class="pair">
        <x-field form="make" name="number" label="Number" inputmode="numeric" />
        <x-field form="make" name="name" label="Name on the switch" />
      </div>
      <x-field form="make" name="domain" label="Layer-2 domain" :options="$choices->domains()" />
      <x-field form="make" name="description" label="Description" />
      <x-check form="make" name="another" label="then add another like it" />
    </x-act>
  @break
@endswitch
