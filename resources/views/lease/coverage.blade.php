@php
  $how = [
      'alone' => 'on one server',
      'pair' => 'by a pair',
      'shares' => 'in shares',
      'undivided' => 'undivided: two may lease one address',
      'nobody' => 'on no server',
      'reservations' => 'without a range',
  ];
@endphp
<x-layout title="Coverage" verb="lease">
  <header class="title">
    <h1>Coverage</h1>
    <span class="soft">what is left when a server is lost, from the leases as last read</span>
    @include('lease.nav', ['here' => 'Coverage'])
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <x-filter at="{{ at('lease.coverage') }}" :value="$filter" :words="$words" :misread="$misread" hint="start of a name; is:alone site: server:">
        <span class="soft row">
          @foreach ($counts as $key => $n)
            @if ($n > 0)
              <a href="{{ at('lease.coverage') }}?filter=is:{{ $key }}">{{ number_format($n) }} {{ $how[$key] }}</a>
            @endif
          @endforeach
        </span>
        @if ($may)
          <span class="end row" data-needs-pick hidden>
            <x-all-match field="scopes" list="coverage" :$filter :total="$list->total" :shown="$list->rows->count()" />
            <b><span data-picked>0</span> picked</b>
          </span>
        @endif
      </x-filter>
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'No live scope' : 'No live scope fits the filter'">Scopes are made under Lease.</x-empty>
      @else
        <x-table label="Coverage" data-worktable data-paged>
          <thead>
            <tr>
              @if ($may)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all on this page"></th>
              @endif
              <x-head :list="$list" by="name">Scope</x-head>
              <th>Site</th>
              <th>Served</th>
              <th class="num">Addresses</th>
              <th>When one is lost</th>
              <th class="num">Left</th>
              <th class="num">Free now</th>
              <th class="num">Lasts, hours</th>
            </tr>
          </thead>
          @foreach ($list->rows as $s)
            @php
              $c = $rows[$s->id];
              $lines = max(1, count($c['lost']));
            @endphp
            <tbody>
              @for ($i = 0; $i < $lines; $i++)
                @php
                  $l = $c['lost'][$i] ?? null;
                @endphp
                <tr>
                  @if ($i === 0)
                    @if ($may)
                      <td class="pickcell" rowspan="{{ $lines }}">
                        <input type="checkbox" class="pick" value="{{ $s->id }}" aria-label="Pick {{ $s->name }}">
                      </td>
                    @endif
                    <td class="name" rowspan="{{ $lines }}"><a href="{{ at('lease.scope', $s->id) }}">{{ $s->name }}</a></td>
                    <td rowspan="{{ $lines }}">{{ $s->prefix->site?->name }}</td>
                    <td rowspan="{{ $lines }}">
                      @if (!in_array($c['how'], ['shares', 'pair', 'reservations'], true))
                        @mark('warn')
                      @endif
                      {{ $how[$c['how']] }}
                      @isset($differing[$s->id])
                        <span class="hint">@mark('warn') not alike: {{ implode(', ', $differing[$s->id]) }}</span>
                      @endisset
                    </td>
                    <td class="num" rowspan="{{ $lines }}">{{ \App\View\Words::many($c['size']) }}</td>
                  @endif
                  <td class="lost">{{ $l['server'] ?? ($c['how'] === 'reservations' ? $s->withoutOneWords() : '') }}</td>
                  <td class="num">{{ $l === null ? '' : number_format($l['left']) }}</td>
                  <td class="num">{{ $l === null ? '' : number_format($l['free']) }}</td>
                  <td class="num">
                    @if ($l !== null)
                      @if ($l['hours'] === null)
                        over a year
                      @elseif ($l['hours'] < 1)
                        @mark('warn') {{ $l['left'] === 0 ? 'none' : 'under 1' }}
                      @else
                        {{ number_format($l['hours']) }}
                      @endif
                    @endif
                  </td>
                </tr>
              @endfor
            </tbody>
          @endforeach
        </x-table>
        <x-pages :list="$list" what="live scopes" />
        <p class="pad hint">Lasts: a server cannot renew what another leased, so each client of the lost one needs a free address when its
          lease ends; new clients come as they did in the last {{ \App\Queries\Coverage::DAYS }} days. What is given back meanwhile is not
          counted, so it is no shorter than this. In a pair the other one renews every lease; left and free are its own part, until it is told
          that its partner is off.</p>
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Divide picked scopes anew</h2>
            <span class="soft"><span data-picked>0</span> picked</span>
          </header>
          <div class="pad">
            <x-act id="seam" action="set-shares" data-takes-picks="scopes[]">
              <x-field form="seam" name="percent" label="Share of the first server, %" type="number" min="1" max="99" value="80" />
              <x-field form="seam" name="delay" label="The others hold their offers back, ms" type="number" min="0" max="10000" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="seam" />
        @if ($pairs !== [])
          <section class="panel">
            <header>
              <h2>Bring picked scopes into a pair</h2>
              <span class="soft"><span data-picked>0</span> picked</span>
            </header>
            <div class="pad">
              <x-act id="pairs" action="pair-scopes" data-takes-picks="scopes[]">
                <x-field form="pairs" name="pair" label="Pair" :options="$pairs" blank="none: take them out, each server with a share" />
              </x-act>
            </div>
          </section>
          <div id="follows-pairs"></div>
        @endif
        <section class="panel">
          <header>
            <h2>Probe before an offer</h2>
          </header>
          <div class="pad">
            <p class="hint">
              @foreach ($servers as $s)
                {{ $s->name }}: {{ $s->probe_tries === 0 ? 'no' : "$s->probe_tries × $s->probe_wait_ms ms" }}{{ $loop->last ? '.' : ';' }}
              @endforeach
              Off is faster; on finds addresses that somebody took by hand, which is wise after a server was rebuilt without its leases.</p>
            <x-act id="probing" action="set-probing">
              <x-field form="probing" name="servers[]" label="Servers" :options="$servers->pluck('name', 'id')->all()" multiple />
              <div class="pair">
                <x-field form="probing" name="tries" label="Tries, 0 for none" type="number" min="0" max="10" value="2" />
                <x-field form="probing" name="wait" label="Wait for each, ms" type="number" min="50" max="2000" value="500" />
              </div>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="probing" />
      </div>
    @endif
  </div>
</x-layout>
