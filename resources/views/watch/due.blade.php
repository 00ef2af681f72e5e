<x-layout title="Due" verb="watch">
  <header class="title">
    <h1>Due</h1>
    <span class="soft">what happens by itself, and what somebody has to do, in the next four months</span>
    <span class="end row">
      @include('watch.tabs', ['here' => '/watch/due'])
      <a class="btn small" href="/watch/due.ics">Calendar file</a>
    </span>
  </header>
  <section class="panel">
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
