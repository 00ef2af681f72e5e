<x-layout :title="rtrim((string) $name, '.')" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li aria-current="page">{{ $name->relativeTo($zone->origin()) }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1 class="mono">{{ rtrim((string) $name, '.') }}</h1>
    <span class="soft">{{ $zone->view->name }}, through time</span>
    <span class="end"><a class="btn small" href="{{ at('name.lookup') }}?q={{ urlencode(rtrim((string) $name, '.')) }}&amp;server=all">Ask all
        servers</a></span>
  </header>
  <section class="panel">
    @if ($events === [])
      <div class="empty">
        <h3>Nothing is known of this name</h3>
        <p class="soft">No record was ever written for it here.</p>
      </div>
    @else
      <table>
        <thead>
          <tr>
            <th>When</th>
            <th>What</th>
            <th>Who</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($events as $e)
            <tr @class(['open' => $e['future']])>
              <td title="{{ $e['at'] }}">{{ $e['at']?->format('j M Y, H:i') }} <span class="hint">{{ $e['at']?->diffForHumans() }}</span></td>
              <td class="wrap">@mark($e['mark']) {{ $e['words'] }}</td>
              <td>{{ $e['who'] }}</td>
            </tr>
          @endforeach
        </tbody>
      </table>
    @endif
  </section>
</x-layout>
