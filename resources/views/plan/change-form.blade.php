<details class="panel" @if (in_array(old('_form'), ['change', 'remove'], true) || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-change-form"><b>Edit this prefix</b></summary>
  <div class="pad">
    <x-act id="change" action="change-prefix" :seen="['prefix:' . $prefix->id => $prefix->version]">
      <input type="hidden" name="prefixes[]" value="{{ $prefix->id }}">
      <x-field form="change" name="name" label="Name" :value="$prefix->name" />
      <div class="pair">
        <x-field
          form="change"
          name="stage"
          label="Stage"
          :options="\App\Models\Stage::choices()"
          :value="$prefix->stage->value"
        />
        <x-field form="change" name="role" label="Role" :value="$prefix->role" />
      </div>
      <x-field form="change" name="site" label="Site" pick="site" none="-" blank="none" :value="$prefix->site_id ?? '-'"
        :shown="$prefix->site->name ?? ''" />
      <x-field form="change" name="vlan" label="VLAN" pick="VLAN" none="-" blank="none; number or name" :value="$prefix->vlan_id ?? '-'"
        :shown="$prefix->vlan ? $prefix->vlan->number . ' ' . $prefix->vlan->name : ''" />
      <x-field form="change" name="tenant" label="Tenant" :options="['-' => 'inherited'] + $choices->tenants()" :value="$prefix->tenant_id ?? '-'" />
      @if ($prefix->isSubnet())
        <x-field form="change" name="gateway" label="Gateway" mono :value="(string) $prefix->gateway" />
      @endif
      <x-field form="change" name="kind" label="Kind" :options="\App\Models\PrefixKind::choices()"
      :value="$prefix->kind->value"
        hint="one subnet or pool may fill a supernet exactly; a second child as large, or a supernet in one of its own size, is refused" />
      @if ($prefix->parent_id === null)
        <x-field form="change" name="origin" label="Origin: who allocated it" :value="$prefix->origin" />
        <div class="pair">
          <x-field form="change" name="originOn" label="When" type="date" :value="$prefix->origin_on?->format('Y-m-d')" />
          <x-field form="change" name="originHandle" label="Handle" mono :value="$prefix->origin_handle" />
        </div>
      @endif
      <x-field form="change" name="tags" label="Tags, apart by commas" :value="implode(', ', $prefix->tags ?? [])" />
      @include('plan.own-fields', ['form' => 'change', 'values' => $prefix->own ?? [], 'blank' => false])
      <x-field form="change" name="description" label="Description" :value="$prefix->description" />
    </x-act>
    <div class="row end">
      <form id="remove" class="row" method="post" action="{{ at('act', 'remove-prefix') }}"
            hx-post="{{ at('act', 'remove-prefix') }}" hx-target="#follows-change"
        hx-swap="innerHTML">@csrf
        <input type="hidden" name="_form" value="remove">
        <input type="hidden" name="prefix" value="{{ $prefix->id }}"><label class="tick"><input type="checkbox" name="clean"
            value="1">with all that is inside</label>
        <button class="btn stop small" name="then" value="preview">Give it back</button>
      </form>
    </div>
  </div>
</details>
