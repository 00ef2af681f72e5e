{{-- The exchange by real packets: $scope, $input of the client, $chosen server, $may, $exchange with its $findings or its $problem --}}
<section class="panel">
  <header>
    <h2>Try it by packets</h2>
    <span class="soft">what is leased is given back</span>
  </header>
  @if ($may && $scope->placements->isNotEmpty())
    <form class="form pad" method="post" action="{{ at('lease.exchange') }}" data-copies="client">
      @csrf
      @foreach (['scope' => $scope->id] + $input as $name => $value)
        <input type="hidden" name="{{ $name }}" value="{{ $value }}">
      @endforeach
      <div class="field"><span><label for="server">Server</label></span>
        <select id="server" name="server">
          @foreach ($scope->placements->sortBy('server.name') as $p)
            <option value="{{ $p->server_id }}" @selected($chosen?->server_id === $p->server_id)>{{ $p->server->name }}</option>
          @endforeach
        </select>
      </div>
      <p class="row end"><button class="btn" data-key="commit">Run it <kbd>Ctrl Shift Enter</kbd></button></p>
    </form>
  @else
    <p class="pad soft">an operator runs exchanges: they take an address</p>
  @endif
  @if ($exchange && !$problem)
    @if ($findings === [])
      <p class="pad">@mark('ok') As computed: what was given, and every option byte for byte.</p>
    @else
      <ul class="plain-list pad" aria-label="Findings">
        @foreach ($findings as $line)
          <li>@mark('warn') {{ $line }}</li>
        @endforeach
      </ul>
    @endif
  @endif
</section>
