<x-layout :title="$server->name . ' at work'" verb="watch">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch.servers') }}">Servers at work</a></li>
      <li aria-current="page">{{ $server->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $server->name }}</h1>
    <span class="soft">{{ $server->kind->value }}; {{ $covered['says'] ?? '' }}{{ ($covered['since'] ?? null) ? ';' : '' }}
      {{ ($covered['since'] ?? null) ? 'measured since ' . $covered['since']->format('j M Y H:i') . ' UTC' : '' }}</span>
    <span class="end row">
      <span class="oneof" aria-label="Time">
        @foreach (['hours' => '6 hours', 'day' => 'Day', 'week' => 'Week', 'month' => 'Month', 'year' => 'Year'] as $key => $words)
          <a href="{{ at('watch.server', $server->id) }}?span={{ $key }}" @if ($key === $span) aria-current="true" @endif>{{ $words }}</a>
        @endforeach
      </span>
      <a class="btn small" href="{{ at('ship.server', $server->id) }}">Its page</a>
    </span>
  </header>
  @if ($charts === [])
    <section class="panel">
      <x-empty title="Nothing was measured yet">
        {{ ucfirst($covered['says'] ?? 'it is not measured') }}. Figures are read every minute from the address that a steward wrote down on
        <a href="{{ at('ship.server', $server->id) }}">its page</a>.
      </x-empty>
    </section>
  @endif
  <div class="charts">
    @foreach ($charts as $chart)
      @php
        $f = $chart['family'];
        $course = $chart['course'];
        $how = ['counter' => 'a second', 'summary' => 'mean', 'gauge' => ''][$f->type] ?? '';
      @endphp
      <section class="panel">
        <header>
          <h2 class="mono">{{ $f->family }}</h2>
          <span class="soft">{{ trim(rtrim($f->help, '.') . ($how === '' ? '' : ", $how")) }}</span>
          <span class="end row">
            <form method="post" action="{{ at('act', 'set-panels') }}">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="server" value="{{ $server->id }}">
              <input type="hidden" name="figure" value="{{ $f->family }}">
              <button class="btn small" aria-label="Keep {{ $f->family }} on the bridge">On the bridge</button>
            </form>
            <a class="btn small" href="{{ at('watch.server.figures', $server->id) }}?family={{ urlencode($f->family) }}&amp;span={{ $span }}">CSV</a>
          </span>
        </header>
        @if ($course['lines'] === [])
          <p class="pad soft">Nothing in this
            time{{ ($covered['since'] ?? null) ? ': measured since ' . $covered['since']->format('j M Y H:i') . ' UTC' : '' }}.</p>
        @else
          <div class="pad">
            {{ \App\View\Chart::of($course, $f->family . ', ' . count($course['lines']) . ' lines', $chart['thresholds'], $events) }}
          </div>
          <x-table :label="$f->family">
            <thead>
              <tr>
                <th>Line</th>
                <th class="num">Now</th>
                <th class="num">Mean</th>
                <th class="num">Highest</th>
                @if (in_array($span, ['hours', 'day'], true))
                  <th class="num">Mean a week before</th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($course['lines'] as $i => $line)
                @php
                  $means = array_column($line['points'], 'mean');
                  $before = array_column($line['before'], 'mean');
                @endphp
                <tr>
                  <td><span class="coursekey c{{ $i }}" aria-hidden="true"></span> {{ $line['labels'] === '' ? 'all' : $line['labels'] }}</td>
                  <td class="num">{{ \App\View\Chart::figure((float) end($means), $f->unit) }}</td>
                  <td class="num">{{ \App\View\Chart::figure(array_sum($means) / count($means), $f->unit) }}</td>
                  <td class="num">{{ \App\View\Chart::figure(max(array_column($line['points'], 'high')), $f->unit) }}</td>
                  @if (in_array($span, ['hours', 'day'], true))
                    <td class="num">{{ $before === [] ? '' : \App\View\Chart::figure(array_sum($before) / count($before), $f->unit) }}</td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if ($course['left'] > 0)
            <p class="hint pad">{{ $course['left'] }} more lines, lower ones, are not drawn.</p>
          @endif
        @endif
      </section>
    @endforeach
  </div>
</x-layout>
