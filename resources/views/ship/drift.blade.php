<x-layout :title="$server->name . ', drift'" verb="ship">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Servers</a></li>
      <li><a href="{{ at('ship.server', $server->id) }}">{{ $server->name }}</a></li>
      <li aria-current="page">Drift</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Where {{ $server->name }} differs</h1>
    <span class="soft">{{ $server->kind === \App\Models\ServerKind::Network ? 'VLANs on switches' : 'how it resolves' }}</span>
  </header>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop'){{ $server->name }} could not be read</h3>
      <p>{{ $problem }}</p>
    </div>
  @elseif ($drift->lines() === [])
    <section class="panel">
      <div class="empty">
        <h3>@mark('ok'){{ $server->name }} is set as planned</h3>
        <p class="soft">Read just now:
          @if ($server->kind === \App\Models\ServerKind::Network)
            names, gateways, relays and denials of its VLANs.
          @else
            recursion, forwarders, root hints and the zones it asks others for.
          @endif
        </p>
      </div>
    </section>
  @else
    @include('parts.drift', [
        'lines' => $drift->lines(),
        'action' => at('ship.server.drift', $server->id),
        'only' => $drift->undone(),
        'also' => $server->kind === \App\Models\ServerKind::Network
            ? 'A VLAN that only the switches have goes there by the server page, when you tick it.'
            : '',
    ])
  @endif
</x-layout>
