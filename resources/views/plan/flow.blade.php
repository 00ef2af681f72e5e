{{-- Settings that flow down to this prefix. --}}
<details class="panel" @if (old('_form') === 'setting' || ($opened ?? false)) open @endif>
  <summary class="bar-line" id="panel-flow"><b>Settings that flow down</b></summary>
  @include('parts.layers', ['layer' => 'prefix', 'object' => $prefix->id, 'may' => $maySet, 'stay' => at('plan.prefix', $prefix->id)])
</details>
