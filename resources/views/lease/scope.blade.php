@php
  $me = auth()->user();
  $may = $me->operatesAll();
  $reserve = $may || $me->does(\App\Models\Role::TenantAdmin);
@endphp
<x-layout :title="$scope->name" verb="lease" work="reserve" does="reserve an address" edit="scopeform">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/lease">Scopes</a></li>
      <li aria-current="page">{{ $scope->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $scope->name }}</h1>
    <a class="mono" href="/plan/prefix/{{ $prefix->id }}">{{ $net }}</a>
    <span class="soft">
      @if ($prefix->vlan)
        VLAN {{ $prefix->vlan->number }},
      @endif relay {{ $prefix->gateway ?? 'none' }}, {{ $scope->stage }}
    </span>
    <span class="end">{{ \App\View\Draw::chain($chain) }} @unless ($me->isBound())
        <a class="btn small" href="/watch?object={{ $scope->id }}">History</a>
        @endunless @if ($may)
          <a class="btn small" href="/lease/exchange?scope={{ $scope->id }}">Try an exchange</a>
        @endif
      </span>
    </header>
    @include('parts.runs')
    <div class="split two">
      <div class="stack">
        <div class="split even">
          <section class="panel">
            <header>
              <h2>Ranges</h2>
              <span class="soft">{{ number_format($scope->ranges->sum(fn($r) => $r->range()->size()->toInt())) }} addresses</span>
            </header>
            <table>
              <thead>
                <tr>
                  <th>Range</th>
                  <th>Server</th>
                  <th class="num">Count</th>
                </tr>
              </thead>
              <tbody>
                @forelse($scope->ranges as $r)
                  <tr>
                    <td class="mono">{{ $r->range() }}</td>
                    <td>{{ $r->server_id ? $servers[$r->server_id] ?? '?' : 'every server of the scope' }}</td>
                    <td class="num">{{ number_format($r->range()->size()->toInt()) }}</td>
                  </tr>
                @empty
                  <tr class="open">
                    <td colspan="3">no range: reservations only</td>
                  </tr>
                @endforelse
                @foreach ($scope->exclusions as $x)
                  <tr>
                    <td class="mono">{{ $x->range() }}</td>
                    <td>kept out {{ $x->reason }}</td>
                    <td class="num">{{ number_format($x->range()->size()->toInt()) }}</td>
                  </tr>
                @endforeach
              </tbody>
            </table>
          </section>
          <section class="panel">
            <header>
              <h2>Servers</h2>
            </header>
            <table>
              <thead>
                <tr>
                  <th>Server</th>
                  <th>Shipped</th>
                  <th>Proved</th>
                </tr>
              </thead>
              <tbody>
                @forelse($scope->placements as $p)
                  <tr>
                    <td><a href="/ship/server/{{ $p->server_id }}">{{ $p->server->name }}</a></td>
                    <td>
                      @if ($p->shipped_at)
                        @php
                          $since = $p->shipped_digest !== $digests[$p->server_id] ? ', changed since' : '';
                        @endphp
                        <span title="{{ $p->shipped_at }}">{{ $p->shipped_at->diffForHumans() }}{{ $since }}</span>
                      @else
                        <span class="open">not yet</span>
                      @endif
                    </td>
                    <td>
                      @if ($p->verified_at)
                        <span title="{{ $p->verified_at }}">{{ $p->verified_at->diffForHumans() }}</span>
                      @else
                        <span class="open">not yet</span>
                      @endif
                    </td>
                  </tr>
                @empty
                  <tr class="open">
                    <td colspan="3">on no server</td>
                  </tr>
                @endforelse
              </tbody>
            </table>
          </section>
        </div>
        <section class="panel">
          <header>
            <h2>Options</h2>
            <span class="soft">lease time {{ $scope->leaseWords() }}, renewed {{ $scope->renewalWords() }}</span>
          </header>
          <div class="scroll-x" tabindex="0" role="region" aria-label="Options">
            <table>
              <thead>
                <tr>
                  <th class="num">Code</th>
                  <th>Option</th>
                  <th>Value</th>
                  <th>Bytes</th>
                  <th>Standard</th>
                </tr>
              </thead>
              <tbody>
                <tr class="open">
                  <td class="num">1</td>
                  <td>subnet mask</td>
                  <td class="mono">{{ $net->mask() }}</td>
                  <td class="mono">{{ \HarborPost\Core\Bytes\Hex::spaced($net->mask()->bytes) }}</td>
                  <td class="rfc">computed</td>
                </tr>
                @foreach ($inherited as $code => $from)
                  @continue ($options->contains('code', $code))
                  @php
                    $d = \HarborPost\Core\Dhcp\Option\OptionTable::definition($code);
                  @endphp
                  <tr>
                    <td class="num">{{ $code }}</td>
                    <td>{{ $d->name }}</td>
                    <td class="mono wrap">{{ implode(', ', $from['values']) }} <span class="hint">from @if ($from['link'])
                          <a href="{{ $from['link'] }}">{{ $from['label'] }}</a>
                          @else{{ $from['label'] }}
                        @endif
                      </span>
                    </td>
                    <td class="mono soft wrap">
                      {{ Str::limit(\HarborPost\Core\Bytes\Hex::spaced(\HarborPost\Core\Dhcp\Option\OptionTable::encode($code, $from['values'])), 60) }}
                    </td>
                    <td class="rfc">{{ $d->standard }}</td>
                  </tr>
                @endforeach
                @foreach ($options as $o)
                  @php
                    $d = \HarborPost\Core\Dhcp\Option\OptionTable::definition($o->code);
                  @endphp
                  @php
                    $away = fn($v) => ($router = \HarborPost\Core\Net\Address::tryParse($v)) !== null && !$net->contains($router);
                    $bad = $o->code === 3 && collect($o->values)->contains($away);
                  @endphp
                  <tr @class(['drafted' => isset($touched["option:$o->id"])])>
                    <td class="num">{{ $o->code }}</td>
                    <td>{{ $d->name }}</td>
                    <td class="mono wrap">
                      @if ($o->values === [])
                        <span class="open">empty on purpose</span>
                        @else{{ implode(', ', $o->values) }}
                        @endif @if ($bad)
                          @mark('warn') <span class="warn">not in {{ $net }}: clients cannot reach it</span>
                        @endif
                    </td>
                    <td class="mono soft wrap">{{ Str::limit(\HarborPost\Core\Bytes\Hex::spaced($o->payload() ?? ''), 60) }}</td>
                    <td class="rfc">{{ $d->standard }}</td>
                  </tr>
                @endforeach
              </tbody>
            </table>
          </div>
        </section>
        <section class="panel">
          <header>
            <h2>Reservations</h2>
            <span class="soft">{{ $scope->reservations->count() }}</span>
            @if ($reserve)
              <span class="end row" data-needs-pick hidden>
                <form id="cutres" method="post" action="/act/remove-reservations" hx-post="/act/remove-reservations" hx-target="#follows-reserve">
                  @csrf
                  <input type="hidden" name="_form" value="cutres">
                  <input type="hidden" name="scope" value="{{ $scope->id }}"><button class="btn stop small" name="then" value="preview">Remove
                    <span data-picked>0</span></button>
                </form>
              </span>
            @endif
          </header>
          @if ($scope->reservations->isEmpty())
            <p class="pad open">none</p>
          @else
            <div class="scroll-x" tabindex="0" role="region" aria-label="Reservations">
              <table data-worktable>
                <thead>
                  <tr>
                    @if ($reserve)
                      <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                    @endif
                    <th>Address</th>
                    <th>MAC</th>
                    <th>Name</th>
                  </tr>
                </thead>
                <tbody>
                  @foreach ($scope->reservations as $r)
                    <tr @class(['drafted' => isset($touched["reservation:$r->id"])])>
                      @if ($reserve)
                        <td class="pickcell"><input type="checkbox" class="pick" form="cutres" name="reservations[]" value="{{ $r->id }}"
                            aria-label="Pick {{ $r->address }}"></td>
                      @endif
                      <td class="mono">{{ $r->address }}</td>
                      <td class="mono">{{ $r->mac }}</td>
                      <td>{{ $r->name }}</td>
                    </tr>
                  @endforeach
                </tbody>
              </table>
            </div>
          @endif
        </section>
        <section class="panel">
          <header>
            <h2>Leases</h2>
            <span class="soft">{{ $leases->count() }}{{ $moreLeases ? '+' : '' }} active, as last read from the servers</span>
          </header>
          @if ($leases->isEmpty())
            <p class="pad open">none that is active</p>
          @else
            <div class="scroll-x" tabindex="0" role="region" aria-label="Leases">
              <table>
                <thead>
                  <tr>
                    <th>Address</th>
                    <th>MAC</th>
                    <th>Client's name</th>
                    <th>Server</th>
                    <th>Until</th>
                  </tr>
                </thead>
                <tbody>
                  @foreach ($leases as $l)
                    <tr>
                      <td class="mono">{{ $l->address }}</td>
                      <td class="mono">{{ $l->mac }}</td>
                      <td>{{ $l->host_name }}</td>
                      <td>{{ $l->server->name }}</td>
                      <td title="{{ $l->ends_at }}">{{ $l->ends_at->diffForHumans(['parts' => 2, 'short' => true]) }}</td>
                    </tr>
                  @endforeach
                </tbody>
              </table>
            </div>
          @endif
        </section>
      </div>
      <div class="side">
        @if ($reserve)
          <section class="panel">
            <header>
              <h2>Reserve</h2>
            </header>
            <div class="pad">
              <x-act id="reserve" action="add-reservation"><input type="hidden" name="scope" value="{{ $scope->id }}">
                <div class="pair">
                  <x-field form="reserve" name="address" label="Address" mono />
                  <x-field form="reserve" name="mac" label="MAC" mono />
                </div>
                <x-field form="reserve" name="name" label="Name" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="reserve" />
        @endif
        @if ($may)
          <details class="panel" open>
            <summary class="bar-line"><b>Set an option</b></summary>
            <div class="pad">
              <x-act id="option" action="set-option"><input type="hidden" name="scope" value="{{ $scope->id }}">
                <x-field form="option" name="code" label="Option" :options="collect($registered)
                    ->reject(fn($d) => in_array($d->code, [1, 50, 51, 52, 53, 54, 55, 57, 58, 59, 61, 82]))
                    ->mapWithKeys(fn($d) => [$d->code => $d->code . ' ' . $d->name])
                    ->all()" value="42" />
                <x-field form="option" name="value" label="Values, one a line; bytes as 0x…; blank removes it" rows="2" mono />
                <x-check form="option" name="empty" label="empty on purpose: clients are sent none" />
              </x-act>
            </div>
          </details>
          <div id="follows-option"></div>
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
                  <x-field form="scopeform" name="leaseTime" label="Lease time, s" :value="$scope->lease_time" />
                  <x-field form="scopeform" name="stage" label="Stage" :options="['live' => 'live', 'planned' => 'planned']" :value="$scope->stage" />
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
                  :options="$choices->servers('dhcp')"
                  :value="$scope->placements->pluck('server_id')->all()"
                  multiple
                />
              </x-act>
              <form id="cutscope" class="row end" method="post" action="/act/remove-scope" hx-post="/act/remove-scope"
                hx-target="#follows-scopeform">@csrf
                <input type="hidden" name="_form" value="cutscope">
                <input type="hidden" name="scope" value="{{ $scope->id }}"><button class="btn stop small" name="then"
                  value="preview">Remove the scope</button>
              </form>
            </div>
          </details>
          <div id="follows-scopeform"></div>
        @endif
      </div>
    </div>
  </x-layout>
