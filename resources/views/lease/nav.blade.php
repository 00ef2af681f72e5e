{{-- The rooms of Lease; $here names the one that is open. --}}
@php
  $rooms = ['/lease' => 'Scopes', '/lease/leases' => 'Leases'];
  if (!auth()->user()->isBound()) {
      $rooms += ['/lease/options' => 'Options', '/lease/classes' => 'Classes', '/lease/pairs' => 'Pairs', '/lease/coverage' => 'Coverage'];
      $rooms += ['/lease/exchange' => 'Exchange'];
  }
  $rooms += ['/lease/bytes' => 'Read bytes'];
@endphp
<nav class="end row" aria-label="Lease">
  @foreach ($rooms as $link => $name)
    <a class="btn small" href="{{ $link }}" @if ($name === $here) aria-current="page" @endif>{{ $name }}</a>
  @endforeach
</nav>
