{{-- The parts of Watch, the one that is shown marked. --}}
<nav class="row" aria-label="Watch">
  @foreach ([
      '/watch/notices' => 'Notices',
      '/watch/servers' => 'Servers',
      '/watch/due' => 'Due',
      '/watch/reports' => 'Reports',
      '/watch/mail' => 'Mail',
      '/watch/audits' => 'Audits',
      '/watch/kept' => 'Kept',
      '/watch' => 'History',
  ] as $to => $text)
    @unless (auth()->user()->isBound() && !in_array($to, ['/watch/reports', '/watch/mail'], true))
      <a class="btn small" href="{{ $to }}" @if ($to === $here) aria-current="page" @endif>{{ $text }}</a>
    @endunless
  @endforeach
</nav>
