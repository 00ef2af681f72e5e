@php
  $in = \App\View\InRow::ofList($may, $list, at('name'), $filter);
  $editing = $list->rows->firstWhere('id', $in->id);
  // A row has no room for the choice of servers: it makes zones where they usually are.
  $adds = $may && $in->id === null && $choices->usualForZones() !== [] && $choices->views() !== [];
@endphp
<x-layout title="Name" verb="name" work="makezone" does="make a zone">
  <header class="title">
    <h1>Zones</h1>
    <span class="soft">{{ number_format($list->total) }}{{ $list->more ? '+' : '' }} {{ $list->total === 1 ? 'zone' : 'zones' }}</span>
    <span class="end row">
      @unless (auth()->user()->isBound())
        <a class="btn small" href="{{ at('name.sweep') }}">Forward and reverse</a>
        <a class="btn small" href="{{ at('name.tree') }}">Inside each other</a>
        <a class="btn small" href="{{ at('name.views') }}">Views</a>
        <a class="btn small" href="{{ at('name.resolvers') }}">Resolvers</a>
        <a class="btn small" href="{{ at('name.signing') }}">Signing</a>
        <a class="btn small" href="{{ at('name.reverse') }}">Reverse zones</a>
        <a class="btn small" href="{{ at('name.take-in') }}">Take a zone in</a>
        @if (auth()->user()->operatesAll())
          <a class="btn small" href="{{ at('name.keys') }}">Keys</a>
        @endif
        <a class="btn small" href="{{ at('name.lookup') }}">Lookup</a>
      @endunless
    </span>
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <x-filter at="{{ at('name') }}" :value="$filter" :$words :$misread hint="part of a name; view: server: is:" />
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'No zones yet' : 'No zone fits &quot;' . $filter . '&quot;'">A zone is made with its SOA, its name
          servers and their addresses. For a reverse zone write the prefix.</x-empty>
      @else
        <x-table label="Zones" data-worktable data-paged>
          <thead>
            <tr>
              <x-head :$list by="zone">Zone</x-head>
              <x-head :$list by="view">View</x-head>
              <x-head :$list by="answers">Answers</x-head>
              <x-head :$list by="ttl" num>Default TTL</x-head>
              <x-head :$list by="serial" num>Serial</x-head>
              <th>Servers</th>
              <th>State</th>
              @if ($may)
                <th class="act"></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($list->rows as $z)
              <tr @class(['drafted' => isset($touched["zone:$z->id"]), 'editing' => $in->is($z->id)]) data-row="{{ $z->id }}"
                title="{{ $touched["zone:$z->id"] ?? '' }}">
                <td class="name mono"><a href="{{ at('name.zone', $z->id) }}">{{ $z->title() }}</a></td>
                <td>{{ $z->view->name }}</td>
                @if ($in->is($z->id))
                  <td><x-field bare form="changezone" name="silenced" label="Answers" :value="$z->silenced ? '1' : '0'"
                      :options="['0' => 'yes', '1' => 'silenced']" /></td>
                  <td class="num"><x-field bare form="changezone" name="defaultTtl" label="Default TTL"
                      :value="\HarborPost\Core\Dns\Ttl::of($z->default_ttl)->short()" class="num" autofocus /></td>
                @else
                  <td>
                    @if ($z->silenced)
                      <span class="stopped">@mark('stop') silenced</span>
                    @else
                      yes
                    @endif
                  </td>
                  <td class="num">{{ \HarborPost\Core\Dns\Ttl::of($z->default_ttl)->short() }}</td>
                @endif
                <td class="num mono">
                  @if ($z->serial)
                    {{ $z->serial }}
                  @else
                    <span class="open">none</span>
                  @endif
                </td>
                <td>{{ $z->placements->map(fn($p) => $p->server->name)->sort()->implode(', ') }}</td>
                <td>
                  {{ \App\View\Draw::chain(\App\Shipping\Chain::ofSet($z, isset($waiting[$z->id]), $drifts[$z->id] ?? [])) }}
                  @if (isset($waiting[$z->id]))
                    <span class="soft" title="changes that wait">({{ $waiting[$z->id] }})</span>
                  @endif
                </td>
                @if ($may)
                  <x-row-act :$in :id="$z->id" :label="$z->title()" tab />
                @endif
              </tr>
            @endforeach
          </tbody>
          @if ($adds)
            <tfoot>
              <tr class="addrow">
                <td><x-field bare form="rowadd" name="name" label="Name of a new zone, or a prefix for its reverse zone" mono
                    placeholder="name or prefix" /></td>
                <td><x-field bare form="rowadd" name="view" label="View of a new zone" :options="$choices->views()" /></td>
                <td></td>
                <td class="num"><x-field bare form="rowadd" name="defaultTtl" label="Default TTL of a new zone" placeholder="1h" class="num" /></td>
                <td></td>
                <td>{{ implode(', ', array_intersect_key($choices->servers(\App\Models\ServerKind::Dns), array_flip($choices->usualForZones()))) }}</td>
                <td colspan="2"><button class="btn small" form="rowadd" name="then" value="preview">Make</button></td>
              </tr>
            </tfoot>
          @endif
        </x-table>
        <x-pages :$list what="zones" />
      @endif
    </section>
  <div class="side">
    @if ($adds && $list->rows->isNotEmpty())
      <x-row-adds :$in action="make-zone">
        @foreach ($choices->usualForZones() as $server)
          <input type="hidden" name="servers[]" value="{{ $server }}">
        @endforeach
      </x-row-adds>
    @endif
    @if ($editing)
      <x-act id="changezone" action="change-zone" :seen="['zone:' . $editing->id => $editing->version]" :stay="$in->out()" data-inrow
        :data-next="$in->next()" hidden>
        <input type="hidden" name="zone" value="{{ $editing->id }}">
      </x-act>
      <div id="follows-changezone" class="of-row"></div>
    @endif
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
              :value="$choices->usualForZones()"
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
