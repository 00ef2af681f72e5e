@php
  $me = auth()->user();
  $may = $me->operatesAll();
  $size = $scope->size();
  $first = $scope->ranges->first();
  $percent = $size > 0 && $first ? round((100 * $first->range()->size()->toInt()) / $size) : 80;
@endphp
<x-layout :title="$scope->name" verb="lease" work="reserve" does="reserve an address" edit="scopeform">
  @include('lease.parts.scope-head')
  @include('parts.runs')
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Options</h2>
          <span class="key"><i class="dot hit"></i>sent</span>
          <span class="key"><i class="dot under"></i>hidden</span>
          <span class="soft end">lease time {{ $scope->leaseWords() . $scope->firstWords() }}, renewed {{ $scope->renewalWords() }}</span>
        </header>
        <div class="scroll-x" tabindex="0" role="region" aria-label="Options by layer">
          @include('lease.parts.sounding', [
              'rows' => \App\View\Sounding::of($stack, $book),
              'fixed' => [
                  [
                      'code' => 1,
                      'name' => 'subnet mask',
                      'from' => 'computed from the subnet',
                      'words' => $net->mask(),
                      'bytes' => \HarborPost\Core\Bytes\Hex::spaced($net->mask()->bytes),
                  ],
              ],
          ])
        </div>
        @if ($classes->isNotEmpty())
          <p class="pad-all hint">For a client of a class or with a reservation more may hold:
            <a href="{{ at('lease.exchange') }}?scope={{ $scope->id }}">describe the client</a>.</p>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Ranges and servers</h2>
          <span class="soft">{{ number_format($size) }} {{ $size === 1 ? 'address' : 'addresses' }}</span>
        </header>
        @if ($scope->pair)
          <div class="pad">
            <p>Leased by the pair <a href="{{ at('lease.pair', $scope->pair_id) }}">{{ $scope->pair->name }}</a>: each server knows what the other
              one gave.</p>
            {{ \App\View\PairStrip::of($scope->pair) }}
          </div>
        @elseif ($scope->placements->count() > 1 && $size > 0)
          <div class="pad">{{ \App\View\Seam::of($scope, $servers->all()) }}</div>
        @endif
        <x-table label="Ranges">
          <thead>
            <tr>
              <th>Range</th>
              <th>Leased by</th>
              <th>For</th>
              <th class="num">Count</th>
            </tr>
          </thead>
          <tbody>
            @forelse ($scope->ranges as $r)
              <tr>
                <td class="mono">{{ $r->range() }}</td>
                <td>{{ $r->server_id ? $servers[$r->server_id] ?? '?' : ($scope->pair ? 'both, each its part' : 'every server of the scope') }}</td>
                <td>
                  @if ($r->class_id)
                    {{ $r->class_only ? 'only' : 'all but' }}
                    <a href="{{ at('lease.options.of', 'class', $r->class_id) }}">{{ $classes->firstWhere('id', $r->class_id)?->name }}</a>
                  @else
                    all clients
                  @endif
                </td>
                <td class="num">{{ number_format($r->range()->size()->toInt()) }}</td>
              </tr>
            @empty
              <tr class="open">
                <td colspan="4">no range: reservations only</td>
              </tr>
            @endforelse
            @foreach ($scope->exclusions as $x)
              <tr>
                <td class="mono">{{ $x->range() }}</td>
                <td colspan="2">kept out {{ $x->reason }}</td>
                <td class="num">{{ number_format($x->range()->size()->toInt()) }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @include('lease.parts.servers')
        @if ($vlanSheet)
          <header>
            <h3>From the VLAN to the scope</h3>
            <span class="soft">as switches and servers were last read; a cut line is where a DISCOVER ends</span>
          </header>
          {{ \App\View\Joined\RelayChain::draw($scope, $prefix->vlan, $vlanSheet, $digests, $drifted, $relays) }}
        @endif
      </section>
      @include('lease.parts.reservations')
      @include('lease.parts.naming')
      @if ($reach && $reach->clients > 0)
        <section class="panel">
          <header>
            <h2>When clients have a change</h2>
            <span class="soft">{{ implode(', ', \App\View\ReachCurve::words($reach)) }}, once it is shipped</span>
          </header>
          <div class="pad">
            {{ \App\View\ReachCurve::of($reach) }}
            <p class="hint">{{ number_format($reach->clients) }} clients ask again at half of their lease. To outlive {{ $outage }} hours without
              {{ $scope->pair ? 'both servers' : 'a server' }} the lease time is at least
              {{ \HarborPost\Core\Dns\Ttl::of($advice->least)->spoken() }}, twice that;
              @if ($advice->most === null)
                nobody new came of late, so the pool sets no bound.
              @elseif ($advice->fits())
                the pool lasts up to {{ \HarborPost\Core\Dns\Ttl::of($advice->most)->spoken() }} at the arrivals of the last days.
              @else
                at the arrivals of the last days that needs {{ number_format($advice->needs) }} addresses, and {{ number_format($size) }} are there.
              @endif
              Now it is {{ $scope->leaseWords() }}: {{ number_format($reach->losing($outage * 3600, $scope->lease_time)) }} clients would lose theirs in
              {{ $outage }} hours.</p>
          </div>
        </section>
      @endif
      @include('lease.parts.scope-leases')
    </div>
    <div class="side">
      @if ($reserve)
        <div id="follows-reserve" class="of-row"></div>
        <div id="follows-changeres" class="of-row"></div>
        <details class="panel">
          <summary class="bar-line"><b>Reserve from a list</b></summary>
          <div class="pad">
            <x-act id="reservemany" action="paste-reservations">
              <input type="hidden" name="scope" value="{{ $scope->id }}">
              <x-field form="reservemany" name="lines" label="Address, MAC or 0x…, name: one a line" rows="6" mono
                placeholder="192.0.2.40 00:00:5e:00:53:17 printer-2" />
            </x-act>
          </div>
        </details>
        <div id="follows-reservemany"></div>
      @endif
      @if ($may)
        @include('lease.parts.option-form')
        @include('lease.parts.naming-form')
        @if ($pairs !== [])
          <details class="panel">
            <summary class="bar-line"><b>{{ $scope->pair ? 'Leave the pair' : 'Bring it into a pair' }}</b></summary>
            <div class="pad">
              <x-act id="pairform" action="pair-scopes">
                <input type="hidden" name="scopes[]" value="{{ $scope->id }}">
                @if ($scope->pair)
                  <input type="hidden" name="pair" value="">
                  <p class="hint">Each server has a share again, four fifths the first.</p>
                @else
                  <x-field form="pairform" name="pair" label="Pair" :options="$pairs" />
                @endif
                <p class="row end"><button class="btn small" name="then" value="preview">Show what follows</button></p>
              </x-act>
            </div>
          </details>
          <div id="follows-pairform"></div>
        @endif
        @if (!$scope->pair && $scope->placements->count() > 1 && $size > 0)
          <details class="panel">
            <summary class="bar-line"><b>Move the seam</b></summary>
            <div class="pad">
              <x-act id="seam" action="set-shares">
                <input type="hidden" name="scopes[]" value="{{ $scope->id }}">
                <x-field form="seam" name="first" label="Who leases the first part" :options="$scope->placements->pluck('server.name', 'server_id')->all()"
                  :value="$first?->server_id" />
                <x-field form="seam" name="percent" label="Its share, %" type="range" min="1" max="99" :value="$percent" data-shown="seam-percent" />
                <output id="seam-percent" class="hint" for="seam-percent">{{ $percent }} %</output>
                <x-field form="seam" name="delay" label="The other holds its offers back, ms" type="number" min="0" max="10000"
                  :value="$scope->placements->max('delay_ms')" />
              </x-act>
            </div>
          </details>
          <div id="follows-seam"></div>
        @endif
        @if ($classes->isNotEmpty() && $scope->ranges->isNotEmpty())
          <details class="panel">
            <summary class="bar-line"><b>Keep a range for a class</b></summary>
            <div class="pad">
              <x-act id="keep" action="keep-range">
                <input type="hidden" name="scope" value="{{ $scope->id }}">
                <x-field form="keep" name="range" label="Range" :options="$scope->ranges->mapWithKeys(fn($r) => [$r->id => (string) $r->range()])->all()" />
                <div class="pair">
                  <x-field form="keep" name="for" label="It is for"
                    :options="['only' => 'only the class', 'not' => 'all but the class', 'all' => 'all clients']" />
                  <x-field form="keep" name="class" label="Class" :options="$classes->pluck('name', 'id')->all()" />
                </div>
              </x-act>
            </div>
          </details>
          <div id="follows-keep"></div>
        @endif
        <details class="panel">
          <summary class="bar-line"><b>Edit the scope</b></summary>
          <div class="pad">
            <x-act
              id="scopeform"
              action="change-scope"
              :seen="['scope:' . $scope->id => $scope->version]"
            ><input type="hidden" name="scope" value="{{ $scope->id }}">
              <input type="hidden" name="lists" value="1">
              <x-field form="scopeform" name="name" label="Name" :value="$scope->name" />
              <div class="pair">
                <x-field form="scopeform" name="leaseTime" label="Lease time" :value="$scope->leaseTyped()" />
                <x-field form="scopeform" name="stage" label="Stage" :options="\App\Models\Stage::ofScopes()"
                :value="$scope->stage->value" />
              </div>
              <x-field form="scopeform" name="ranges" label="Ranges, one a line" rows="3" mono :value="$scope->ranges
                  ->map(fn($r) => $r->range() . ($r->server_id ? '@' . ($servers[$r->server_id] ?? '') : ''))
                  ->implode(PHP_EOL)" />
              <x-check form="scopeform" name="divide" label="divide anew between the servers, four fifths for the first" />
              <x-field
                form="scopeform"
                name="exclusions"
                label="Kept out of them"
                rows="2"
                mono
                :value="$scope->exclusions->map(fn($x) => (string) $x->range())->implode(PHP_EOL)"
              />
              <x-field
                form="scopeform"
                name="servers[]"
                label="Servers"
                :options="$choices->servers(\App\Models\ServerKind::Dhcp)"
                :value="$scope->placements->pluck('server_id')->all()"
                multiple
              />
            </x-act>
            @include('lease.parts.remove-scope')
          </div>
        </details>
        <div id="follows-scopeform"></div>
        @include('lease.parts.copy-scope')
      @endif
    </div>
  </div>
</x-layout>
