@php
  $may = auth()->user()->operatesAll();
@endphp
<x-layout title="Lease" verb="lease" work="makescope" does="make a scope">
  <header class="title">
    <h1>Scopes</h1>
    <span class="soft">{{ $scopes->count() }}{{ $more ? '+' : '' }} scopes</span>
    @unless (auth()->user()->isBound())
      <span class="end row"><a class="btn small" href="/lease/exchange">Exchange</a></span>
    @endunless
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <div class="bar-line">
        <form class="find" action="/lease"><label class="sr" for="filter">Filter</label><svg viewBox="0 0 16 16" fill="none"
            stroke="currentColor" stroke-width="1.5" aria-hidden="true">
            <circle cx="7" cy="7" r="4.500" />
            <path d="m10.500 10.500 4 4" />
          </svg><input type="search" id="filter" name="filter" value="{{ $filter }}" placeholder="start of a scope's name"><kbd
            aria-hidden="true">f</kbd></form>
      </div>
      @if ($scopes->isEmpty())
        <div class="empty">
          <h3>{{ $filter === '' ? 'No scopes yet' : 'No scope starts with "' . $filter . '"' }}</h3>
          <p class="soft">A scope leases addresses of a subnet: ranges, a lease time, and the options every client needs.</p>
        </div>
      @else
        <div class="scroll-x" tabindex="0" role="region" aria-label="Scopes">
          <table data-worktable>
            <thead>
              <tr>
                <th>Scope</th>
                <th>Subnet</th>
                <th class="num">VLAN</th>
                <th>Leased of range</th>
                <th class="num">Reserved</th>
                <th class="num">Lease time</th>
                <th>Servers</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($scopes as $s)
                @php
                  $size = $s->ranges->sum(fn($r) => $r->range()->size()->toInt());
                  $n = (int) ($leases[$s->id] ?? 0);
                @endphp
                <tr @class(['drafted' => isset($touched["scope:$s->id"])])>
                  <td class="name"><a href="/lease/scope/{{ $s->id }}">{{ $s->name }}</a></td>
                  <td class="mono">{{ $s->prefix->prefix() }}</td>
                  <td class="num">{{ $s->prefix->vlan?->number }}</td>
                  <td>
                    @if ($size > 0)
                      {{ \App\View\Draw::gauge((100 * $n) / $size, number_format($n) . ' of ' . number_format($size), $n / $size >= 0.8) }}
                    @else
                      <span class="soft">reservations only</span>
                    @endif
                  </td>
                  <td class="num">{{ $s->reservations->count() ?: '' }}</td>
                  <td class="num">{{ $s->leaseWords() }}</td>
                  <td>{{ $s->placements->map(fn($p) => $p->server->name)->sort()->implode(', ') }}</td>
                  <td>
                    @if ($s->stage === 'planned')
                      <span class="open">planned</span>
                      @else{{ \App\View\Draw::chain($chains[$s->id]) }}
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </div>
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Make a scope</h2>
          </header>
          <div class="pad">
            <x-act id="makescope" action="make-scope">
              <x-field form="makescope" name="prefix" label="Subnet" :options="$subnets" :value="$make?->id ?? ''" blank="choose one" />
              <x-field form="makescope" name="name" label="Name" placeholder="that of the subnet" />
              <x-field form="makescope" name="ranges" label="Ranges, one a line" rows="2" mono placeholder="192.0.2.20-120"
                hint="a share of one server: 192.0.2.20-99@tide1" />
              <x-check form="makescope" name="divide" label="divide between the servers, four fifths for the first" on />
              <x-field form="makescope" name="exclusions" label="Kept out of them" rows="1" mono />
              <div class="pair">
                <x-field form="makescope" name="leaseTime" label="Lease time" value="8h" />
                <x-field form="makescope" name="stage" label="Stage" :options="['live' => 'live', 'planned' => 'planned']" />
              </div>
              <x-field
                form="makescope"
                name="servers[]"
                label="Servers"
                :options="$choices->servers('dhcp')"
                :value="array_keys($choices->servers('dhcp'))"
                multiple
              />
              <x-field
                form="makescope"
                name="router"
                label="Router (option 3)"
                mono
                :placeholder="$make?->gateway ? (string) $make->gateway : 'the gateway of the subnet'"
              />
              <x-field form="makescope" name="dns" label="DNS servers (6)" mono />
              <div class="pair">
                <x-field form="makescope" name="domain" label="Domain (15)" mono />
                <x-field form="makescope" name="search" label="Search list (119)" mono />
              </div>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makescope" />
      </div>
    @endif
  </div>
</x-layout>
