{{-- The rooms of Lease; $here names the one that is open. --}}
@php
  $rooms = [at('lease') => 'Scopes', at('lease.leases') => 'Leases'];
  if (!auth()->user()->isBound()) {
      $rooms += [at('lease.options') => 'Options', at('lease.classes') => 'Classes', at('lease.pairs') => 'Pairs', at('lease.coverage') => 'Coverage'];
      $rooms += [at('lease.exchange') => 'Exchange'];
  }
  $rooms += [at('lease.bytes') => 'Read bytes'];
@endphp
<nav class="end row" aria-label="Lease">
  @foreach ($rooms as $link => $name)
    <a class="btn small" href="{{ $link }}" @if ($name === $here) aria-current="page" @endif>{{ $name }}</a>
  @endforeach
</nav>
