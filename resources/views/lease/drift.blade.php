<x-layout :title="$scope->name . ', drift'" verb="lease">
  <nav aria-label="Above this scope">
    <ol class="path">
      <li><a href="{{ at('lease') }}">Scopes</a></li>
      <li><a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a></li>
      <li aria-current="page">Drift</li>
    </ol>
  </nav>
  <header class="title">
    <h1>What changed on {{ $server->name }}</h1>
    <span class="mono soft">{{ $scope->line() }}</span>
  </header>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop'){{ $server->name }} could not be read</h3>
      <p>{{ $problem }}</p>
    </div>
  @elseif ($drift === null)
    <section class="panel">
      <div class="empty">
        <h3>@mark('warn'){{ $server->name }} does not have this scope</h3>
        <p class="soft">Ship it to bring it there, or take the server off the scope.</p>
        <a class="btn" href="{{ at('ship.server', $server->id) }}">Ship to {{ $server->name }}</a>
      </div>
    </section>
  @elseif ($drift->lines() === [])
    <section class="panel">
      <div class="empty">
        <h3>@mark('ok'){{ $server->name }} runs the scope as planned</h3>
        <p class="soft">Read as a whole just now: ranges, options and reservations.</p>
      </div>
    </section>
  @else
    @include('parts.drift', [
        'lines' => $drift->lines(),
        'action' => at('lease.scope.drift', $scope->id, $server->id),
        'only' => $drift->undone(),
        'also' => $scope->placements->count() > 1 ? 'The other servers of the scope get what you take when they are shipped to.' : '',
    ])
  @endif
</x-layout>
