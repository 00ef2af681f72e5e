@php
  $spoken = fn($s) => \HarborPost\Core\Dns\Ttl::of($s)->spoken();
  $hours = fn($s) => rtrim(rtrim(number_format($s / 3600, 2, '.', ''), '0'), '.');
@endphp
<x-layout :title="$zone->title() . ', service'" verb="name">
  <nav aria-label="Above this zone">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li aria-current="page">Service</li>
    </ol>
  </nav>
  <header class="title">
    <h1 class="mono">{{ $zone->title() }}</h1>
    <span class="soft">{{ $zone->view->name }}, as its servers answer now</span>
  </header>
  @if ($service->drift())
    <div class="notice bad" role="alert">@mark('warn')<span class="grow"><b>The primary is ahead of the plan.</b> Clients changed the zone
        there, or somebody did by hand.</span>
      <a class="btn small" href="{{ at('name.zone.drift', $zone->id) }}">Look at what changed</a>
    </div>
  @endif
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Serials</h2>
          <span class="soft">each by a packet, just now; a clock: how long a copy is served when the primary is gone</span>
        </header>
        {{ \App\View\Joined\Transfers::draw($zone, $servers) }}
        <x-table label="Serials">
          <thead>
            <tr>
              <th>Server</th>
              <th>Part</th>
              <th class="num">Serial</th>
              <th>State</th>
              <th>Last asked its primary</th>
              <th>If the primary died now</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($servers as $s)
              <tr>
                <td class="name"><a href="{{ at('ship.server', $s['placement']->server_id) }}">{{ $s['placement']->server->name }}</a>
                  @if ($s['placement']->planned)
                    <span class="hint">NS planned</span>
                  @endif
                </td>
                <td>{{ $s['placement']->part->value }}</td>
                <td class="num mono">{{ $s['serial'] }}</td>
                <td><span @class([
                    'stopped' => in_array($s['step'], ['silent', 'expired', 'none']),
                    'warn' => in_array($s['step'], ['behind', 'ahead']),
                ])>{{ $s['words'] }}</span>
                  @if ($s['transfer'])
                    <br><span class="hint">last transfer {{ $s['transfer'] === 'steps' ? 'by difference (IXFR)' : 'whole (AXFR)' }}</span>
                  @endif
                </td>
                <td>
                  @if ($s['refreshed'])
                    {{ $s['refreshed']->diffForHumans() }}
                    <br><span class="hint">asks again {{ $s['next']?->diffForHumans() }}</span>
                    @endif @if ($s['trouble'])
                      <br><span class="stopped">{{ $s['trouble'] }}</span>
                    @endif
                </td>
                <td>
                  @if ($s['expires'])
                    serves until
                    <b>{{ $s['expires']->format('j M, H:i') }}</b><br><span class="hint">{{ $s['expires']->diffForHumans() }}</span>
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      @foreach ($zone->placements->where('part', \App\Models\Part::Secondary) as $placement)
        <section class="panel">
          <header>
            <h2>{{ $placement->server->name }} as a secondary</h2>
            <span class="end row">
              @if ($may)
                <form method="post" action="{{ at('name.zone.fetch', $zone->id, $placement->server_id) }}">@csrf
                  <button class="btn small">Fetch now</button>
                </form>
                @if ($placement->planned)
                  <form method="post" action="{{ at('act', 'list-secondary') }}">@csrf
                    <input type="hidden" name="placement" value="{{ $placement->id }}">
                    <button class="btn small" name="then" value="preview">List it as NS</button>
                  </form>
                @endif
                <form method="post" action="{{ at('act', 'remove-secondary') }}">@csrf
                  <input type="hidden" name="placement" value="{{ $placement->id }}">
                  <button class="btn stop small" name="then" value="preview">Remove as a secondary</button>
                </form>
              @endif
            </span>
          </header>
          <table>
            <thead>
              <tr>
                <th>Step</th>
                <th>State</th>
                <th>Measured</th>
                <th>At</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($service->way($placement) as $i => $w)
                <tr>
                  <td>{{ $i + 1 }}. {{ $w['step'] }}</td>
                  <td>
                    @mark(['done' => 'ok', 'held' => 'stop', 'waits' => 'wait'][$w['state']])
                    {{ ['done' => 'done', 'held' => 'held up here', 'waits' => 'waits'][$w['state']] }}</td>
                  <td class="wrap">{{ $w['words'] }} @if ($w['link'])
                      <a href="{{ $w['link'] }}">Go there</a>
                    @endif
                  </td>
                  <td>{{ $w['machine'] }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </section>
      @endforeach
      <section class="panel">
        <header>
          <h2>Names that clients registered</h2>
          <span class="soft">{{ $faults === [] ? 'lapse is in force' : 'lapse is not in force' }}</span>
        </header>
        <ul class="lines pad">
          @forelse($faults as $f)
            <li>@mark('stop') not in force because {{ $f }}</li>
          @empty
            <li>@mark('ok') in force because updates are taken, {{ $zone->primaryPlacement()?->server->name }} has the lifetime of
              {{ $spoken($zone->lapse_after) }}, and renewals in the first {{ $spoken($zone->lapse_quiet) }} are acknowledged without being written
              (RFC 9664)</li>
          @endforelse
          @if ($zone->lapse_after && $leaseTime > 0)
            @php
              $fit = \HarborPost\Core\Dns\Zone\Lapse::of($zone->lapse_after, $zone->lapse_quiet)->against($leaseTime);
            @endphp
            <li>
              @mark($fit ? 'warn' : 'ok')
              {{ $fit ? $fit . ': the longest lease is ' . $spoken($leaseTime) : 'fits the longest lease, ' . $spoken($leaseTime) }}</li>
          @endif
        </ul>
        @if ($renewals !== [])
          <x-table label="Renewals">
            <thead>
              <tr>
                <th>Name</th>
                <th>Type</th>
                <th>Last renewed</th>
                <th>Falls due</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($renewals as $set => $at)
                @php
                  [$owner, $type] = explode(' ', $set, 2);
                @endphp
                <tr>
                  <td class="mono"><a
                      href="{{ at('name.zone.timeline', $zone->id) }}?name={{ urlencode($owner) }}">{{ $service->relative($owner) }}</a></td>
                  <td>{{ $type }}</td>
                  <td>{{ \Carbon\CarbonImmutable::createFromTimestamp($at)->diffForHumans() }}</td>
                  <td>
                    @if ($zone->lapse_after)
                      @php
                        $due = \Carbon\CarbonImmutable::createFromTimestamp($at + $zone->lapse_after);
                      @endphp
                      <span @class(['stopped' => $due->isPast()])>{{ $due->isPast() ? 'would go now' : $due->diffForHumans() }}</span>
                    @else
                      <span class="open">never</span>
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @else
          <p class="pad open">no client registered a name on the primary</p>
        @endif
      </section>
    </div>
    <aside class="side">
      @if ($may)
        @if ($others !== [])
          <section class="panel">
            <header>
              <h2>Add a secondary</h2>
            </header>
            <div class="pad">
              <x-act id="secondary" action="add-secondary"><input type="hidden" name="zones[]" value="{{ $zone->id }}">
                <x-field form="secondary" :options="$others" name="server" label="DNS server" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="secondary" />
        @endif
        <section class="panel">
          <header>
            <h2>Who may copy it</h2>
          </header>
          <div class="pad">
            <x-act id="copies" action="serve-zone" :seen="['zone:' . $zone->id => $zone->version]"><input type="hidden" name="zone" value="{{ $zone->id }}">
              <x-field
                form="copies"
                name="copies"
                label="Copies go to"
                :options="['servers' => 'its name servers', 'list' => 'this list', 'nobody' => 'nobody']"
                :value="$zone->transfer === null ? 'servers' : ($zone->transfer === [] ? 'nobody' : 'list')"
              />
              <x-field form="copies" name="transfer" label="List" mono rows="3" :value="implode(PHP_EOL, $zone->transferList())"
                hint="prefixes, or key NAME; one a line" /></x-act>
          </div>
        </section>
        <div id="follows-copies"></div>
        <section class="panel">
          <header>
            <h2>Updates and lapse</h2>
          </header>
          <div class="pad">
            <x-act id="updates" action="serve-zone" :seen="['zone:' . $zone->id => $zone->version]"><input type="hidden" name="zone" value="{{ $zone->id }}">
              <x-field
                form="updates"
                name="updateMode"
                label="Dynamic updates"
                :options="['refused' => 'refused', 'key' => 'signed by a key', 'address' => 'from addresses, unsigned']"
                :value="$zone->update_mode"
              />
              <x-field
                form="updates"
                name="updateFrom"
                label="From"
                mono
                rows="2"
                :value="implode(PHP_EOL, $zone->update_from ?? [])"
                :hint="$keys->isEmpty() ? 'key NAME, or prefixes; make a key first' : 'key ' . $keys[0]->title() . ', or prefixes'"
              />
              <div class="pair">
                <x-field
                  form="updates"
                  name="lapseAfter"
                  label="Names lapse after, h"
                  :value="$zone->lapse_after ? $hours($zone->lapse_after) : ''"
                  placeholder="never"
                />
                <x-field form="updates" name="lapseQuiet" label="Quiet part, h" :value="$zone->lapse_after ? $hours($zone->lapse_quiet) : ''" />
              </div>
            </x-act>
          </div>
        </section>
        <div id="follows-updates"></div>
        <p class="hint"><a href="{{ at('name.keys') }}">Keys</a> sign transfers and updates (RFC 8945).</p>
      @endif
    </aside>
  </div>
</x-layout>
