@php
  $me = auth()->user();
  $may = $me->operatesAll();
  $first = $scope->ranges->first();
@endphp
<x-layout :title="$scope->name" verb="lease" work="reserve" does="reserve an address" edit="scopeform">
  @include('lease.parts.scope-head')
  @include('parts.runs')
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Addresses, prefixes and servers</h2>
          <span class="soft">
            valid {{ $scope->leaseWords() }}, preferred
            {{ $scope->preferred() === \App\Models\Scope::INFINITE ? 'without an end' : \HarborPost\Core\Dns\Ttl::of($scope->preferred())->spoken() }},
            renewed {{ $scope->renewalWords() }}{{ $scope->rapid_commit ? '; rapid commit' : '' }}
          </span>
        </header>
        @if ($scope->placements->count() > 1 && $scope->ranges->isNotEmpty())
          <div class="pad">{{ \App\View\Seam::of($scope, $servers->all()) }}</div>
        @endif
        <x-table label="What is leased">
          <thead>
            <tr>
              <th>What</th>
              <th>Leased by</th>
              <th class="num">Count</th>
              <th>Out now</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($scope->ranges as $r)
              <tr>
                <td class="mono">{{ $r->range() }}</td>
                <td>{{ $r->server_id ? $servers[$r->server_id] ?? '?' : 'every server of the scope' }}</td>
                <td class="num">{{ \App\View\Words::many($r->range()->size()) }}</td>
                <td>{{ \App\View\Draw::filled($out[$r->id] ?? 0, $r->range()->size()) }}</td>
              </tr>
            @endforeach
            @foreach ($scope->delegations as $d)
              <tr>
                <td class="mono">
                  @if (isset($pools[$d->id]))
                    <a href="{{ at('plan.prefix', $pools[$d->id]) }}">{{ $d->delegation()->pool }}</a>
                  @else
                    {{ $d->delegation()->pool }}
                  @endif
                  <span class="soft">for routers, as /{{ $d->length }}</span>
                </td>
                <td>{{ $d->server_id ? $servers[$d->server_id] ?? '?' : 'every server of the scope' }}</td>
                <td class="num">{{ \App\View\Words::many($d->delegation()->count()) }}</td>
                <td>{{ \App\View\Draw::filled($out[$d->id] ?? 0, $d->delegation()->count()) }}</td>
              </tr>
            @endforeach
            @if ($scope->ranges->isEmpty() && $scope->delegations->isEmpty())
              <tr class="open">
                <td colspan="4">
                  {{ $scope->reservations->isEmpty() ? 'nothing: clients make addresses of their own and are told options' : 'reservations only' }}
                </td>
              </tr>
            @endif
            @foreach ($scope->exclusions as $x)
              <tr>
                <td class="mono">{{ $x->range() }}</td>
                <td>kept out {{ $x->reason }}</td>
                <td class="num">{{ \App\View\Words::many($x->range()->size()) }}</td>
                <td></td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @include('lease.parts.servers')
      </section>
      <section class="panel">
        <header>
          <h2>What the router says</h2>
          <span class="soft">clients ask for leases only where it tells them to</span>
        </header>
        <x-table label="What the router says">
          <thead>
            <tr>
              <th>Router advertisement</th>
              <th>Meant</th>
              <th>Said on the switch</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($router as $line)
              <tr>
                <td>{{ $line['what'] }} <span class="rfc">{{ $line['standard'] }}</span></td>
                <td>{{ $line['meant'] ? 'on' : 'off' }}</td>
                <td>
                  @if ($line['said'] === null)
                    <span class="open">{{ $routerProblem }}</span>
                  @elseif ($line['said'] === $line['meant'])
                    @mark('ok') {{ $line['said'] ? 'on' : 'off' }}
                  @else
                    @mark('warn') {{ $line['said'] ? 'on' : 'off' }}: {{ $line['means'] }}
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <section class="panel">
        <header>
          <h2>Options</h2>
          <span class="key"><i class="dot hit"></i>sent</span>
          <span class="key"><i class="dot under"></i>hidden</span>
        </header>
        <div class="scroll-x" tabindex="0" role="region" aria-label="Options by layer">
          @include('lease.parts.sounding', ['rows' => \App\View\Sounding::of($stack, $book), 'fixed' => [], 'net' => null])
        </div>
      </section>
      @include('lease.parts.reservations')
      @include('lease.parts.naming')
      @if ($reach && $reach->clients > 0)
        <section class="panel">
          <header>
            <h2>When clients have a change</h2>
            <span class="soft">{{ implode(', ', \App\View\ReachCurve::words($reach)) }}, once it is shipped</span>
          </header>
          <div class="pad">{{ \App\View\ReachCurve::of($reach) }}</div>
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
              <x-field form="reservemany" name="lines" label="Address or prefix, DUID, name: one a line" rows="6" mono
                placeholder="2001:db8:36:1::40 00:03:00:01:00:00:5e:00:53:17 printer-2" />
            </x-act>
          </div>
        </details>
        <div id="follows-reservemany"></div>
      @endif
      @if ($may)
        @include('lease.parts.option-form')
        @include('lease.parts.naming-form')
        @if ($scope->placements->count() > 1 && $scope->ranges->isNotEmpty())
          <details class="panel">
            <summary class="bar-line"><b>Move the seam</b></summary>
            <div class="pad">
              <x-act id="seam" action="set-shares">
                <input type="hidden" name="scopes[]" value="{{ $scope->id }}">
                <x-field form="seam" name="first" label="Who leases the first part" :options="$scope->placements->pluck('server.name', 'server_id')->all()"
                  :value="$first?->server_id" />
                <x-field form="seam" name="percent" label="Its share of the addresses, %" type="number" min="1" max="99" value="80" />
              </x-act>
            </div>
          </details>
          <div id="follows-seam"></div>
        @endif
        <details class="panel">
          <summary class="bar-line"><b>Edit the scope</b></summary>
          <div class="pad">
            <x-act id="scopeform" action="change-scope" :seen="['scope:' . $scope->id => $scope->version]">
              <input type="hidden" name="scope" value="{{ $scope->id }}">
              <input type="hidden" name="lists" value="1">
              <x-field form="scopeform" name="name" label="Name" :value="$scope->name" />
              <div class="pair">
                <x-field form="scopeform" name="leaseTime" label="Valid life" :value="$scope->leaseTyped()" />
                <x-field form="scopeform" name="preferred" label="Preferred life" :value="$scope->preferred_time" placeholder="as long" />
              </div>
              <x-field form="scopeform" name="stage" label="Stage" :options="\App\Models\Stage::ofScopes()"
                :value="$scope->stage->value" />
              <x-field form="scopeform" name="ranges" label="Ranges, one a line" rows="3" mono :value="implode(PHP_EOL, $texts)" />
              <x-field form="scopeform" name="delegations" label="Pools delegated to routers, one a line" rows="2" mono
                :value="implode(PHP_EOL, $poolTexts)" placeholder="2001:db8:40::/44 as /56" />
              <x-check form="scopeform" name="divide" label="divide anew between the servers" />
              <x-field form="scopeform" name="exclusions" label="Kept out of them" rows="2" mono :value="$scope->exclusions
                  ->map(fn($x) => (string) $x->range())
                  ->implode(PHP_EOL)" />
              <div class="pair">
                <x-field form="scopeform" name="rapid" label="Rapid commit" :options="['yes' => 'yes', 'no' => 'no']"
                  :value="$scope->rapid_commit ? 'yes' : 'no'" />
                <x-field form="scopeform" name="autonomous" label="Addresses of one’s own too" :options="['yes' => 'yes', 'no' => 'no']"
                  :value="$scope->autonomous ? 'yes' : 'no'" />
              </div>
              <x-field form="scopeform" name="servers[]" label="Servers" :options="$choices->servers(\App\Models\ServerKind::Dhcp)"
                :value="$scope->placements->pluck('server_id')->all()" multiple />
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
