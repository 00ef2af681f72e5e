<x-layout title="Due" verb="watch">
  <header class="title">
    <h1>Due</h1>
    <span class="soft">what happens by itself, and what somebody has to do</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.due')])
    </span>
  </header>
  <section class="panel">
    <header>
      <h2>The next four months</h2>
      <span class="end row">
        <a class="btn small" href="{{ at('watch.due.ics') }}">Take the calendar file</a>
        <form method="post" action="{{ at('act', 'make-token') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <input type="hidden" name="name" value="calendar">
          <input type="hidden" name="calendar" value="1">
          <input type="hidden" name="days" value="365">
          <button class="btn small" title="An address that your calendar asks by itself, for a year; you end it on your own page">
            Make a calendar feed
          </button>
        </form>
      </span>
    </header>
    @if ($events === [])
      <x-empty title="Nothing is due">Keys, signatures, reports, subnets that fill, names that lapse, tokens and findings that were left so stand here
        with their day.</x-empty>
    @else
      <div class="pad">{{ \App\View\DueStrip::of($events) }}</div>
      <x-table label="Due" data-worktable>
        <thead>
          <tr>
            <th>When (UTC)</th>
            <th>In</th>
            <th>What</th>
            <th>How</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($events as $e)
            <tr>
              <td class="mono">{{ $e['at']->utc()->format('D j M Y, H:i') }}</td>
              <td>{{ $e['at']->diffForHumans() }}</td>
              <td class="name wrap"><a href="{{ $e['link'] }}">{{ $e['title'] }}</a></td>
              <td class="wrap">{{ $e['words'] }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
