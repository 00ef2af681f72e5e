@php
  $answers = $scope?->placements->first(fn($p) => in_array($p->server->name, $computed?->answering() ?? [], true));
  $chosen = $scope?->placements->firstWhere('server_id', $server) ?? ($answers ?? $scope?->placements->first());
@endphp
<x-layout title="Exchange" verb="lease" work="client" does="describe a client">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease') }}">Scopes</a></li>
      @if ($scope)
        <li><a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a></li>
      @endif
      <li aria-current="page">Exchange</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Exchange</h1>
    <span class="soft">what a client would get, computed and tried</span>
    @include('lease.nav', ['here' => 'Exchange'])
  </header>
  <form id="client" class="panel bar-line fields" method="get" action="{{ at('lease.exchange') }}">
    <x-field form="client" name="scope" label="Scope, by its relay" pick="scope" blank="name of a scope" :value="$scope->id ?? $asked"
      :shown="$scope->name ?? $asked" />
    @foreach ([
        'mac' => ['MAC', 17, ''],
        'name' => ['Host name (12)', 12, ''],
        'vendor' => ['Vendor class (60)', 16, ''],
        'user' => ['User class (77)', 10, ''],
        'asked' => ['Options asked for', 20, 'all there are'],
        'client' => ['Client identifier (61)', 16, 'type 1 and the MAC'],
        'circuit' => ['Circuit (82.1)', 10, ''],
        'remote' => ['Remote end (82.2)', 10, ''],
        'requested' => ['Address asked for', 13, ''],
    ] as $name => [$label, $wide, $hint])
      <div class="field"><span><label for="{{ $name }}">{{ $label }}</label></span>
        <input id="{{ $name }}" name="{{ $name }}" class="mono" value="{{ $input[$name] }}" size="{{ $wide }}"
          placeholder="{{ $hint }}" autocomplete="off" spellcheck="false">
      </div>
    @endforeach
    @if ($scope && $scope->placements->count() > 0)
      <fieldset class="field">
        <legend>Out of service</legend>
        <div class="row">
          @foreach ($scope->placements->sortBy('server.name') as $p)
            <label class="tick"><input type="checkbox" name="down[]" value="{{ $p->server_id }}"
                @checked(in_array($p->server_id, $down, true))>{{ $p->server->name }}</label>
          @endforeach
        </div>
      </fieldset>
    @endif
    <button class="btn main" data-key="main">Compute <kbd>Ctrl Enter</kbd></button>
  </form>
  @include('lease.parts.exchange-problem')
  @if ($computed)
    <div class="split two">
      <div class="stack">
        <section class="panel">
          <header>
            <h2>Who answers</h2>
            <span class="soft">relay {{ $computed->relay }} selects {{ $scope->name }}, {{ $scope->prefix->prefix() }}</span>
          </header>
          <table>
            <thead>
              <tr>
                <th>Server</th>
                <th>Address</th>
                <th>Why</th>
                <th class="num">Held back, ms</th>
                <th class="num">Probed for, ms</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($computed->servers as $c)
                <tr>
                  <td>{{ $c['server']->name }}</td>
                  <td class="mono">{{ $c['silent'] === null ? $c['address'] : '' }}</td>
                  <td class="wrap">
                    @if ($c['silent'] === null)
                      {{ $c['why'] }}
                      @if ($c['scope']->id !== $scope->id)
                        <a href="{{ at('lease.scope', $c['scope']->id) }}">{{ $c['scope']->name }}</a>
                      @endif
                    @else
                      @mark('warn') silent: {{ $c['silent'] }}
                    @endif
                  </td>
                  <td class="num">{{ $scope->placements->firstWhere('server_id', $c['server']->id)->delay_ms ?: '' }}</td>
                  <td class="num">{{ $c['server']->probe_tries * $c['server']->probe_wait_ms ?: '' }}</td>
                </tr>
              @endforeach
              @if ($computed->servers === [])
                <tr class="open">
                  <td colspan="5">the scope is on no server: nobody answers</td>
                </tr>
              @endif
            </tbody>
          </table>
          <p class="pad-all soft">
            @if (count($computed->answering()) > 1)
              Several answer: the client takes the first offer that it hears, and the others stand down when it asks for that one
              <span class="rfc">RFC 2131 §3.1</span>.
            @elseif ($computed->answering() === [])
              Nobody answers: the client gets no address here.
            @else
              {{ $computed->answering()[0] }} alone answers.
            @endif
            @if ($computed->reservation)
              Reserved for it: <span class="mono">{{ $computed->reservation->address }}</span>.
            @endif
          </p>
        </section>
        @foreach ($computed->servers as $c)
          @if ($chosen && $c['server']->id === $chosen->server_id)
            <section class="panel">
              <header>
                <h2>What it is sent</h2>
                <span class="key"><i class="dot hit"></i>sent</span>
                <span class="key"><i class="dot under"></i>hidden</span>
                <span class="soft end">
                  by {{ $c['server']->name }}; lease time
                  {{ $c['scope']->leaseWords() . $c['scope']->firstWords() }}, renewed {{ $c['scope']->renewalWords() }}
                </span>
              </header>
              <div class="scroll-x" tabindex="0" role="region" aria-label="Options by layer">
                @include('lease.parts.sounding', [
                    'rows' => \App\View\Sounding::of($c['stack'], $book, $computed->asked()),
                    'net' => $c['scope']->prefix->prefix(),
                    'fixed' => [],
                ])
              </div>
              @php
                $none = $computed->without($c['stack']);
              @endphp
              @if ($none !== [])
                <p class="pad-all soft">Asked for, and there is none:
                  {{ implode(', ', $none) }}.</p>
              @endif
            </section>
          @endif
        @endforeach
      </div>
      <div class="stack">
        @include('lease.parts.try')
        @if ($computed->classes !== [])
          <section class="panel">
            <header>
              <h2>Classes</h2>
            </header>
            <ul class="plain-list pad">
              @foreach ($computed->classes as $c)
                <li>
                  @if ($c['holds'])
                    @mark('ok')
                  @endif
                  <a href="{{ at('lease.options.of', 'class', $c['class']->id) }}">{{ $c['class']->name }}</a>
                  <span class="soft">{{ $c['holds'] ? 'is in it' : 'is not in it' }}</span>
                  @foreach ($c['why'] as $w)
                    <br><span class="hint">{{ $w['words'] }}: {{ $w['seen'] ?? 'it says nothing' }}</span>
                  @endforeach
                </li>
              @endforeach
            </ul>
            @if ($may && $input['vendor'] !== '')
              <p class="pad"><a
                  href="{{ at('lease.classes') }}?{{ http_build_query(['field' => 'vendor-class', 'value' => $input['vendor']]) }}">Make a class of this
                  vendor class</a></p>
            @endif
          </section>
        @endif
      </div>
    </div>
  @elseif (!$problem)
    <section class="panel">
      <x-empty title="Describe a client">Choose a scope and say what the client says of itself; Ctrl Enter computes which server answers,
        which address it gets and why, and where each option comes from. For instance:
        @if ($example)
          <a
              href="{{ at('lease.exchange') }}?{{ http_build_query(['scope' => $example->id, 'name' => 'kiosk-07', 'asked' => '1 3 6 15 42 119 121']) }}">
              kiosk-07
            in {{ $example->name }}</a>.
        @endif
      </x-empty>
    </section>
  @endif
  @if ($exchange && $exchange->steps !== [])
    <div class="split even">
      @include('lease.parts.ladder', ['steps' => $exchange->steps])
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
                    <td>{{ $code }} {{ $book->definition($code)->name }}:
                      <b>{{ $book->meaning($code, $payload, HarborPost\Core\Net\Family::V4, (string) $input['vendor']) }}</b></td>
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
