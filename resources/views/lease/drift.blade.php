<x-layout :title="$scope->name.', drift'" verb="lease">
  <nav aria-label="Above this scope">
    <ol class="path">
      <li><a href="/lease">Scopes</a></li>
      <li><a href="/lease/scope/{{ $scope->id }}">{{ $scope->name }}</a></li>
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
        <a class="btn" href="/ship/server/{{ $server->id }}">Ship to {{ $server->name }}</a>
      </div>
    </section>
  @elseif ($drift->lines === [])
    <section class="panel">
      <div class="empty">
        <h3>@mark('ok'){{ $server->name }} runs the scope as planned</h3>
        <p class="soft">Read as a whole just now: ranges, options and reservations.</p>
      </div>
    </section>
  @else
    <div class="split two">
      <section class="panel">
        <header>
          <h2>Against the plan</h2>
          <span class="soft">{{ count($drift->lines) }} {{ count($drift->lines) === 1 ? 'difference' : 'differences' }}</span>
        </header>
        <div class="scroll-x" tabindex="0" role="region" aria-label="Differences">
          <table>
            <thead>
              <tr>
                <th class="pickcell"><span class="sr">Take</span></th>
                <th>What</th>
                <th>On {{ $server->name }}</th>
                <th>In the plan</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($drift->lines as $key => $line)
                <tr>
                  <td class="pickcell">
                    @if ($line['takes'] && $may)
                      <input type="checkbox" form="take" name="take[]" value="{{ $key }}" aria-label="Take {{ $line['what'] }}">
                    @endif
                  </td>
                  <td>{{ $line['what'] }}</td>
                  <td class="mono">{{ $line['there'] === '' ? 'none' : $line['there'] }}</td>
                  <td class="mono">{{ $line['here'] === '' ? 'none' : $line['here'] }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </div>
        @if (isset($drift->lines['subnet']))
          <p class="hint pad">Another subnet cannot be taken here: resize the subnet in the plan, or ship the plan.</p>
        @endif
      </section>
      @if ($may)
        <aside class="side">
          <section class="follows" aria-label="What follows">
            <h2>What follows</h2>
            <p class="cause">The chosen values of {{ $server->name }} become those of the plan</p>
            <p class="hint">
              What you do not take stays a difference, and the next shipment undoes it there.
              @if ($scope->placements->count() > 1)
                The other servers of the scope get what you take when they are shipped to.
              @endif
            </p>
            <form id="take" method="post" action="/lease/scope/{{ $scope->id }}/drift/{{ $server->id }}">
              @csrf
              <div class="field">
                <span><label for="reason">Why in spite of a warning, if there is one</label></span>
                <input id="reason" name="reason" maxlength="250" autocomplete="off">
              </div>
              <div class="decide"><button class="btn main" data-key="main">Take the chosen <kbd>Ctrl Enter</kbd></button></div>
            </form>
            <form method="post" action="/ship/server/{{ $server->id }}">
              @csrf
              <input type="hidden" name="only[]" value="{{ $scope->id }}">
              <div class="decide"><button class="btn stop">Undo it there: ship the plan</button></div>
            </form>
          </section>
        </aside>
      @endif
    </div>
  @endif
</x-layout>
