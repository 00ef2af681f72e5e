{{-- Every field of a single edit, for all picked rows. --}}
<details class="panel" id="bulk-panel" @if (old('_form') === 'bulk' || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-bulk-form"><b>Edit all picked</b> <span class="soft"><span data-picked>0</span> picked</span></summary>
  <div class="pad">
    <x-act id="bulk" action="change-prefix" data-quiet-picks :stay="at('plan.prefix', $prefix->id)">
      <p class="hint">A blank field stays as it is; a dash empties it.</p>
      <x-field form="bulk" name="name" label="Name of all" />
      <div class="pair">
        <x-field
          form="bulk"
          name="stage"
          label="Stage"
          :options="\App\Models\Stage::choices()"
          blank="stays"
        />
        <x-field
          form="bulk"
          name="kind"
          label="Kind"
          :options="\App\Models\PrefixKind::choices()"
          blank="stays"
        />
      </div>
      <x-field form="bulk" name="site" label="Site" pick="site" blank="stays; - for none" />
      <x-field form="bulk" name="vlan" label="VLAN" pick="VLAN" blank="stays; - for none" />
      <x-field form="bulk" name="tenant" label="Tenant" :options="['-' => 'inherited'] + $choices->tenants()" blank="stays" />
      <div class="pair">
        <x-field form="bulk" name="role" label="Role" />
        <x-field form="bulk" name="gateway" label="Gateway" mono placeholder="first, last or -" />
      </div>
      <x-field form="bulk" name="tags" label="Tags" hint="+lab adds, -lab takes away, lab, quay replaces all" />
      <details class="more">
        <summary>Origin of top holdings</summary>
        <div class="form">
          <x-field form="bulk" name="origin" label="Who allocated them" />
          <div class="pair">
            <x-field form="bulk" name="originOn" label="When" type="date" />
            <x-field form="bulk" name="originHandle" label="Handle" mono />
          </div>
        </div>
      </details>
      @include('plan.own-fields', ['form' => 'bulk', 'values' => [], 'blank' => true])
      <x-field form="bulk" name="description" label="Description" />
    </x-act>
  </div>
</details>
<div id="follows-bulk"></div>
