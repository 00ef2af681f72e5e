<x-layout title="Reverse zones" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Reverse zones</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Reverse zones from prefixes</h1>
    <span
      class="soft">
      @php
        $most = count($gaps) >= \App\Queries\ReverseGaps::MOST ? '+' : '';
      @endphp
      {{ $gaps === [] ? 'every live subnet has one' : count($gaps) . $most . ' live subnets have none' }}
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      <form class="panel bar-line" action="{{ at('name.reverse') }}">
        <div class="field"><span><label for="nets">Prefix</label></span><input id="nets" name="nets" class="mono"
            value="{{ $text }}" placeholder="10.38.8.0/22 or 2001:db8:4b01::/48" size="30"
            @if ($text !== '' && !$net) aria-invalid="true" @endif></div>
        @if ($stay)
          <input type="hidden" name="stay" value="{{ $stay }}">
        @endif
        <button class="btn">Show its zones</button>
      </form>
      @if ($text !== '' && !$net)
        <div class="fault" role="alert">
          <h3>@mark('stop')"{{ $text }}" is no prefix</h3>
          <p>Write the network and its length, such as 192.0.2.64/26.</p>
        </div>
      @endif
      @if ($net)
        <section class="panel">
          <header>
            <h2>{{ $net }} takes</h2>
            <span class="soft">{{ count($exact) === 1 ? 'one zone' : count($exact) . ' zones' }}; the one around it is <span
                class="mono">{{ $around }}</span></span>
          </header>
          <table>
            <tbody>
              @foreach (array_slice($exact, 0, 64) as [$name, $zone])
                <tr>
                  <td class="mono">{{ $name }}</td>
                  <td>
                    @if ($zone)
                      <a href="{{ at('name.zone', $zone->id) }}">there, {{ $zone->view->name }}</a>
                    @else
                      <span class="open">not made</span>
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </table>
          @if (count($exact) > 64)
            <p class="bar-line hint">and {{ count($exact) - 64 }} more</p>
          @endif
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Live subnets without a reverse zone</h2>
        </header>
        @if ($gaps === [])
          <div class="empty">
            <h3>@mark('ok')Every live subnet has one</h3>
            <p class="soft">Type a prefix above to make zones ahead of time, or smaller ones.</p>
          </div>
        @else
          <x-table label="Live subnets without a reverse zone" data-worktable>
            <thead>
              <tr>
                @if ($may)
                  <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                @endif
                <th>Subnet</th>
                <th>Prefix</th>
                <th>Site</th>
                <th>Missing zones</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($gaps as $g)
                <tr>
                  @if ($may)
                    <td class="pickcell"><input type="checkbox" class="pick" form="reverse" name="nets[]" value="{{ $g['prefix']->prefix() }}"
                        aria-label="Pick {{ $g['prefix']->prefix() }}"></td>
                  @endif
                  <td class="name"><a href="{{ at('plan.prefix', $g['prefix']->id) }}">{{ $g['prefix']->name ?: 'no name' }}</a></td>
                  <td class="mono">{{ $g['prefix']->prefix() }}</td>
                  <td>{{ $g['prefix']->site?->name }}</td>
                  <td class="mono wrap">{{ $g['zones'][0] }}{{ count($g['zones']) > 1 ? ' and ' . (count($g['zones']) - 1) . ' more' : '' }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    <aside class="side">
      @if ($may)
        <section class="panel">
          <header>
            <h2>Make zones</h2>
            @if ($gaps !== [])
              <span class="soft" data-needs-pick hidden><span data-picked>0</span> picked</span>
            @endif
          </header>
          <div class="pad">
            <x-act id="reverse" action="make-reverse-zones" :stay="$stay ?: at('name.reverse')">
              <x-field form="reverse" name="nets[]" label="Prefixes, with those picked" mono :value="$net ? (string) $net : ''" />
              <x-field
                form="reverse"
                name="cut"
                label="Zones"
                :options="['exact' => 'just the prefix (RFC 2317 below /24)', 'around' => 'the zone on the boundary around it']"
              />
              <x-field form="reverse" name="view" label="View" :options="$choices->views()" />
              <x-field
                form="reverse"
                name="servers[]"
                label="DNS servers, the primary first"
                :options="$choices->servers(\App\Models\ServerKind::Dns)"
                :value="$choices->usualForZones()"
                multiple
              />
              @if ($gaps !== [])
                <x-check form="reverse" name="gaps" label="all live subnets without one, picked or not" />
              @endif
              <x-check form="reverse" name="pointers" label="write the PTRs of placed hosts that have none" :on="true" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="reverse" />
      @endif
    </aside>
  </div>
</x-layout>
