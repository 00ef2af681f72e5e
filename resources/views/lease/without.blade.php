<x-layout title="Subnets without a scope" verb="lease" :work="$may ? 'makescopes' : null" does="make scopes">
  <header class="title">
    <h1>Subnets without a scope</h1>
    <span class="soft">{{ number_format($list->total) }}{{ $list->more ? '+' : '' }}, in IPv4</span>
    @include('lease.nav', ['here' => 'Scopes'])
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <x-filter at="{{ at('lease.without') }}" :value="$filter" :words="$words" hint="start of a name; site: vlan: is:live">
        @if ($may)
          <span class="end row" data-needs-pick hidden>
            <x-all-match field="prefixes" list="without" :$filter :total="$list->total" :shown="$list->rows->count()" />
            <b><span data-picked>0</span> picked</b>
          </span>
        @endif
      </x-filter>
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'Every subnet has a scope' : 'No subnet without a scope fits the filter'">A link whose clients are
          all written down by hand needs none.</x-empty>
      @else
        <x-table label="Subnets without a scope" data-worktable data-paged>
          <thead>
            <tr>
              @if ($may)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all on this page"></th>
              @endif
              <x-head :list="$list" by="subnet">Subnet</x-head>
              <x-head :list="$list" by="name">Name</x-head>
              <th>Site</th>
              <x-head :list="$list" by="vlan" num>VLAN</x-head>
              <th>Gateway</th>
              <th class="num">Hosts</th>
              <th>Stage</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($list->rows as $p)
              <tr>
                @if ($may)
                  <td class="pickcell"><input type="checkbox" class="pick" value="{{ $p->id }}" aria-label="Pick {{ $p->prefix() }}"></td>
                @endif
                <td class="mono"><a href="{{ at('plan.prefix', $p->id) }}">{{ $p->prefix() }}</a></td>
                <td class="name">{{ $p->name }}</td>
                <td>{{ $p->site?->name }}</td>
                <td class="num">{{ $p->vlan?->number }}</td>
                <td class="mono">{{ $p->gateway ?? '' }}</td>
                <td class="num">{{ number_format($p->used) }}</td>
                <td>{{ $p->stage->value }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <x-pages :list="$list" what="subnets" />
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Make scopes on picked subnets</h2>
            <span class="soft"><span data-picked>0</span> picked</span>
          </header>
          <div class="pad">
            <x-act id="makescopes" action="make-scopes" data-takes-picks="prefixes[]">
              <x-field form="makescopes" name="rule" label="Ranges by rule" value="all but the first 20" list="rules" />
              <datalist id="rules">
                @foreach (\HarborPost\Core\Planning\RangeRule::EXAMPLES as $example)
                  <option value="{{ $example }}"></option>
                @endforeach
              </datalist>
              <div class="pair">
                <x-field form="makescopes" name="leaseTime" label="Lease time" value="8h" />
                <x-field form="makescopes" name="stage" label="Stage" :options="\App\Models\Stage::ofScopes()" />
              </div>
              @if ($pairs !== [])
                <x-field form="makescopes" name="pair" label="Pair" :options="$pairs" blank="none: the servers below" />
              @endif
              <x-field form="makescopes" name="servers[]" label="Servers" :options="$choices->servers(\App\Models\ServerKind::Dhcp)"
                :value="array_slice(array_keys($choices->servers(\App\Models\ServerKind::Dhcp)), 0, 2)" multiple />
              <input type="hidden" name="divide" value="0">
              <x-check form="makescopes" name="divide" label="divide between the servers, four fifths for the first" on />
              <p class="hint">A number with a dot before it counts from the network's address. The gateway is left out, wherever it stands.</p>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makescopes" />
      </div>
    @endif
  </div>
</x-layout>
