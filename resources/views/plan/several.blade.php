{{-- Several hosts at once, held runs, and edits of all picked hosts. --}}
<details class="panel" @if(old('_form') === 'several') open @endif><summary class="bar-line"><b>Place several</b> <span class="soft">next ones, in a row, by a list</span></summary><div class="pad"><x-act id="several" action="place-several">
  <input type="hidden" name="prefix" value="{{ $prefix->id }}">
  <x-field form="several" name="names" label="Names, one a line, a MAC behind it if any" rows="4" mono placeholder="till-{n}" hint="one name with {n} is numbered; no names gives addresses alone"/>
  <div class="pair"><x-field form="several" name="count" label="How many" inputmode="numeric" placeholder="one for each name"/><x-field form="several" name="start" label="{n} starts at" value="1" inputmode="numeric"/></div>
  <x-field form="several" name="zone" label="Zone" :options="$choices->zones()" blank="no names in DNS" :value="$homeZone ?? ''"/>
  <div class="row"><x-check form="several" name="row" label="neighbouring addresses"/><x-check form="several" name="ptr" label="name them back (PTR)" :on="true"/>@if($scope)<x-check form="several" name="reserve" label="reserve those with a MAC"/>@endif</div>
  @if($net->family()->value === 6 && $net->length === 64)<x-field form="several" name="choose" label="Chosen by" :options="\App\Actions\Plan\Identifiers::WAYS"/>@endif
  <div class="pair"><x-field form="several" name="role" label="Role" :options="array_combine(\App\Actions\Plan\PlaceHost::ROLES, \App\Actions\Plan\PlaceHost::ROLES)"/><x-field form="several" name="owner" label="Owner"/></div>
</x-act></div></details><div id="follows-several"></div>
<details class="panel" id="hosts-panel" @if(old('_form') === 'hostbulk') open @endif><summary class="bar-line"><b>Edit all picked hosts</b></summary><div class="pad"><x-act id="hostbulk" action="change-hosts" :stay="request()->getRequestUri()">
  <input type="hidden" name="prefix" value="{{ $prefix->id }}"><p class="hint"><span data-picked>0</span> picked. A blank field stays as it is; a dash empties it.</p>
  <div class="pair"><x-field form="hostbulk" name="role" label="Role" :options="array_combine(\App\Actions\Plan\PlaceHost::ROLES, \App\Actions\Plan\PlaceHost::ROLES)" blank="stays"/><x-field form="hostbulk" name="ttl" label="TTL of their records"/></div>
  <div class="pair"><x-field form="hostbulk" name="device" label="Device" :options="['-' => 'none'] + $choices->devices()" blank="stays"/><x-field form="hostbulk" name="interface" label="Interface" mono/></div>
  <x-field form="hostbulk" name="owner" label="Owner"/><x-field form="hostbulk" name="description" label="Description"/>
</x-act></div></details><div id="follows-hostbulk"></div>
<details class="panel" @if(old('_form') === 'hold') open @endif><summary class="bar-line"><b>Hold a run</b> <span class="soft">kept from "next free"</span></summary><div class="pad"><x-act id="hold" action="hold-run"><input type="hidden" name="prefix" value="{{ $prefix->id }}">
  <x-field form="hold" name="range" label="From, to" mono :placeholder="$net->usable()->first.'-'.$net->usable()->last"/><x-field form="hold" name="why" label="For"/><x-field form="hold" name="until" label="Until, that day included" type="date" hint="blank: no end"/></x-act></div></details><div id="follows-hold"></div>
