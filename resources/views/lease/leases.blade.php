<x-layout :title="$scope ? 'Leases of ' . $scope->name : 'Leases'" verb="lease">
  @if ($scope)
    <nav aria-label="Above">
      <ol class="path">
        <li><a href="{{ at('lease') }}">Scopes</a></li>
        <li><a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a></li>
        <li aria-current="page">Leases</li>
      </ol>
    </nav>
  @endif
  <header class="title">
    <h1>Leases</h1>
    <span class="soft">
      as the servers told them{{ $read ? ', the oldest reading ' . Carbon\CarbonImmutable::parse($read)->diffForHumans() : '' }}
    </span>
    @include('lease.nav', ['here' => 'Leases'])
  </header>
  <div class="split @if ($reservable) two @endif">
    <section class="panel">
      <x-filter at="{{ at('lease.leases') }}" :value="$filter" :words="$words" :misread="$misread" :keep="['scope' => $scope?->id]"
        hint="address, prefix, MAC, name; state:any ends:2h server:tide1">
        @if ($reservable)
          <span class="end row" data-needs-pick hidden>
            <x-all-match field="leases" list="leases" :within="$scope?->id ?? ''" :$filter :total="$list->total" :shown="$list->rows->count()"
              form="reserveleases" />
            <b><span data-picked>0</span> picked</b>
            <form id="reserveleases" method="post" action="{{ at('act', 'reserve-leases') }}" hx-post="{{ at('act', 'reserve-leases') }}"
              hx-target="#follows-reserveleases">
              @csrf
              <input type="hidden" name="_form" value="reserveleases">
              <button class="btn small" name="then" value="preview">Reserve for their clients</button>
            </form>
          </span>
        @endif
      </x-filter>
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'No lease runs' : 'No lease fits the filter'">
          {{ $filter === '' ? 'Leases stand here when a server that leases a live scope was read.' : 'state:any shows those that ended too.' }}
        </x-empty>
      @else
        <x-table label="Leases" data-worktable data-paged>
          <thead>
            <tr>
              @if ($reservable)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all on this page"></th>
              @endif
              <x-head :list="$list" by="address">Address</x-head>
              <x-head :list="$list" by="mac">Client</x-head>
              <x-head :list="$list" by="name">Client's name</x-head>
              @unless ($scope)
                <th>Scope</th>
              @endunless
              <x-head :list="$list" by="server">Server</x-head>
              <x-head :list="$list" by="since">Since</x-head>
              <x-head :list="$list" by="ends">Until</x-head>
            </tr>
          </thead>
          <tbody>
            @foreach ($list->rows as $l)
              <tr>
                @if ($reservable)
                  <td class="pickcell">
                    <input type="checkbox" class="pick" form="reserveleases" name="leases[]" value="{{ $l->id }}"
                      aria-label="Pick {{ $l->given() }}">
                  </td>
                @endif
                <td class="mono"><a href="{{ at('lease.lease', $l->id) }}">{{ $l->given() }}</a></td>
                <td class="mono" title="{{ $l->clientWords() }}">{{ Str::limit($l->client() ?: 'nobody', 23) }}</td>
                <td>{{ $l->host_name }}</td>
                @unless ($scope)
                  <td class="name">
                    @if (isset($scopes[$l->scope_id]))
                      <a href="{{ at('lease.scope', $l->scope_id) }}">{{ $scopes[$l->scope_id] }}</a>
                    @endif
                  </td>
                @endunless
                <td>{{ $l->server->name }}</td>
                <td title="{{ $l->starts_at }}">{{ $l->starts_at->diffForHumans(['short' => true]) }}</td>
                <td title="{{ $l->ends_at }}">
                  {{ $l->stateWords() === 'active' ? $l->ends_at->diffForHumans(['parts' => 2, 'short' => true]) : $l->stateWords() }}
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <x-pages :list="$list" what="leases" />
      @endif
    </section>
    @if ($reservable)
      <div class="side">
        <div id="follows-reserveleases" class="follows-slot"></div>
        @if ($may)
          <details class="panel">
            <summary class="bar-line"><b>End picked leases on their servers</b></summary>
            <form class="form pad" method="post" action="{{ at('lease.leases.end') }}" data-takes-picks="leases[]">
              @csrf
              <p class="hint">A client is not told that its lease ended. It goes on using the address until it renews, at half of the lease
                time, and is refused then; until that moment the server may give the address to another.</p>
              <label class="tick"><input type="checkbox" name="sure" value="1">I know what it does to the clients</label>
              <div class="field"><span><label for="end-reason">Why</label></span><input id="end-reason" name="reason" maxlength="250"></div>
              <p class="row end"><button class="btn stop small">End them</button></p>
            </form>
          </details>
        @endif
      </div>
    @endif
  </div>
</x-layout>
