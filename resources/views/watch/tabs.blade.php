{{-- The parts of Watch, the one that is shown marked. --}}
<nav class="row" aria-label="Watch">
  @foreach (['/watch' => 'History', '/watch/reports' => 'Reports', '/watch/audits' => 'Audits'] as $to => $text)
    @unless (auth()->user()->isBound() && $to !== '/watch/reports')
      <a class="btn small" href="{{ $to }}" @if ($to === $here) aria-current="page" @endif>{{ $text }}</a>
    @endunless
  @endforeach
</nav>
