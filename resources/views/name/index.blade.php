@php
  $may = auth()->user()->does(\App\Models\Role::Operator) || auth()->user()->does(\App\Models\Role::Planner);
@endphp
<x-layout title="Name" verb="name" work="makezone" does="make a zone">
  <header class="title">
    <h1>Zones</h1>
    <span class="soft">{{ $zones->count() }}{{ $next ? '+' : '' }} zones, forward first</span>
    <span class="end row">
      @unless (auth()->user()->isBound())
        <a class="btn small" href="/name/sweep">Forward and reverse</a>
        <a class="btn small" href="/name/tree">Inside each other</a>
        <a class="btn small" href="/name/views">Views</a>
        <a class="btn small" href="/name/resolvers">Resolvers</a>
        <a class="btn small" href="/name/signing">Signing</a>
        <a class="btn small" href="/name/reverse">Reverse zones</a>
        <a class="btn small" href="/name/take-in">Take a zone in</a>
        @if (auth()->user()->operatesAll())
          <a class="btn small" href="/name/keys">Keys</a>
        @endif
        <a class="btn small" href="/name/lookup">Lookup</a>
      @endunless
    </span>
  </header>
  <div class="split two">
    <section class="panel">
      <div class="bar-line">
        <form class="find" action="/name"><label class="sr" for="filter">Filter</label><svg viewBox="0 0 16 16" fill="none"
            stroke="currentColor" stroke-width="1.5" aria-hidden="true">
            <circle cx="7" cy="7" r="4.500" />
            <path d="m10.500 10.500 4 4" />
          </svg><input type="search" id="filter" name="filter" value="{{ $filter }}" placeholder="start of a zone's name"><kbd
            aria-hidden="true">f</kbd></form>
      </div>
      @if ($zones->isEmpty())
        <div class="empty">
          <h3>{{ $filter === '' ? 'No zones yet' : 'No zone starts with "' . $filter . '"' }}</h3>
          <p class="soft">A zone is made with its SOA, its name servers and their addresses. For a reverse zone write the prefix.</p>
        </div>
      @else
        <x-table label="Zones" data-worktable>
          <thead>
            <tr>
              <th>Zone</th>
              <th>View</th>
              <th>Answers</th>
              <th class="num">Serial</th>
              <th>Servers</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($zones as $z)
              <tr @class(['drafted' => isset($touched["zone:$z->id"])]) title="{{ $touched["zone:$z->id"] ?? '' }}">
                <td class="name mono"><a href="/name/zone/{{ $z->id }}">{{ $z->title() }}</a></td>
                <td>{{ $z->view->name }}</td>
                <td>
                  @if ($z->silenced)
                    <span class="stopped">@mark('stop') silenced</span>
                  @else
                    yes
                  @endif
                </td>
                <td class="num mono">{{ $z->serial ?: '' }}@unless ($z->serial)
                  <span class="open">none</span>
                @endunless
              </td>
              <td>{{ $z->placements->map(fn($p) => $p->server->name)->sort()->implode(', ') }}</td>
              <td>{{ \App\View\Draw::chain(\App\Shipping\Chain::ofSet($z, isset($waiting[$z->id]), $drifts[$z->id] ?? [])) }}@if (isset($waiting[$z->id]))
                  <span class="soft">{{ $waiting[$z->id] }} changes wait</span>
                @endif
              </td>
            </tr>
          @endforeach
          </tbody>
        </x-table>
      @if ($next)
        <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $next]) }}">Further, from {{ $next }}</a></p>
      @endif
    @endif
  </section>
  <div class="side">
    @if ($may)
      <section class="panel">
        <header>
          <h2>Make a zone</h2>
        </header>
        <div class="pad">
          <x-act id="makezone" action="make-zone">
            <x-field form="makezone" name="name" label="Name, or a prefix for its reverse zone" mono :value="$make"
              placeholder="ops.kittiwake.example or 10.36.0.0/16" />
            @if ($choices->views() === [])
              <p class="hint">There is no view yet; make one below first.</p>
            @endif
            <x-field form="makezone" name="view" label="View" :options="$choices->views()" />
            <x-field
              form="makezone"
              name="servers[]"
              label="DNS servers, the primary first"
              :options="$choices->servers(\App\Models\ServerKind::Dns)"
              :value="array_keys($choices->servers(\App\Models\ServerKind::Dns))"
              multiple
            />
            <x-field form="makezone" name="mailbox" label="Mailbox" mono placeholder="hostmaster of the zone" />
            <details class="more">
              <summary>Timers, name servers</summary>
              <div class="form">
                <div class="pair">
                  <x-field form="makezone" name="refresh" label="Refresh, s" value="7200" />
                  <x-field form="makezone" name="retry" label="Retry, s" value="900" />
                </div>
                <div class="pair">
                  <x-field form="makezone" name="expire" label="Expire, s" value="1209600" />
                  <x-field form="makezone" name="negativeTtl" label="Negative TTL, s" value="300" />
                </div>
                <x-field form="makezone" name="defaultTtl" label="Default TTL, s" value="3600" />
                <x-field form="makezone" name="nameServers" label="Name servers by name" mono placeholder="the servers' own" />
              </div>
            </details>
          </x-act>
        </div>
      </section>
      <x-follows-slot form="makezone" />
      <details class="panel">
        <summary class="bar-line"><b>Make a view</b></summary>
        <div class="pad">
          <x-act id="makeview" action="make-view">
            <x-field form="makeview" name="name" label="Name" />
            <x-field form="makeview" name="clients" label="Client prefixes it answers" rows="3" mono /></x-act>
        </div>
      </details>
      <div id="follows-makeview"></div>
    @endif
  </div>
</div>
</x-layout>
