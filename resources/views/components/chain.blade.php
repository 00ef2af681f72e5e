@props(['chain'])
<span class="chain"><x-mark :name="$chain->inEffect ? 'ok' : ($chain->shipped ? 'turn' : 'wait')"/>{{ $chain->words }}</span>
