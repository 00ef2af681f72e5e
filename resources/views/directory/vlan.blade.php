<x-layout :title="'VLAN ' . $vlan->line()" verb="directory" work="editvlan" does="edit the VLAN" edit="editvlan">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.list', 'vlans') }}">VLANs</a></li>
      <li aria-current="page">{{ $vlan->line() }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>VLAN {{ $vlan->number }}</h1>
    <span class="mono">{{ $vlan->name }}</span>
    <span
      class="soft">
      {{ implode(', ', array_filter([$vlan->domain->name, $vlan->domain->site?->name])) }}{{ $vlan->description ? '; ' . $vlan->description : '' }}
      {{ $owner === '' ? '' : "; owner: $owner" }}
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Sheet</h2>
          <span class="soft">each place where the VLAN has to be right</span>
        </header>
        <table>
          <tbody>
            @foreach ($sheet as $column => $cell)
              <tr>
                <th scope="row">{{ \App\Queries\VlanSheet::COLUMNS[$column] }}</th>
                <td class="wrap">{{ \App\View\Draw::cell($cell) }}</td>
                <td>
                  @if ($may && $cell['act'] && str_starts_with($cell['act'][0], '/'))
                    <a class="btn small" href="{{ $cell['act'][0] . '?' . http_build_query($cell['act'][1]) }}">{{ ucfirst($cell['act'][2]) }}</a>
                  @elseif($may && $cell['act'])
                    <form id="mend-{{ $column }}" method="post" action="{{ at('act', $cell['act'][0]) }}">@csrf
                      <input type="hidden" name="_form" value="mend-{{ $column }}">
                      <input type="hidden" name="stay" value="{{ at('directory.vlan', $vlan->id) }}">
                      @foreach ($cell['act'][1] as $k => $v)
                        <input type="hidden" name="{{ $k }}" value="{{ $v }}">
                      @endforeach
                      <button class="btn small" name="then" value="preview">{{ ucfirst($cell['act'][2]) }}</button>
                    </form>
                  @endif
                </td>
              </tr>
            @endforeach
          </tbody>
        </table>
      </section>
      <section class="panel" id="reach">
        <header>
          <h2>What its clients reach</h2>
          @unless (auth()->user()->isBound())
            <span class="end row"><a class="btn small" href="{{ at('directory.reach') }}?domain={{ $vlan->domain_id }}&amp;from={{ $vlan->id }}#intent">Say
                more</a></span>
          @endunless
        </header>
        @if ($needs !== [])
          <x-table label="What its clients need">
            <thead>
              <tr>
                <th>They need</th>
                <th>As</th>
                <th>By the rules</th>
                <th>By the filter on the switch</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($needs as $n)
                <tr>
                  <td class="mono">{{ $n['address'] }}</td>
                  <td>{{ $n['resolver'] ? 'resolver' : 'lease server' }}</td>
                  <td class="wrap">
                    @mark($n['allows'] ? 'ok' : 'warn')
                    {{ $n['allows'] ? 'open' : 'shut: left open in the filter all the same' }}{{ $n['times'] === [] ? '' : '; ' . implode('; ', $n['times']) }}
                  </td>
                  <td>
                    @if ($n['filtered'] === null)
                      <span class="open">not read</span>
                    @else
                      @mark($n['filtered'] ? 'stop' : 'ok') {{ $n['filtered'] ? 'shut' : 'open' }}
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
        <ul class="lines pad">
          @forelse ($rules as $r)
            <li>{{ $r->line() }}{{ $r->why === '' ? '' : ": $r->why" }}</li>
          @empty
            <li class="soft">No rule speaks of it: it is meant to reach everything.</li>
          @endforelse
        </ul>
      </section>
      <section class="panel">
        <header>
          <h2>Subnets</h2>
        </header>
        @if ($prefixes->isEmpty())
          <div class="empty">
            <h3>No subnet uses it</h3>
          </div>
        @else
          @include('plan.rows', ['rows' => $prefixes->all(), 'next' => null, 'pick' => false])
        @endif
      </section>
      @if ($others->isNotEmpty())
        <section class="panel">
          <header>
            <h2>The same number elsewhere</h2>
          </header>
          <table>
            <tbody>
              @foreach ($others as $o)
                <tr>
                  <td class="name"><a href="{{ at('directory.vlan', $o->id) }}">{{ $o->name }}</a></td>
                  <td>{{ $o->domain->name }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </section>
      @endif
    </div>
    <div class="side">
      @if ($may)
        <section class="panel">
          <header>
            <h2>Edit</h2>
          </header>
          <div class="pad">
            <x-act id="editvlan" action="change-vlan" :seen="['VLAN:' . $vlan->id => $vlan->version]"><input type="hidden" name="vlan" value="{{ $vlan->id }}">
              <div class="pair">
                <x-field form="editvlan" name="number" label="Number" :value="$vlan->number" inputmode="numeric" />
                <x-field form="editvlan" name="name" label="Name on the switch" :value="$vlan->name" />
              </div>
              <x-field form="editvlan" name="domain" label="Layer-2 domain" :options="$choices->domains()" :value="$vlan->domain_id" />
              <x-field form="editvlan" name="description" label="Description" :value="$vlan->description" />
              <x-field form="editvlan" name="tenant" label="Owner" :options="['-' => 'that of its site'] + $choices->tenants()"
                :value="$vlan->tenant_id ?? '-'" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="editvlan" />
        <section class="panel" id="assign">
          <header>
            <h2>Give it to subnets</h2>
          </header>
          <div class="pad">
            @if ($free->isEmpty())
              <p class="open">every subnet {{ $vlan->domain->site ? 'of ' . $vlan->domain->site->name : '' }} has a VLAN</p>
            @else
              <x-act id="assignform" action="change-prefix" :stay="at('directory.vlan', $vlan->id)"><input type="hidden" name="vlan" value="{{ $vlan->id }}">
                <fieldset class="field">
                  <legend>Subnets without a VLAN</legend>
                  <div class="ticks">
                    @foreach ($free as $p)
                      <label class="tick"><input type="checkbox" name="prefixes[]" value="{{ $p->id }}"><span>{{ $p->name }} <span
                            class="mono">{{ $p->prefix() }}</span></span></label>
                    @endforeach
                  </div>
                </fieldset>
              </x-act>
            @endif
          </div>
        </section>
        <div id="follows-assignform"></div>
        @if ($prefixes->isEmpty())
          <x-cut id="cut" action="merge-vlan" :input="['vlan' => $vlan->id]" label="Remove the VLAN" class="row end" />
        @endif
      @endif
    </div>
  </div>
</x-layout>
