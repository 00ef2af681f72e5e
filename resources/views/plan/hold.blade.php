{{-- Held runs. --}}
<details class="panel" @if (old('_form') === 'hold' || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-hold"><b>Hold a run</b> <span class="soft">kept from "next free"</span></summary>
  <div class="pad">
    <x-act id="hold" action="hold-run"><input type="hidden" name="prefix" value="{{ $prefix->id }}">
      <x-field form="hold" name="range" label="From, to" mono :placeholder="$net->usable()->first . '-' . $net->usable()->last" />
      <x-field form="hold" name="why" label="For" />
      <x-field form="hold" name="until" label="Until, that day included" type="date" hint="blank: no end" />
    </x-act>
  </div>
</details>
<div id="follows-hold"></div>
