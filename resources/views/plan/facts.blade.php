<dt>
  Prefix</dt>
<dd class="mono"><a href="{{ at('plan.calculator') }}?p={{ urlencode($facts['understood']) }}">{{ $facts['understood'] }}</a></dd>
<dt>Mask</dt>
<dd class="mono">{{ $facts['mask'] }}</dd>
<dt>Range</dt>
<dd class="mono">{{ $facts['first'] }} to {{ $facts['last'] }}</dd>
<dt>Usable</dt>
<dd>{{ strlen($facts['usable']) < 13 ? number_format((int) $facts['usable']) : 'nearly 2^' . (128 - $facts['length']) }}, <span
    class="mono">{{ $facts['first_usable'] }} to {{ $facts['last_usable'] }}</span></dd>
@if ($facts['broadcast'])
  <dt>Broadcast</dt>
  <dd class="mono">{{ $facts['broadcast'] }}</dd>
@endif
<dt>Reverse</dt>
<dd class="mono">{{ implode(', ', array_slice($facts['reverse_zones'], 0, 2)) }}@if (count($facts['reverse_zones']) > 2)
    and {{ count($facts['reverse_zones']) - 2 }} more
  @endif
</dd>
