@php
  $most = count($findings) >= \App\Queries\ZoneFindings::MOST ? '+' : '';
  $found = count($findings) === 0 ? 'nothing found' : count($findings) . $most . ' findings';
@endphp
<x-layout :title="$zone->title() . ', checks'" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li aria-current="page">Checks</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Checks</h1>
    <span class="mono soft">{{ $zone->title() }}, {{ $zone->view->name }}</span>
    <span
      class="soft">{{ $found }}</span>
  </header>
  <section class="panel">
    @if ($findings === [])
      <div class="empty">
        <h3>@mark('ok')Nothing found</h3>
        <p class="soft">Every rule of RFC 1034, 1035, 1912, 2181 and 2308 that is known here was asked for every name.</p>
      </div>
    @else
      <x-table label="Findings" data-worktable>
        <thead>
          <tr>
            <th>Grade</th>
            <th>Name</th>
            <th>Type</th>
            <th>Finding</th>
            <th>By</th>
            <th>Mended by</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($findings as $i => $f)
            <tr>
              <td>@mark(['error' => 'stop', 'warning' => 'warn'][$f['severity']] ?? 'turn') {{ $f['severity'] }}</td>
              <td class="mono"><a
                  href="{{ at('name.zone', $zone->id) }}?filter={{ urlencode(rtrim($f['owner'], '.')) }}">
                    {{ $f['owner'] === $zone->name ? '@' : Str::of($f['owner'])->replace('.' . $zone->name, '') }}</a>
              </td>
              <td>{{ $f['type'] }}</td>
              <td class="wrap">{{ $f['message'] }}</td>
              <td class="rfc">{{ $f['standard'] }}</td>
              <td class="wrap">
                @if ($may && $f['act'])
                  <form method="post" action="{{ at('act', $f['act'][0]) }}">@csrf
                    <input type="hidden" name="stay" value="{{ at('name.zone.checks', $zone->id) }}">
                    @foreach ($f['act'][1] as $k => $v)
                      <input type="hidden" name="{{ $k }}" value="{{ $v }}">
                    @endforeach
                    <button class="btn small" name="then" value="preview">{{ ucfirst($f['act'][2]) }}</button>
                  </form>
                  @else{{ $f['fix'] }}
                @endif
              </td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
