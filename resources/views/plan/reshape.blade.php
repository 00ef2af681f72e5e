{{-- Split, merge, resize, move. $prefix, $net --}}
@php
  $bits = $net->family()->bits();
@endphp
<details class="panel" @if (in_array(old('_form'), ['split', 'merge', 'resize']) || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-reshape"><b>Reshape</b> <span class="soft">split, merge, grow, shrink, move</span></summary>
  <div class="pad stack">
    @if ($net->length < $bits)
      <x-act id="split" action="split-prefix" class="row" :seen="['prefix:' . $prefix->id => $prefix->version]" :live="false"><input type="hidden" name="prefix"
          value="{{ $prefix->id }}">
        <x-field form="split" name="length" label="Split into" :options="collect(range($net->length + 1, min($bits, $net->length + 8)))
            ->mapWithKeys(fn($l) => [$l => '/' . $l . ', ' . (1 << $l - $net->length) . ' pieces'])
            ->all()" />
        <button class="btn small" name="then" value="preview" hx-post="{{ at('act', 'split-prefix') }}" hx-target="#follows-reshape">Split</button></x-act>
    @endif
    @if ($net->length > 0)
      <x-act id="merge" action="merge-prefix" class="row" :seen="['prefix:' . $prefix->id => $prefix->version]" :live="false"><input type="hidden" name="prefix"
          value="{{ $prefix->id }}">
        <span class="grow">With the sibling <span class="mono">{{ $net->sibling() }}</span></span>
        <button class="btn small" name="then" value="preview" hx-post="{{ at('act', 'merge-prefix') }}" hx-target="#follows-reshape">Merge</button></x-act>
    @endif
    <x-act id="resize" action="resize-prefix" class="row" :seen="['prefix:' . $prefix->id => $prefix->version]" :live="false"><input type="hidden" name="prefix"
        value="{{ $prefix->id }}">
      <x-field form="resize" name="to" label="Grow or shrink to" mono :value="(string) $net->supernet()" />
      <button class="btn small" name="then" value="preview" hx-post="{{ at('act', 'resize-prefix') }}" hx-target="#follows-reshape">Resize</button></x-act>
    @if ($prefix->isSubnet())
      <form class="row" action="{{ at('plan.prefix.move', $prefix->id) }}">
        <div class="field"><span><label for="move-to">Move to</label></span><input id="move-to" name="to" class="mono"
            placeholder="{{ $net }}" autocomplete="off"></div>
        <button class="btn small">Show old and new</button>
      </form>
    @endif
  </div>
</details>
<div id="follows-reshape"></div>
