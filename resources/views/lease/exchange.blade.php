<x-layout title="Exchange" verb="lease">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/lease">Scopes</a></li>
      <li aria-current="page">Exchange</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Exchange</h1>
    <span class="soft">real packets through the relay address of a scope; at most three seconds; the lease is given back afterwards</span>
  </header>
  <form class="panel bar-line" method="post" action="/lease/exchange">@csrf
    <div class="field"><span><label for="scope">Scope</label></span>
      <select id="scope" name="scope">
        @foreach ($scopes as $s)
          <option value="{{ $s->id }}" @selected($input['scope'] === $s->id)>{{ $s->name }}, {{ $s->prefix->prefix() }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="server">Server</label></span>
      <select id="server" name="server">
        @foreach ($servers as $s)
          <option value="{{ $s->id }}" @selected($input['server'] === $s->id)>{{ $s->name }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="mac">Client's MAC</label></span><input id="mac" name="mac" class="mono"
        value="{{ $input['mac'] }}" size="18"></div>
    <div class="field"><span><label for="name">Its name</label></span><input id="name" name="name" value="{{ $input['name'] }}"
        size="10"></div>
    <div class="field"><span><label for="asked">Options asked for</label></span><input id="asked" name="asked" class="mono"
        value="{{ $input['asked'] }}" size="24"></div>
    @if ($may)
      <button class="btn main" data-key="main">Run it <kbd>Ctrl Enter</kbd></button>
    @else
      <span class="soft">an operator runs exchanges: they take an address</span>
    @endif
  </form>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop'){{ $exchange && $exchange->steps !== [] ? 'The exchange stopped' : 'Nothing was sent' }}</h3>
      <p>{{ $problem }}</p>
      @if ($exchange)
        <p class="soft">A server that has no scope for the relay address stays silent too; see whether the scope is shipped to it.</p>
      @endif
    </div>
  @endif
  @if ($exchange && $exchange->steps !== [])
    @php
      $server = collect($exchange->steps)->first()['to'];
    @endphp
    <div class="split even">
      <section class="panel">
        <header>
          <h2>Ladder</h2>
          <span class="hint">client and {{ $server }}</span>
        </header>
        <svg class="strip ladder pad" height="{{ 40 + 46 * count($exchange->steps) }}" role="img"
          aria-label="{{ collect($exchange->steps)->map(fn($s) => $s['type'] . ' ' . $s['text'])->implode(', then ') }}">
          <text class="mono mid" x="22%" y="12">client</text><text class="mono mid" x="86%" y="12">{{ $server }}</text>
          <line class="life" x1="22%" x2="22%" y1="20" y2="100%" />
          <line class="life" x1="86%" x2="86%" y1="20" y2="100%" />
          @foreach ($exchange->steps as $i => $s)
            @php
              $y = 48 + 46 * $i;
            @endphp
            @php
              $right = $s['from'] === 'client';
            @endphp
            <text class="sub" x="0" y="{{ $y + 4 }}">{{ number_format($s['at'], 1) }} ms</text>
            <line x1="{{ $right ? 22 : 86 }}%" x2="{{ $right ? 86 : 22 }}%" y1="{{ $y }}" y2="{{ $y }}"
              marker-end="url(#head)" /><text x="22%" dx="10" y="{{ $y - 7 }}">
              <tspan class="nm">{{ $s['type'] }}</tspan> {{ $s['text'] }}
            </text>
          @endforeach
        </svg>
      </section>
      <div class="stack">
        @foreach ($exchange->steps as $i => $s)
          <details class="panel" @if ($s['type'] === 'ACK' || $s['type'] === 'NAK') open @endif>
            <summary class="bar-line"><b>{{ $s['type'] }}</b> <span class="soft">{{ strlen($s['bytes']) }} bytes</span></summary>
            <table class="bytes">
              <tbody>
                <tr>
                  <td>{{ bin2hex(pack('N', $s['packet']->xid)) }}</td>
                  <td>transaction</td>
                </tr>
                <tr>
                  <td>{{ \HarborPost\Core\Bytes\Hex::spaced($s['packet']->yourAddress->bytes) }}</td>
                  <td>your address {{ $s['packet']->yourAddress }}</td>
                </tr>
                <tr>
                  <td>{{ \HarborPost\Core\Bytes\Hex::spaced($s['packet']->relayAddress->bytes) }}</td>
                  <td>relay {{ $s['packet']->relayAddress }}</td>
                </tr>
                @foreach ($s['packet']->options as $code => $payload)
                  <tr>
                    <td>{{ sprintf('%02x %02x', $code, min(255, strlen($payload))) }} {{ \HarborPost\Core\Bytes\Hex::spaced($payload) }}</td>
                    <td>{{ $code }} {{ \HarborPost\Core\Dhcp\Option\OptionTable::definition($code)->name }}:
                      <b>{{ \HarborPost\Core\Dhcp\Option\OptionTable::meaning($code, $payload) }}</b></td>
                  </tr>
                @endforeach
              </tbody>
            </table>
            <details class="pad">
              <summary class="hint">all bytes</summary>
              <pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($s['bytes']) }}</pre>
            </details>
          </details>
        @endforeach
      </div>
    </div>
  @endif
</x-layout>
