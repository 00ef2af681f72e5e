{{-- Several hosts at once. --}}
<details class="panel" @if (old('_form') === 'several' || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-several"><b>Place several</b> <span class="soft">next ones, in a row, by a list</span></summary>
  <div class="pad">
    <x-act id="several" action="place-several">
      <input type="hidden" name="prefix" value="{{ $prefix->id }}">
      <x-field form="several" name="names" label="Names, one a line, a MAC behind it if any" rows="4" mono placeholder="till-{n}"
        hint="one name with {n} is numbered; no names gives addresses alone" />
      <div class="pair">
        <x-field form="several" name="count" label="How many" inputmode="numeric" placeholder="one for each name" />
        <x-field form="several" name="start" label="{n} starts at" value="1" inputmode="numeric" />
      </div>
      <x-field form="several" name="zone" label="Zone" pick="zone" only="forward" blank="no names in DNS" :value="$homeZone ?? ''"
                :shown="Str::before($choices->zones()[$homeZone ?? ''] ?? '', ',')" />
      <div class="row">
        <x-check form="several" name="row" label="neighbouring addresses" />
        <x-check form="several" name="ptr" label="name them back (PTR)" :on="true" />
        @if ($scope)
          <x-check form="several" name="reserve" label="reserve those with a MAC" />
        @endif
      </div>
      @if ($net->family()->value === 6 && $net->length === 64)
        <x-field form="several" name="choose" label="Chosen by" :options="\App\Domain\Plan\Identifiers::WAYS" />
      @endif
      <div class="pair">
        <x-field form="several" name="role" label="Role" :options="array_combine(\App\Models\Host::ROLES, \App\Models\Host::ROLES)" />
        <x-field form="several" name="owner" label="Owner" />
      </div>
    </x-act>
  </div>
</details>
<div id="follows-several"></div>
