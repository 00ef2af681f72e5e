<x-layout title="Pairs" verb="lease" :work="$may ? 'makepair' : null" does="make a pair">
  <header class="title">
    <h1>Pairs</h1>
    <span class="soft">two servers that lease the same addresses and tell each other</span>
    @include('lease.nav', ['here' => 'Pairs'])
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      @if ($pairs->isEmpty())
        <x-empty title="No pairs yet">In a pair each server knows what the other one leased: one may be lost, and every client keeps its
          address. Shares cannot do that. Make a pair of two servers, then bring scopes into it under Coverage.</x-empty>
      @else
        <x-table label="Pairs" data-worktable>
          <thead>
            <tr>
              <th>Pair</th>
              <th>Work</th>
              <th class="num">Scopes</th>
              <th>Server</th>
              <th>State</th>
              <th>Since</th>
              <th>Asked</th>
            </tr>
          </thead>
          @foreach ($pairs as $p)
            <tbody>
              @foreach ($p->servers() as $side => $server)
                @php
                  $s = $seen[$p->id][$server->id] ?? null;
                @endphp
                <tr>
                  @if ($side === 'first')
                    <td class="name" rowspan="2"><a href="{{ at('lease.pair', $p->id) }}">{{ $p->name }}</a></td>
                    <td rowspan="2">{{ $p->mode->title() }}, {{ $p->percent }} %</td>
                    <td class="num" rowspan="2">
                      <a href="{{ at('lease') }}?filter=pair:{{ urlencode('"' . $p->name . '"') }}">{{ number_format($p->scopes_count) }}</a>
                    </td>
                  @endif
                  <td class="lost">{{ $server->name }}</td>
                  <td>@include('lease.parts.pair-state', ['s' => $s])</td>
                  <td>{{ $s['since'] ?? null ? $s['since']->diffForHumans(['short' => true]) : '' }}</td>
                  <td>{{ $s['read'] ?? null ? $s['read']->diffForHumans(['short' => true]) : 'never' }}</td>
                </tr>
              @endforeach
            </tbody>
          @endforeach
        </x-table>
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Make a pair</h2>
          </header>
          <div class="pad">
            <x-act id="makepair" action="make-pair">
              <x-field form="makepair" name="name" label="Name" />
              <div class="pair">
                <x-field form="makepair" name="first" :options="$servers" label="First server" />
                <x-field form="makepair" name="second" :options="$servers" label="Second server" :value="array_keys($servers)[1] ?? ''" />
              </div>
              <x-field form="makepair" name="mode" label="How they share the work" :options="$modes" />
              <div class="pair">
                <x-field form="makepair" name="percent" label="Per cent" type="number" min="1" max="99" value="50" />
                <x-field form="makepair" name="lead" label="Leases run ahead by" value="1h" />
              </div>
              <p class="hint">Per cent: of the clients that the first answers; or of the addresses kept for the one that stands by. A lease
                runs no further ahead of what the other knows than this: new clients renew once after half of it.</p>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makepair" />
      </div>
    @endif
  </div>
</x-layout>
