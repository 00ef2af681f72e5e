{{-- What is written down of one object of the directory: $noun, $row, $choices --}}
<section class="panel" id="change">
  <header>
    <h2>Change {{ $row->name }}</h2>
  </header>
  <div class="pad">
    @switch($noun)
      @case('site')
        <x-act id="changeit" action="change-site" :seen="['site:' . $row->id => $row->version]">
          <input type="hidden" name="site" value="{{ $row->id }}">
          <x-field form="changeit" name="name" label="Name" :value="$row->name" />
          <x-field form="changeit" name="parent" label="In" pick="site" none="-" blank="nothing" :value="$row->parent_id ?? ''"
            :shown="$row->parent->name ?? ''" />
          <x-field form="changeit" name="tenant" label="Owner" :options="['-' => 'that of the site above'] + $choices->tenants()"
            :value="$row->tenant_id ?? '-'" />
        </x-act>
      @break

      @case('device')
        <x-act id="changeit" action="change-device" :seen="['device:' . $row->id => $row->version]">
          <input type="hidden" name="device" value="{{ $row->id }}">
          <x-field form="changeit" name="name" label="Name" :value="$row->name" />
          <x-field form="changeit" name="kind" label="Kind" :value="$row->kind" />
          <x-field form="changeit" name="site" label="Site" pick="site" none="-" blank="none" :value="$row->site_id ?? ''"
            :shown="$choices->sites()[$row->site_id ?? ''] ?? ''" />
          <x-field form="changeit" name="tenant" label="Owner" :options="['-' => 'that of its site'] + $choices->tenants()"
            :value="$row->tenant_id ?? '-'" />
        </x-act>
      @break

      @case('tenant')
        <x-act id="changeit" action="change-tenant" :seen="['tenant:' . $row->id => $row->version]">
          <input type="hidden" name="tenant" value="{{ $row->id }}">
          <x-field form="changeit" name="name" label="Name" :value="$row->name" />
        </x-act>
      @break

      @case('space')
        <x-act id="changeit" action="change-space" :seen="['space:' . $row->id => $row->version]">
          <input type="hidden" name="space" value="{{ $row->id }}">
          <x-field form="changeit" name="name" label="Name" :value="$row->name" />
          <x-field form="changeit" name="routeDistinguisher" label="Route distinguisher, - for none" mono :value="$row->route_distinguisher ?? ''" />
          <x-field form="changeit" name="description" label="Description" :value="$row->description" />
        </x-act>
      @break

      @case('layer-2 domain')
        <x-act id="changeit" action="change-domain" :seen="['layer-2 domain:' . $row->id => $row->version]">
          <input type="hidden" name="domain" value="{{ $row->id }}">
          <x-field form="changeit" name="name" label="Name, as the switches call it" :value="$row->name" />
          <x-field form="changeit" name="site" label="Site" pick="site" none="-" blank="none" :value="$row->site_id ?? ''"
            :shown="$choices->sites()[$row->site_id ?? ''] ?? ''" />
        </x-act>
      @break
    @endswitch
    <x-cut id="cutit" action="remove-object" :input="['noun' => $noun, 'object' => $row->id]" target="#follows-changeit" label="Remove it" class="row end" />
  </div>
</section>
<x-follows-slot form="changeit" />
