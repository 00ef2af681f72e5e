<x-layout title="History" verb="watch">
  <header class="title">
    <h1>History</h1>
    <span class="soft">an entry an act, newest first</span>
    @include('watch.tabs', ['here' => at('watch')])
    <span class="end soft">
      @if ($chain['entries'] > 0)
        @mark('ok') {{ number_format($chain['entries']) }} rows sealed, the last
        {{ Carbon\CarbonImmutable::parse($chain['at'])->diffForHumans() }}; <span class="mono">history:verify</span> checks them
      @else
        nothing is sealed yet
      @endif
    </span>
  </header>
  <section class="panel">
    <x-filter at="{{ at('watch') }}" :value="$filter" :words="$words" :misread="$misread" hint="by:maren act:place-host kind:zone since:2026-11-01" />
    @if ($entries === [])
      <x-empty :title="$filter === '' ? 'Nothing was written yet' : 'Nothing fits the filter'">
        {{ $looked ? 'It was looked back to ' . $looked->format('j M Y H:i') . '.' : 'Every change stands here with who, when, before and after.' }}
      </x-empty>
    @else
      <x-table label="History" data-worktable data-paged>
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>Act</th>
            <th>What it wrote</th>
            <th class="num">Rows</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($entries as $e)
            <tr>
              <td title="{{ $e['at'] }}">{{ $e['at']->format('j M H:i:s') }}</td>
              <td>
                {{ $people[$e['person']] ?? 'Harbor Post' }}
                @if ($e['via'])
                  <br><span class="hint">{{ $e['via'] }}</span>
                @endif
              </td>
              <td class="name"><a href="{{ at('watch') }}?act={{ $e['act'] }}">{{ ucfirst(str_replace('-', ' ', $e['action'])) }}</a>
                @if ($e['reason'])
                  <br><span class="hint">{{ $e['reason'] }}</span>
                @endif
              </td>
              <td class="wrap"><span class="mono">{{ $e['first'] }}</span>
                <br><span class="hint">{{ implode(', ', $e['parts']) }}</span>
              </td>
              <td class="num">{{ number_format($e['rows']) }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
      <p class="bar-line">
        @if ($next)
          <a class="btn small" rel="next" href="{{ request()->fullUrlWithQuery(['before' => $next]) }}">Further back</a>
          @if ($looked)
            <span class="soft">looked back to {{ $looked->format('j M Y H:i') }} so far</span>
          @endif
        @endif
        <span class="end row">
          <span class="soft">All of it that fits, row by row, with its links in the chain:</span>
          <a class="btn small" href="{{ at('watch.history', 'csv') }}?filter={{ urlencode($filter) }}">CSV</a>
          <a class="btn small" href="{{ at('watch.history', 'json') }}?filter={{ urlencode($filter) }}">JSON</a>
        </span>
      </p>
    @endif
  </section>
</x-layout>
