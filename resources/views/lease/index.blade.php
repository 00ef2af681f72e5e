@php
  $may = auth()->user()->operatesAll();
  $in = \App\View\InRow::ofList($may, $list, at('lease'), $filter);
  $editing = $list->rows->firstWhere('id', $in->id);
@endphp
<x-layout title="Lease" verb="lease" work="makescope" does="make a scope">
  <header class="title">
    <h1>Scopes</h1>
    <span class="soft">{{ number_format($list->total) }}{{ $list->more ? '+' : '' }} {{ $list->total === 1 ? 'scope' : 'scopes' }}</span>
    @include('lease.nav', ['here' => 'Scopes'])
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <x-filter at="{{ at('lease') }}" :value="$filter" :words="$words" :misread="$misread" hint="start of a name; site: server: pair: vlan:">
        @if ($may)
          <a class="soft" href="{{ at('lease.without') }}">Subnets without a scope</a>
        @endif
        @if ($may)
          <span class="end row" data-needs-pick hidden>
            <x-all-match field="scopes" list="scopes" :$filter :total="$list->total" :shown="$list->rows->count()" />
            <b><span data-picked>0</span> picked</b>
          </span>
        @endif
      </x-filter>
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'No scopes yet' : 'No scope fits &quot;' . $filter . '&quot;'">A scope leases addresses of a
          subnet: ranges, a lease time, and the options every client needs.</x-empty>
      @else
        <x-table label="Scopes" data-worktable data-paged>
          <thead>
            <tr>
              @if ($may)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all on this page"></th>
              @endif
              <x-head :list="$list" by="name">Scope</x-head>
              <x-head :list="$list" by="subnet">Subnet</x-head>
              <x-head :list="$list" by="vlan" num>VLAN</x-head>
              <th>Leased of range</th>
              <th class="num">Reserved</th>
              <x-head :list="$list" by="time" num>Lease time</x-head>
              <th>Servers</th>
              <x-head :list="$list" by="stage">State</x-head>
              @if ($may)
                <th class="act"></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($list->rows as $s)
              @php
                $size = $s->size();
                $n = (int) ($leases[$s->id] ?? 0);
              @endphp
              <tr @class(['drafted' => isset($touched["scope:$s->id"]), 'editing' => $in->is($s->id)]) data-row="{{ $s->id }}"
                title="{{ $touched["scope:$s->id"] ?? '' }}">
                @if ($may)
                  <td class="pickcell"><input type="checkbox" class="pick" value="{{ $s->id }}" aria-label="Pick {{ $s->name }}"></td>
                @endif
                @if ($in->is($s->id))
                  <td><x-field bare form="changescope" name="name" label="Name" :value="$s->name" /></td>
                @else
                  <td class="name"><a href="{{ at('lease.scope', $s->id) }}">{{ $s->name }}</a></td>
                @endif
                <td class="mono">{{ $s->prefix->prefix() }}</td>
                <td class="num">{{ $s->prefix->vlan?->number }}</td>
                <td>
                  @if ($size > 0)
                    {{ \App\View\Draw::gauge((100 * $n) / $size, number_format($n) . ' of ' . \App\View\Words::many($size), $n / $size >= 0.8) }}
                  @else
                    <span class="soft">{{ $s->leasesWords() }}</span>
                  @endif
                </td>
                <td class="num">{{ $s->reservations->count() ?: '' }}</td>
                @if ($in->is($s->id))
                  <td class="num"><x-field bare form="changescope" name="leaseTime" label="Lease time" :value="$s->leaseTyped()" class="num"
                      autofocus /></td>
                @else
                  <td class="num">{{ $s->leaseWords() }}</td>
                @endif
                <td>{{ $s->placements->map(fn($p) => $p->server->name)->sort()->implode(', ') }}
                  @if ($s->pair)
                    <span class="soft">pair</span>
                  @endif</td>
                <td>
                  @if ($in->is($s->id))
                    <x-field bare form="changescope" name="stage" label="Stage" :value="$s->stage->value" :options="\App\Models\Stage::ofScopes()" />
                  @elseif ($s->stage === \App\Models\Stage::Planned)
                    <span class="open">planned</span>
                  @else
                    {{ \App\View\Draw::chain($chains[$s->id]) }}
                  @endif
                </td>
                @if ($may)
                  <x-row-act :$in :id="$s->id" :label="$s->name" />
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <x-pages :list="$list" what="scopes" />
      @endif
    </section>
    @if ($may)
      <div class="side">
        @if ($editing)
          <x-act id="changescope" action="change-scope" :seen="['scope:' . $editing->id => $editing->version]" :stay="$in->out()" data-inrow
            :data-next="$in->next()" hidden>
            <input type="hidden" name="scope" value="{{ $editing->id }}">
          </x-act>
          <div id="follows-changescope" class="of-row"></div>
        @endif
        <details class="panel">
          <summary class="bar-line"><b>Set an option in picked scopes</b> <span class="soft"><span data-picked>0</span> picked</span></summary>
          <div class="pad">
            <x-act id="optionmany" action="set-option" data-takes-picks="scopes[]">
              <x-field form="optionmany" name="code" label="Option" :options="$registered" value="42" />
              <x-field form="optionmany" name="value" label="Values, one a line; bytes as 0x…; blank removes it" rows="2" mono />
              <x-check form="optionmany" name="empty" label="empty on purpose: clients are sent none" />
            </x-act>
          </div>
        </details>
        <div id="follows-optionmany"></div>
        <section class="panel">
          <header>
            <h2>Make a scope</h2>
          </header>
          <div class="pad">
            <x-act id="makescope" action="make-scope" :data-look="$make !== null" :data-unseen="$make !== null">
              <x-field form="makescope" name="prefix" label="Subnet" pick="prefix" only="leasable"
                :value="$make?->id ?? ''" :shown="$make ? trim($make->prefix() . ' ' . $make->name) : ''" blank="prefix or name of a subnet" />
              <x-field form="makescope" name="name" label="Name" placeholder="that of the subnet" />
              <x-field form="makescope" name="ranges" label="Ranges, one a line" rows="2" mono placeholder="192.0.2.20-120"
                :value="$rule"
                hint="or a rule: all but the first 20, .20 to .200, the upper half; a share of one server: 192.0.2.20-99@tide1" />
              <x-check form="makescope" name="divide" label="divide between the servers, four fifths for the first" on />
              <x-field form="makescope" name="exclusions" label="Kept out of them" rows="1" mono />
              <div class="pair">
                <x-field form="makescope" name="leaseTime" label="Lease time" value="8h" />
                <x-field form="makescope" name="stage" label="Stage" :options="\App\Models\Stage::ofScopes()" />
              </div>
              <x-field
                form="makescope"
                name="servers[]"
                label="Servers"
                :options="$choices->servers(\App\Models\ServerKind::Dhcp)"
                :value="array_slice(array_keys($choices->servers(\App\Models\ServerKind::Dhcp)), 0, 2)"
                multiple
              />
              @if ($pairs !== [])
                <x-field form="makescope" name="pair" label="Or a pair" :options="$pairs" blank="none: the servers above" />
              @endif
              <x-field
                form="makescope"
                name="router"
                label="Router (option 3)"
                mono
                :placeholder="$make?->gateway ? (string) $make->gateway : 'the gateway of the subnet'"
              />
              <x-field form="makescope" name="dns" label="DNS servers" mono />
              <div class="pair">
                <x-field form="makescope" name="domain" label="Domain (15)" mono />
                <x-field form="makescope" name="search" label="Search list" mono />
              </div>
              <details @if ($make?->family === 6) open @endif>
                <summary>On an IPv6 subnet</summary>
                <x-field form="makescope" name="delegations" label="Pools delegated to routers, one a line" rows="1" mono
                  placeholder="2001:db8:40::/44 as /56" />
                <x-field form="makescope" name="preferred" label="Preferred life" placeholder="as long as the lease" />
                <x-check form="makescope" name="rapid" label="rapid commit: two messages for who asks for it" />
                <x-check form="makescope" name="autonomous" label="hosts make addresses of their own too" />
              </details>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makescope" />
      </div>
    @endif
  </div>
</x-layout>
