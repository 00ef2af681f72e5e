{{-- The parts of Watch, the one that is shown marked. --}}
<nav class="row" aria-label="Watch">
  @foreach ([
      at('watch.notices') => 'Notices',
      at('watch.servers') => 'Servers',
      at('watch.due') => 'Due',
      at('watch.reports') => 'Reports',
      at('watch.mail') => 'Mail',
      at('watch.audits') => 'Audits',
      at('watch.kept') => 'Kept',
      at('watch') => 'History',
  ] as $to => $text)
    @unless (auth()->user()->isBound() && !in_array($to, [at('watch.reports'), at('watch.mail')], true))
      <a class="btn small" href="{{ $to }}" @if ($to === $here) aria-current="page" @endif>{{ $text }}</a>
    @endunless
  @endforeach
</nav>
