<x-layout title="Lookup" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Lookup</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Lookup</h1>
    <span class="soft">asks a server by a real packet, over UDP and, when the answer is cut, over TCP; at most three seconds</span>
    <span class="end"><a class="btn small" href="{{ at('name.test') }}">Test what was changed</a></span>
  </header>
  <form class="panel bar-line" action="{{ at('name.lookup') }}">
    <div class="field"><span><label for="q">Name or address</label></span><input id="q" name="q" class="mono"
        value="{{ request('q') }}" size="36" autofocus></div>
    <div class="field"><span><label for="type">Type</label></span>
      <select id="type" name="type">
        <option value="">fitting</option>
        @foreach ([...\HarborPost\Core\Dns\Rdata\RdataTypes::WRITTEN, 'SOA', 'ANY'] as $t)
          <option @selected(request('type') === $t)>{{ $t }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="server">Server</label></span>
      <select id="server" name="server">
        <option value="all" @selected($way === 'all')>all, side by side</option>
        <option value="trace" @selected($way === 'trace')>down from the roots</option>
        <option value="back" @selected($way === 'back')>there and back</option>
        @foreach ($servers as $s)
          <option value="{{ $s->id }}" @selected($way === $s->id || ($way === '' && $server?->id === $s->id))>
            {{ $s->name }}{{ $s->kind === \App\Models\ServerKind::Dns ? '' : ', ' . $s->kind->value }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="view">As a client of</label></span>
      <select id="view" name="view">
        <option value="">no client network</option>
        @foreach ($views as $v)
          <option value="{{ $v->id }}" @selected(request('view') === $v->id)>{{ $v->name }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="rd">Recursion</label></span>
      <select id="rd" name="rd">
        <option value="">fitting</option>
        <option value="1" @selected(request('rd') === '1')>desired</option>
        <option value="0" @selected(request('rd') === '0')>not desired</option>
      </select>
    </div>
    <label class="tick" title="CD: also what fails validation"><input type="checkbox" name="cd" value="1"
        @checked(request('cd'))>unchecked</label>
    <label class="tick" title="DO: with signatures"><input type="checkbox" name="do" value="1"
        @checked(request('do'))>signatures</label>
    <label class="tick"><input type="checkbox" name="tcp" value="1" @checked(request('tcp'))>TCP only</label>
    <button class="btn main" data-key="main">Ask <kbd>Ctrl Enter</kbd></button>
  </form>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop')No answer to show</h3>
      <p>{{ $problem }}</p>
    </div>
  @endif
  @if ($answer)
    @php
      $m = $answer->message;
    @endphp
    <div class="split even">
      <section class="panel">
        <header>
          <h2>{{ $m->rcode->explained() === 'answered' && $m->answers === [] ? 'no such data at this name' : ucfirst($m->rcode->explained()) }}</h2>
          <span class="mono soft">{{ $m->rcode->name }}</span>
          <span class="end hint">{{ $server->name }}, {{ $answer->over }}, {{ number_format($answer->milliseconds, 1) }} ms,
            {{ strlen($answer->received) }} bytes{{ $answer->wasTruncated ? '; cut over UDP, asked again over TCP' : '' }}</span>
        </header>
        <div class="pad">
          @if ($why = \HarborPost\Core\Dns\Wire\ExtendedError::of($m))
            <p class="stopped">@mark('stop') It says why: {{ $why->words }} <span class="hint">extended error {{ $why->code }}, RFC 8914</span></p>
          @endif
          <p class="row"><span>Flags</span>
            @php
            $flags = ['QR' => 'an answer', 'AA' => 'with authority', 'TC' => 'cut', 'RD' => 'recursion desired', 'RA' => 'recursion available'];
            @endphp
            @foreach ($flags + ['AD' => 'validated', 'CD' => 'checking off'] as $f => $w)
              <span class="key @unless (in_array($f, $m->flagNames())) open @endunless"><span class="mono">{{ $f }}</span>
                {{ in_array($f, $m->flagNames()) ? $w : 'not' }}</span>
            @endforeach
          </p>
        </div>
        <x-table label="Records of the answer">
          <thead>
            <tr>
              <th>Section</th>
              <th>Name</th>
              <th class="num">TTL</th>
              <th>Type</th>
              <th>Data</th>
            </tr>
          </thead>
          <tbody>
            @foreach (['answer' => $m->answers, 'authority' => $m->authority, 'additional' => $m->additional] as $section => $records)
              @foreach ($records as $r)
                <tr>
                  <td>{{ $section }}</td>
                  <td class="mono">{{ $r->owner }}</td>
                  <td class="num">{{ $r->ttl }}</td>
                  <td>{{ $r->type() }}</td>
                  <td class="mono wrap">{{ $r->data->text() }}</td>
                </tr>
              @endforeach
            @endforeach
            @if ($m->answers === [] && $m->authority === [] && $m->additional === [])
              <tr class="open">
                <td colspan="5">no records in any section</td>
              </tr>
            @endif
          </tbody>
        </x-table>
      </section>
      <section class="panel">
        <header>
          <h2>Bytes</h2>
          <span class="hint">asked <span class="mono">{{ $asked }}</span></span>
        </header>
        <h3 class="pad">Sent, {{ strlen($answer->sent) }}</h3>
        <pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($answer->sent) }}</pre>
        <h3 class="pad">Received, {{ strlen($answer->received) }}</h3>
        <pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($answer->received) }}</pre>
      </section>
    </div>
    @isset($chain)
      @php
        $without = $plain->message;
      @endphp
      <section class="panel">
        <header>
          <h2>Chain of trust</h2>
          <span class="soft">
            @if ($anchored)
              from the anchors of {{ $server->name }}
            @else
              {{ $server->name }} has no anchor: judged from those of the other resolvers
            @endif
          </span>
        </header>
        @include('name.signing-chain', ['problem' => null])
        <p class="pad soft">Asked without signatures (DO off), it says {{ $without->rcode->name }} with
          {{ count($without->answers) === 1 ? '1 record' : count($without->answers) . ' records' }} in {{ strlen($plain->received) }} bytes;
          with them {{ $m->rcode->name }} with {{ count($m->answers) === 1 ? '1 record' : count($m->answers) . ' records' }} in
          {{ strlen($answer->received) }} bytes.</p>
      </section>
    @endisset
  @elseif($all !== [])
    <section class="panel">
      <header>
        <h2>All servers</h2>
        <span class="soft mono">{{ $asked }}</span>
      </header>
      <x-table label="All servers">
        <thead>
          <tr>
            <th>Server</th>
            <th>Answer</th>
            <th>Flags</th>
            <th class="num">TTL</th>
            <th>Data</th>
            <th class="num">ms</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($all as $r)
            <tr>
              <td class="name">{{ $r['server']->name }}</td>
              @if ($r['answer'])
                <td>
                  @if ($r['odd'])
                    <span class="warn">@mark('warn') says something else</span>
                    @else{{ $r['answer']->message->rcode->explained() }}
                  @endif
                </td>
                <td class="mono">{{ implode(' ', $r['answer']->message->flagNames()) }}</td>
                <td class="num">{{ $r['ttl'] }}</td>
                <td class="mono wrap">
                  @forelse($r['data'] as $d)
                    {{ $d }}@unless ($loop->last)
                    <br>
                    @endunless @empty
                    <span class="open">nothing</span>
                  @endforelse
                </td>
                <td class="num">{{ number_format($r['answer']->milliseconds, 1) }}</td>
              @else
                <td colspan="5"><span class="stopped">@mark('stop') {{ $r['trouble'] }}</span></td>
              @endif
            </tr>
          @endforeach
        </tbody>
      </x-table>
    </section>
  @elseif($steps !== [])
    <section class="panel">
      <header>
        <h2>Down from the roots</h2>
        <span class="soft mono">{{ $asked }}</span>
        <span class="soft">{{ request('view') ? 'as a client of the chosen view' : 'as somebody outside' }}</span>
      </header>
      <x-table label="Down from the roots">
        <thead>
          <tr>
            <th class="num">Step</th>
            <th>Zone</th>
            <th>Server</th>
            <th>It says</th>
            <th>Records</th>
            <th class="num">ms</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($steps as $i => $s)
            <tr>
              <td class="num">{{ $i + 1 }}</td>
              <td class="mono">{{ $s['zone'] }}</td>
              <td class="name">{{ $s['server'] }} <span class="mono soft">{{ $s['address'] }}</span></td>
              <td class="wrap">
                @mark(['delegation' => 'turn', 'alias' => 'turn', 'silent' => 'stop', 'lame' => 'stop'][$s['kind']] ?? 'ok') {{ $s['words'] }}
              </td>
              <td class="mono wrap">
                @foreach (array_slice($s['records'], 0, 6) as $r)
                  {{ $r->owner }} {{ $r->type() }} {{ $r->data->text() }}@unless ($loop->last)
                  <br>
                @endunless
              @endforeach
            </td>
            <td class="num">{{ $s['milliseconds'] > 0 ? number_format($s['milliseconds'], 1) : '' }}</td>
          </tr>
        @endforeach
        </tbody>
      </x-table>
  </section>
@elseif($back !== [])
  @foreach ($back as $b)
    <section class="panel">
      <header>
        <h2>
          @if ($b['agrees'])
            @mark('ok') There and back agree
          @else
            @mark('warn') There and back do not agree
          @endif
        </h2>
        <span class="mono soft">{{ $b['from'] }}</span>
      </header>
      @if ($b['to'] === [])
        <div class="empty">
          <h3>No way there</h3>
          <p class="soft">{{ $b['from'] }} leads to nothing, so nothing leads back.</p>
        </div>
      @else
        <table>
          <thead>
            <tr>
              <th>From</th>
              <th>To</th>
              <th>And back to</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($b['back'] as $to => $names)
              <tr>
                <td class="mono">{{ $b['from'] }}</td>
                <td class="mono">{{ $to }}</td>
                <td class="mono">
                  @forelse($names as $n)
                    <span @class(['stopped' => $n !== $b['from']])>{{ $n }}</span>
                  @empty
                    <span class="stopped">nothing</span>
                  @endforelse
                </td>
              </tr>
            @endforeach
          </tbody>
        </table>
      @endif
    </section>
  @endforeach
@elseif(!$problem)
  <div class="empty">
    <h3>Nothing asked yet</h3>
    <p class="soft">A name asks for its addresses, an address for its name. Choose a client to see the view it falls into.</p>
  </div>
@endif
</x-layout>
