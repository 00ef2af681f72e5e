{{-- Edits of all picked hosts. --}}
<details class="panel" id="hosts-panel" @if (old('_form') === 'hostbulk') open @endif>
  <summary class="bar-line"><b>Edit all picked hosts</b></summary>
  <div class="pad">
    <x-act id="hostbulk" action="change-hosts" data-quiet-picks :stay="request()->getRequestUri()">
      <input type="hidden" name="prefix" value="{{ $prefix->id }}">
      <p class="hint"><span data-picked>0</span> picked. A blank field stays as it is; a dash empties it.</p>
      <div class="pair">
        <x-field
          form="hostbulk"
          name="role"
          label="Role"
          :options="array_combine(\App\Models\Host::ROLES, \App\Models\Host::ROLES)"
          blank="stays"
        />
        <x-field form="hostbulk" name="ttl" label="TTL of their records" />
      </div>
      <div class="pair">
        <x-field form="hostbulk" name="device" label="Device" pick="device" blank="stays; - for none" />
        <x-field form="hostbulk" name="interface" label="Interface" mono />
      </div>
      <x-field form="hostbulk" name="owner" label="Owner" />
      <x-field form="hostbulk" name="description" label="Description" />
    </x-act>
  </div>
</details>
<div id="follows-hostbulk"></div>
