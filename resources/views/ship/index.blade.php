@php
  $steward = auth()->user()->does(App\Models\Role::Steward);
@endphp
<x-layout title="Ship" verb="ship" work="makeserver" does="write a server down">
  <header class="title">
    <h1>Servers</h1>
    <span
      class="soft">
      @php
        $changes = $waits === 1 ? ' record change waits' : ' record changes wait';
      @endphp
      {{ $waits === 0 ? 'no record change waits' : number_format($waits) . $changes . ' to be shipped' }}
    </span>
    <span class="end row">
      @if ($may && $servers->isNotEmpty())
        <form method="post" action="/ship/all">@csrf
          <button class="btn small">Ship to all that differ</button>
        </form>
      @endif
      <a class="btn small" href="/ship/times">Times</a>
      <a class="btn small" href="/ship/outside">Systems outside</a>
      <a class="btn small" href="/ship/drafts">Drafts</a>
      @if (auth()->user()->does(\App\Models\Role::Steward))
        <a class="btn small" href="/ship/hooks">Hooks</a>
      @endif
      <a class="btn small" href="/ship/draft">My draft</a>
    </span>
  </header>
  <div class="split @if ($steward) two @endif">
    <section class="panel" id="servers"
      @if ($running->isNotEmpty()) hx-get="/ship" hx-trigger="every 1s" hx-select="#servers" hx-swap="outerHTML" @endif>
      @if ($servers->isEmpty())
        <div class="empty">
          <h3>No servers yet</h3>
          <p class="soft">A server has an address in the plan and an endpoint where it is reached. A steward writes it down.</p>
        </div>
      @else
        <x-table label="Servers" data-worktable>
          <thead>
            <tr>
              <th>Server</th>
              <th>Does</th>
              <th>Address</th>
              <th>Site</th>
              <th>Holds</th>
              <th>In effect</th>
              <th>Looked at</th>
              <th>Shipped</th>
              <th>Last shipment</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($servers as $s)
              @php
                $h = $standing[$s->id] ?? null;
                $state = $states[$s->id] ?? null;
              @endphp
              <tr>
                <td class="name">
                  <a href="/ship/server/{{ $s->id }}">{{ $s->name }}</a>
                  @if ($s->held)
                    <span class="stopped">@mark('stop') held</span>
                  @endif
                </td>
                <td>{{ $s->kind->does() }}</td>
                <td class="mono">{{ $s->address }}</td>
                <td>{{ $s->site?->name }}</td>
                <td>{{ $h ? $h['holds'] . ($s->kind === \App\Models\ServerKind::Dhcp ? ' scopes' : ' zones') : '' }}</td>
                <td>
                  @if ($h)
                    @php
                      $looked = $state?->compared_at !== null && !$state->problem;
                    @endphp
                    <span class="chain">@mark($looked && $h['inEffect'] >= $h['holds'] ? 'ok' : 'wait'){{ $h['inEffect'] }} of
                      {{ $h['holds'] }}{{ $looked ? '' : ' by the last shipment' }}</span>
                    @if ($h['drifted'] > 0)
                      <a class="warn" href="/ship/server/{{ $s->id }}">@mark('warn') {{ $h['drifted'] }} drifted</a>
                    @endif
                  @endif
                </td>
                <td class="wrap">
                  @if ($state?->problem)
                    <span class="stopped" title="{{ $state->problem }}">@mark('stop') does not answer since
                      {{ Carbon\CarbonImmutable::parse($state->problem_since)->diffForHumans(syntax: true) }}</span>
                  @elseif ($state?->compared_at)
                    <span title="{{ $state->compared_at }}">{{ Carbon\CarbonImmutable::parse($state->compared_at)->diffForHumans() }}</span>
                  @elseif ($s->kind !== \App\Models\ServerKind::Roots && $s->control !== null)
                    <span class="open">not yet</span>
                  @endif
                  @if ($state?->leases_problem)
                    <span class="stopped" title="{{ $state->leases_problem }}">leases not read</span>
                  @endif
                </td>
                <td class="wrap">{{ in_array($s->kind, App\Models\ServerKind::shipped(), true) ? App\Shipping\Destinations::when($s, $times) : '' }}</td>
                <td class="wrap">
                  @if (isset($running[$s->id]))
                    @mark('wait') {{ $running[$s->id]->total === null ? 'comparing' : count($running[$s->id]->steps) . ' of ' . $running[$s->id]->total }}
                  @elseif (isset($last[$s->id]))
                    <span title="{{ $last[$s->id]->started_at }}">{{ $last[$s->id]->started_at->diffForHumans() }}</span>,
                    {{ $last[$s->id]->state }}
                  @else
                    <span class="open">none from here</span>
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      @endif
    </section>
    @if ($steward)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Write down a server</h2>
          </header>
          <div class="pad">
            <x-act id="makeserver" action="make-server">
              <div class="pair">
                <x-field form="makeserver" name="name" label="Name" />
                <x-field form="makeserver" name="kind" label="Does" :options="\App\Models\ServerKind::choices()" />
              </div>
              <x-field form="makeserver" name="address" label="Address in the plan" mono />
              <x-field form="makeserver" name="endpoint" label="Endpoint of its packets" mono placeholder="127.0.0.1:5300" />
              <x-field form="makeserver" name="control" label="Control endpoint" mono />
              <x-field form="makeserver" name="token" label="Token" type="password" autocomplete="new-password"
                hint="kept encrypted, never shown again" />
              <x-field form="makeserver" name="site" label="Site" pick="site" blank="none" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makeserver" />
      </div>
    @endif
  </div>
</x-layout>
