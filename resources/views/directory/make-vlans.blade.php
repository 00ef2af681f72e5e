{{-- More ways to VLANs: a series, a table, a domain of one's own --}}
<details class="panel" @if (old('_form') === 'series') open @endif>
  <summary class="bar-line"><b>Add a series</b></summary>
  <div class="pad">
    <x-act id="series" action="make-vlan-series" :stay="request()->getRequestUri()">
      <x-field form="series" name="numbers" label="Numbers" mono placeholder="200-209, or 200-290/10, or 110, 120" />
      <x-field form="series" name="name" label="Name, {n} is the number, {i} counts" mono value="VLAN-{n}" />
      <x-field form="series" name="domain" label="Layer-2 domain" :options="$choices->domains()" />
      <x-field form="series" name="description" label="Description" /></x-act>
  </div>
</details>
<div id="follows-series"></div>
<details class="panel" @if (old('_form') === 'vlantable') open @endif>
  <summary class="bar-line"><b>Take in a table</b> <span class="soft">CSV or JSON</span></summary>
  <div class="pad">
    <x-act id="vlantable" action="import-vlans" :stay="request()->getRequestUri()">
      <x-field form="vlantable" name="table" label="domain, number, name, description" rows="6" mono />
    </x-act>
  </div>
</details>
<div id="follows-vlantable"></div>
<details class="panel" @if ($choices->domains() === []) open @endif>
  <summary class="bar-line"><b>Add a layer-2 domain</b></summary>
  <div class="pad">
    <x-act id="domain" action="make-domain">
      <x-field form="domain" name="name" label="Name" />
      <x-field form="domain" name="site" label="Site" pick="site" blank="none" /></x-act>
  </div>
</details>
<div id="follows-domain"></div>
