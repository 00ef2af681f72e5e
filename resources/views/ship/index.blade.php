@php
  $steward = auth()->user()->does(App\Models\Role::Steward);
  $in = \App\View\InRow::ofList($steward, $list, at('ship'), $filter);
  $editing = $list->rows->find($in->id);
  $here = request()->fullUrlWithQuery(['edit' => null]);
@endphp
<x-layout title="Ship" verb="ship" work="makeserver" does="write a server down">
  <header class="title">
    <h1>Servers</h1>
    <span class="soft">{{ $waits === 0
        ? 'no record change waits'
        : number_format($waits) . ($waits === 1 ? ' record change waits' : ' record changes wait') . ' to be shipped' }}</span>
    <span class="end row">
      @if ($may && $list->rows->isNotEmpty())
        <form method="post" action="{{ at('ship.all') }}">@csrf
          <button class="btn small">Ship to all that differ</button>
        </form>
      @endif
      <a class="btn small" href="{{ at('ship.times') }}">Times</a>
      <a class="btn small" href="{{ at('ship.outside') }}">Systems outside</a>
      <a class="btn small" href="{{ at('ship.drafts') }}">Drafts</a>
      @if (auth()->user()->does(\App\Models\Role::Steward))
        <a class="btn small" href="{{ at('ship.hooks') }}">Hooks</a>
      @endif
      <a class="btn small" href="{{ at('ship.draft.mine') }}">My draft</a>
    </span>
  </header>
  <div @class(['split two' => $editing, 'stack' => !$editing])>
    <section class="panel">
      <x-filter at="{{ at('ship') }}" :value="$filter" :$words :$misread hint="start of a name; site: does: is:" />
      <div id="servers"
        @if ($running->isNotEmpty() && !$editing) hx-get="{{ $here }}" hx-trigger="every 1s" hx-select="#servers" hx-swap="outerHTML" @endif>
      @if ($list->rows->isEmpty())
        <x-empty :title="$filter === '' ? 'No servers yet' : 'No server fits &quot;' . $filter . '&quot;'">A server has an address in the plan
          and an endpoint where it is reached. A steward writes it down.</x-empty>
      @else
        <x-table label="Servers" data-worktable data-paged>
          <thead>
            <tr>
              <x-head :$list by="name">Server</x-head>
              <x-head :$list by="kind">Does</x-head>
              <x-head :$list by="address">Address</x-head>
              <x-head :$list by="site">Site</x-head>
              <th>Holds</th>
              <th>In effect</th>
              <th>Looked at</th>
              <th>Shipped</th>
              <th>Last shipment</th>
              @if ($steward)
                <th class="act"></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($list->rows as $s)
              @php
                $h = $standing[$s->id] ?? null;
                $state = $states[$s->id] ?? null;
              @endphp
              <tr @class(['editing' => $in->is($s->id)]) data-row="{{ $s->id }}">
                <td class="name">
                  @if ($in->is($s->id))
                    <x-field bare form="changeserver" name="name" label="Name" :value="$s->name" autofocus />
                  @else
                    <a href="{{ at('ship.server', $s->id) }}">{{ $s->name }}</a>
                  @endif
                  @if ($s->held)
                    <span class="stopped">@mark('stop') held</span>
                  @endif
                </td>
                <td class="wrap">{{ $s->does() }}</td>
                <td class="mono">{{ $s->address }}</td>
                <td>
                  @if ($in->is($s->id))
                    <x-field bare form="changeserver" name="site" label="Site" pick="site" none="-" blank="none" :value="$s->site_id ?? '-'"
                      :shown="$s->site->name ?? ''" />
                  @else
                    {{ $s->site?->name }}
                  @endif
                </td>
                <td>{{ $h ? $h['holds'] . ' ' . Str::plural($s->kind === \App\Models\ServerKind::Dhcp ? 'scope' : 'zone', $h['holds']) : '' }}</td>
                <td>
                  @if ($h)
                    @php
                      $looked = $state?->compared_at !== null && !$state->problem;
                    @endphp
                    <span class="chain">@mark($looked && $h['inEffect'] >= $h['holds'] ? 'ok' : 'wait'){{ $h['inEffect'] }} of
                      {{ $h['holds'] }}{{ $looked ? '' : ' by the last shipment' }}</span>
                    @if ($h['seen'] && $looked)
                      <span class="hint">as of {{ Carbon\CarbonImmutable::parse($h['seen'])->diffForHumans() }}</span>
                    @endif
                    @if ($h['drifted'] > 0)
                      <a class="warn" href="{{ at('ship.server', $s->id) }}">@mark('warn') {{ $h['drifted'] }} drifted</a>
                    @endif
                  @endif
                </td>
                <td class="wrap">
                  @if ($state?->problem)
                    <span class="stopped" title="{{ $state->problem }}">@mark('stop') does not answer since
                      {{ Carbon\CarbonImmutable::parse($state->problem_since)->diffForHumans(syntax: true) }}</span>
                  @elseif ($state?->compared_at)
                    <span title="{{ $state->compared_at }}">{{ Carbon\CarbonImmutable::parse($state->compared_at)->diffForHumans() }}</span>
                  @elseif ($s->isReached())
                    <span class="open">not yet</span>
                  @endif
                  @if ($state?->leases_problem)
                    <span class="stopped" title="{{ $state->leases_problem }}">leases not read</span>
                  @endif
                </td>
                <td class="wrap">{{ $s->isReached() ? App\Shipping\Destinations::when($s, $times) : '' }}</td>
                <td class="wrap">
                  @if (isset($running[$s->id]))
                    @mark('wait') {{ $running[$s->id]->total === null ? 'comparing' : count($running[$s->id]->steps) . ' of ' . $running[$s->id]->total }}
                  @elseif (isset($last[$s->id]))
                    <span title="{{ $last[$s->id]->started_at }}">{{ $last[$s->id]->started_at->diffForHumans() }}</span>,
                    {{ $last[$s->id]->state }}
                  @else
                    <span class="open">none</span>
                  @endif
                </td>
                @if ($steward)
                  <x-row-act :$in :id="$s->id" :label="$s->name" tab />
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <x-pages :$list what="servers" />
      @endif
      </div>
    </section>
    @if ($editing)
      <div class="side">
        <x-act id="changeserver" action="change-server" :seen="['server:' . $editing->id => $editing->version]" :stay="$in->out()" data-inrow
          :data-next="$in->next()" hidden>
          <input type="hidden" name="server" value="{{ $editing->id }}">
        </x-act>
        <div id="follows-changeserver" class="of-row"></div>
      </div>
    @elseif ($steward)
      <details class="panel" @if ($list->total === 0 || old('_form') === 'makeserver') open @endif>
        <summary class="bar-line"><b>Write down a server</b></summary>
        <div class="pad split two">
          <x-act id="makeserver" action="make-server">
            <div class="pair">
              <x-field form="makeserver" name="name" label="Name" />
              <x-field form="makeserver" name="kind" label="Does" :options="\App\Models\ServerKind::choices()" />
            </div>
            <div class="pair">
              <x-field form="makeserver" name="address" label="Address in the plan" mono />
              <x-field form="makeserver" name="site" label="Site" pick="site" blank="none" />
            </div>
            <div class="pair">
              <x-field form="makeserver" name="endpoint" label="Endpoint of its packets" mono placeholder="127.0.0.1:5300" />
              <x-field form="makeserver" name="control" label="Control endpoint, or agent" mono />
            </div>
            <div class="pair">
              <x-field form="makeserver" name="speaks" label="Reached by" :options="App\Models\Speaks::choices()" />
              <x-field form="makeserver" name="key" label="Key that signs it" :options="$keys" blank="none: by its control endpoint"
                hint="by the standards; made under Name, Keys" />
            </div>
            <x-field form="makeserver" name="catalog" label="Catalog" mono placeholder="catalog.kittiwake.example"
              hint="where Harbor Post itself hands zones out: the list that servers read (RFC 9432)" />
            <x-field form="makeserver" name="token" label="Token" type="password" autocomplete="new-password"
              hint="kept encrypted, never shown again" />
          </x-act>
          <div class="side">
            <x-follows-slot form="makeserver" />
          </div>
        </div>
      </details>
    @endif
  </div>
</x-layout>
